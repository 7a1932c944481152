/** Moving hits to another row or a new one, and doubling a row. New rows are opened. */
import { newHitId } from '@/editing/ids';
import type { Copied } from '@/core/commands/copy';
import { hitsToOwnRow, layerRow, type MadeRows } from '@/core/commands/split-rows';
import { copyToRow, moveToRow } from '@/core/commands/to-row';
import type { HitId, Part } from '@/core/model/part';
import { labelOfRow } from '@/core/part/rows';
import type { VoiceName } from '@/core/row-names';
import { say } from '@/ui/notify';
import type { BenchStore } from '../store/bench-store';
import { describeHits } from '../words/describe';
import { canTouch, touchOf } from './act';
import { putCopies } from './arrange';

/** Runs what makes rows as one step, opens the first of them, and says what they are called. */
export function makeRows(store: BenchStore, label: string, make: (part: Part) => MadeRows): void {
  let made: MadeRows | undefined;
  const { run, setView, setFocus } = store.getState();
  setView({ hideEmpty: false });
  run(label, (p) => (made = make(p)).part);
  const { part } = store.getState();
  const [first] = made?.rows ?? [];
  if (first === undefined) return;
  setFocus(first);
  const keys = (made?.rows ?? []).map((row) =>
    `${labelOfRow(part, row)}, key ${part.hits.find((h) => h.voice === row)?.key ?? ''}`.replace(/, key $/, ''),
  );
  say(`New: ${keys.join('; ')}.`);
}

/** Gives some hits a row of their own, without the locked ones. */
export function toOwnRow(store: BenchStore, ids: ReadonlySet<HitId>): void {
  const touch = touchOf(store.getState().part, ids);
  if (!canTouch(touch)) return;
  const { part } = store.getState();
  if (hitsToOwnRow(part, touch.ids, newHitId).rows.length === 0)
    return say('These are all hits of the row, so they already have their own row.');
  makeRows(store, `Give their own row: ${touch.what}`, (p) => hitsToOwnRow(p, touch.ids, newHitId));
}

export const selectionToOwnRow = (store: BenchStore): void => toOwnRow(store, store.getState().selection);

export const doubleRow = (store: BenchStore, row: VoiceName, percent: number): void =>
  makeRows(store, `Double ${labelOfRow(store.getState().part, row).toLowerCase()} at ${percent} %`, (p) =>
    layerRow(p, row, percent, newHitId),
  );

/** Moves or copies the selection to another row of the part, and selects the result. */
export function selectionToRow(store: BenchStore, row: VoiceName, how: 'move' | 'copy'): void {
  const { part, selection, run } = store.getState();
  const touch = touchOf(part, selection);
  if (how === 'move' && !canTouch(touch)) return;
  const label = `${how === 'move' ? 'Move' : 'Copy'} ${how === 'move' ? touch.what : describeHits(part, selection)} to ${labelOfRow(part, row).toLowerCase()}`;
  putCopies(
    store,
    (onto) => {
      let put: Copied = { part, ids: [], replaced: 0, leftOut: 0 };
      run(
        label,
        (p) => (put = how === 'move' ? moveToRow(p, selection, row, onto) : copyToRow(p, selection, row, onto, newHitId)).part,
        () => (put.ids.length > 0 ? put.ids : selection),
      );
      return put;
    },
    how === 'move' ? 'moved' : 'added',
  );
}
