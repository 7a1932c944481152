'use client';

import { counted, plural } from '@/core/plurals';
import { DropdownMenu } from 'radix-ui';
import { moveRow, removeRow } from '@/core/commands/rows';
import { setRow } from '@/core/commands/settings';
import type { Row } from '@/core/model/part';
import { MENU_ITEM, MENU_RULE, PointMenu } from '@/ui/PointMenu';
import type { MenuPlace } from '@/ui/menu-place';
import { invertRow, shiftRow } from '../actions/arrange';
import { openPage } from '../actions/open-page';
import { toOwnRow } from '../actions/row-actions';
import { FeatureItems } from '../shared/FeatureItems';
import { useBenchStore } from '../store/context';

interface Props {
  at: MenuPlace;
  onClose: () => void;
  row: Row;
  label: string;
  onEdit: (what: 'name' | 'dialog') => void;
}

/** What can be done to a row as a whole. */
export default function RowMenu(props: Props) {
  return (
    <PointMenu at={props.at} onClose={props.onClose} label={`Row ${props.label}`}>
      <Items {...props} />
    </PointMenu>
  );
}

function Items({ row, label, onEdit }: Props) {
  const store = useBenchStore();
  const { getState } = store;
  const hits = getState().part.hits.filter((h) => h.voice === row.voice);
  const { selection } = getState();
  const some = hits.filter((h) => selection.has(h.id)).length;
  const move = (by: number) => {
    const { rows } = getState().part;
    getState().run(`Move the row ${label.toLowerCase()}`, (p) => moveRow(p, row.voice, rows.findIndex((r) => r.voice === row.voice) + by));
  };
  const item = (text: string, run: () => void) => (
    <DropdownMenu.Item className={MENU_ITEM} onSelect={run}>
      {text}
    </DropdownMenu.Item>
  );
  return (
    <>
      {item('Select all hits of the row', () => getState().select(hits.map((h) => h.id)))}
      {item('Rename', () => onEdit('name'))}
      {item('Instrument, key, split, layer, merge …', () => onEdit('dialog'))}
      {some > 0 &&
        some < hits.length &&
        item(`Move its ${some} selected ${plural(some, 'hit')} to ${plural(some, 'its', 'their')} own row`, () =>
          toOwnRow(store, new Set(hits.filter((h) => selection.has(h.id)).map((h) => h.id))),
        )}
      <FeatureItems menu="rows" row={row.voice} />
      <DropdownMenu.Separator className={MENU_RULE} />
      {item('Shift a step left', () => shiftRow(store, row.voice, -1))}
      {item('Shift a step right', () => shiftRow(store, row.voice, 1))}
      {item('Invert its steps', () => invertRow(store, row.voice))}
      {item('Sound, level, pan, tuning, response …', () => {
        getState().setFocus(row.voice);
        openPage(store, 'sound');
      })}
      {item(row.held ? 'Let it ring' : 'Stop the sound with each hit', () =>
        getState().run(`${row.held ? 'Let ring:' : 'End with its hits:'} ${label.toLowerCase()}`, (p) =>
          setRow(p, row.voice, { held: !row.held }),
        ),
      )}
      {item(row.locked ? 'Unlock the row' : 'Lock the row', () =>
        getState().run(`${row.locked ? 'Unlock' : 'Lock'} ${label.toLowerCase()}`, (p) => setRow(p, row.voice, { locked: !row.locked })),
      )}
      <DropdownMenu.Separator className={MENU_RULE} />
      {item('Move up', () => move(-1))}
      {item('Move down', () => move(1))}
      {item(`Delete the row${hits.length > 0 ? ` and its ${counted(hits.length, 'hit')}` : ''}`, () =>
        getState().run(`Delete the row ${label.toLowerCase()}`, (p) => removeRow(p, row.voice)),
      )}
    </>
  );
}
