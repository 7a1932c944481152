'use client';

import { DropdownMenu } from 'radix-ui';
import { labelOfRow } from '@/core/part/rows';
import { MENU, MENU_ITEM } from '@/ui/PointMenu';
import { selectionToRow } from '../actions/row-actions';
import { useBench, useBenchStore } from '../store/context';

const WAYS = [
  { how: 'move', text: 'Move to row' },
  { how: 'copy', text: 'Copy to row' },
] as const;

/** Submenus that move or copy the selected hits to another row of the part. */
export function ToRowItems() {
  const store = useBenchStore();
  const part = useBench((s) => s.part);
  const selection = useBench((s) => s.selection);
  const own = new Set(part.hits.filter((h) => selection.has(h.id)).map((h) => h.voice));
  // A selection within one row cannot go to that row; a selection across rows can go to any.
  const rows = part.rows.map((r) => r.voice).filter((row) => own.size !== 1 || !own.has(row));
  if (own.size === 0 || rows.length === 0) return null;
  return WAYS.map(({ how, text }) => (
    <DropdownMenu.Sub key={how}>
      <DropdownMenu.SubTrigger className={`${MENU_ITEM} data-[state=open]:bg-sunk`}>
        {text} <span aria-hidden="true">›</span>
      </DropdownMenu.SubTrigger>
      <DropdownMenu.Portal container={document.querySelector('main')}>
        <DropdownMenu.SubContent className={`${MENU} max-h-80`} aria-label={text}>
          {rows.map((row) => (
            <DropdownMenu.Item key={row} className={MENU_ITEM} onSelect={() => selectionToRow(store, row, how)}>
              {labelOfRow(part, row)}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.SubContent>
      </DropdownMenu.Portal>
    </DropdownMenu.Sub>
  ));
}
