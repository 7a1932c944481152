'use client';

import { EllipsisVertical } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { moveRow, removeRow } from '@/core/part/commands/rows';
import { setRow } from '@/core/part/commands/settings';
import type { Row } from '@/core/part/part';
import { MENU, MENU_ITEM, MENU_RULE } from '@/ui/menu';
import { invertRow, shiftRow } from '../actions/arrange';
import { useBenchStore } from '../store/context';

interface Props {
  row: Row;
  label: string;
  onEdit: (what: 'name' | 'dialog') => void;
}

/** What can be done to a row as a whole. */
export function RowMenu({ row, label, onEdit }: Props) {
  const store = useBenchStore();
  const { getState } = store;
  const move = (by: number) => {
    const { rows } = getState().part;
    getState().run(`Move the row ${label.toLowerCase()}`, (p) => moveRow(p, row.voice, rows.findIndex((r) => r.voice === row.voice) + by));
  };
  const ofRow = () => getState().part.hits.filter((h) => h.voice === row.voice);
  const item = (text: string, run: () => void) => (
    <DropdownMenu.Item className={MENU_ITEM} onSelect={run}>
      {text}
    </DropdownMenu.Item>
  );
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger aria-label={`More about ${label}`} className="mr-1 flex h-6 items-center rounded px-0.5 text-faint hover:bg-sunk">
        <EllipsisVertical size={14} />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className={MENU} align="start" onCloseAutoFocus={(e) => e.preventDefault()}>
          {item('Select all of it', () => getState().select(ofRow().map((h) => h.id)))}
          {item('Rename', () => onEdit('name'))}
          {item('Key, voice, merge …', () => onEdit('dialog'))}
          <DropdownMenu.Separator className={MENU_RULE} />
          {item('Shift a step left', () => shiftRow(store, row.voice, -1))}
          {item('Shift a step right', () => shiftRow(store, row.voice, 1))}
          {item('Invert its steps', () => invertRow(store, row.voice))}
          {item(row.locked ? 'Unlock the row' : 'Lock the row', () => getState().run(`${row.locked ? 'Unlock' : 'Lock'} ${label.toLowerCase()}`, (p) => setRow(p, row.voice, { locked: !row.locked })))}
          <DropdownMenu.Separator className={MENU_RULE} />
          {item('Move up', () => move(-1))}
          {item('Move down', () => move(1))}
          {item(`Remove the row${ofRow().length > 0 ? ` and its ${ofRow().length} hits` : ''}`, () => getState().run(`Remove the row ${label.toLowerCase()}`, (p) => removeRow(p, row.voice)))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
