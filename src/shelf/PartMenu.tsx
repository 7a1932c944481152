'use client';

import { DropdownMenu } from 'radix-ui';
import type { MenuPlace } from '@/ui/menu-place';
import { MENU_ITEM, PointMenu } from '@/ui/PointMenu';

interface Props {
  at: MenuPlace;
  name: string;
  onClose: () => void;
  onOpen: () => void;
  onCopy: () => void;
  onRemove: () => void;
}

/** What can be done to a part from the Shelf. */
export default function PartMenu({ at, name, onClose, onOpen, onCopy, onRemove }: Props) {
  return (
    <PointMenu at={at} onClose={onClose} label={name}>
      <DropdownMenu.Item className={MENU_ITEM} onSelect={onOpen}>
        Open {name}
      </DropdownMenu.Item>
      <DropdownMenu.Item className={MENU_ITEM} onSelect={onCopy}>
        Make a copy of it
      </DropdownMenu.Item>
      <DropdownMenu.Item className={MENU_ITEM} onSelect={onRemove}>
        Delete it
      </DropdownMenu.Item>
    </PointMenu>
  );
}
