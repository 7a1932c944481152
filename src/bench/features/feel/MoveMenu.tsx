'use client';

import { DropdownMenu } from 'radix-ui';
import type { MenuPlace } from '@/ui/menu-place';
import { MENU_ITEM, PointMenu } from '@/ui/PointMenu';
import { useBenchStore } from '../../store/context';
import { moveActions } from './move-actions';

/** What can be done to a move as a whole, under the pointer. */
export default function MoveMenu({ at, index, label, onClose }: { at: MenuPlace; index: number; label: string; onClose: () => void }) {
  const store = useBenchStore();
  return (
    <PointMenu at={at} onClose={onClose} label={`The ${label}`}>
      {moveActions(store, index, label).map(({ id, text, disabled, run }) => (
        <DropdownMenu.Item key={id} className={MENU_ITEM} disabled={disabled} onSelect={run}>
          {text}
        </DropdownMenu.Item>
      ))}
    </PointMenu>
  );
}
