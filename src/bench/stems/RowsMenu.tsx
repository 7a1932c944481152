'use client';

import { Check } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { MENU_ITEM, MENU_RULE, PointMenu } from '@/ui/PointMenu';
import type { MenuPlace } from '@/ui/menu-place';
import { useBench, useBenchStore } from '../store/context';

/** Which rows there are, and what their keys mean. */
export default function RowsMenu({ at, onClose }: { at: MenuPlace; onClose: () => void }) {
  const { getState } = useBenchStore();
  const hideEmpty = useBench((s) => s.view.hideEmpty);
  return (
    <PointMenu at={at} onClose={onClose} label="Rows">
      <DropdownMenu.Item className={MENU_ITEM} onSelect={() => getState().setUi({ dialog: 'add-row' })}>
        Add row …
      </DropdownMenu.Item>
      <DropdownMenu.CheckboxItem
        className={MENU_ITEM}
        checked={hideEmpty}
        onCheckedChange={(on) => getState().setView({ hideEmpty: on === true })}
      >
        Hide empty rows
        <DropdownMenu.ItemIndicator>
          <Check size={14} />
        </DropdownMenu.ItemIndicator>
      </DropdownMenu.CheckboxItem>
      <DropdownMenu.Separator className={MENU_RULE} />
      <DropdownMenu.Item className={MENU_ITEM} onSelect={() => getState().setUi({ dialog: 'kit' })}>
        Drum map …
      </DropdownMenu.Item>
      <DropdownMenu.Item className={MENU_ITEM} onSelect={() => getState().setUi({ dialog: 'target' })}>
        Output map …
      </DropdownMenu.Item>
    </PointMenu>
  );
}
