'use client';

import { DropdownMenu } from 'radix-ui';
import type { MenuPlace } from '@/ui/menu-place';
import { MENU_ITEM, PointMenu } from '@/ui/PointMenu';

interface Props {
  at: MenuPlace;
  name: string;
  onClose: () => void;
  onOpen: () => void;
  onHear: () => void;
  onName: () => void;
  onCopy: () => void;
  onTags: () => void;
  onRemove: () => void;
}

/** What can be done to a part from the Shelf. */
export default function PartMenu({ at, name, onClose, onOpen, onHear, onName, onCopy, onTags, onRemove }: Props) {
  const items: [string, () => void][] = [
    [`Open ${name}`, onOpen],
    ['Play or stop', onHear],
    ['Rename', onName],
    ['Duplicate', onCopy],
    ['Tags …', onTags],
    ['Delete', onRemove],
  ];
  return (
    <PointMenu at={at} onClose={onClose} label={name}>
      {items.map(([text, run]) => (
        <DropdownMenu.Item key={text} className={MENU_ITEM} onSelect={run}>
          {text}
        </DropdownMenu.Item>
      ))}
    </PointMenu>
  );
}
