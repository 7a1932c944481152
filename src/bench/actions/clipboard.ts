import { MOST_HITS } from '@/core/limits';
import { counted } from '@/core/plurals';
import { newHitId } from '@/editing/ids';
import { copyHits, pasteClip, pasteOnRow, pasteOverBars, type Clip, type Copied, type Onto } from '@/core/commands/copy';
import { removeHits } from '@/core/commands/hits';
import { rangeOfBars } from '@/core/homes/ticks-range';
import { say } from '@/ui/notify';
import { describeHits, placeText } from '../words/describe';
import type { BenchState, BenchStore } from '../store/bench-store';
import type { Part } from '@/core/model/part';
import { labelOfRow } from '@/core/part/rows';
import type { StepCursor } from '../store/tools';
import { stemsFacts } from '../store/stems-facts';
import { canTouch, touchOf } from './act';
import { barsText, putCopies } from './arrange';

/** What was copied last; it outlives the part that it came from. */
let clip: Clip | null = null;

export const hasClip = (): boolean => clip !== null;

export function copySelection(store: BenchStore): boolean {
  const { part, selection } = store.getState();
  const copied = copyHits(part, selection);
  if (!copied) return canTouch(touchOf(part, selection));
  clip = copied;
  say(`Copied ${describeHits(part, selection)}.`);
  return true;
}

export function cutSelection(store: BenchStore): void {
  const { part, selection, run } = store.getState();
  const touch = touchOf(part, selection);
  if (!canTouch(touch)) return;
  clip = copyHits(part, touch.ids);
  run(
    `Cut ${touch.what}`,
    (p) => removeHits(p, touch.ids),
    () => [],
  );
}

/** Where a paste goes: the step cursor, else the line under the pointer, else the start of the loop. */
export function pastePlace(store: BenchStore): { tick: StepCursor['tick']; voice?: StepCursor['voice'] } {
  const { ui, part, transport } = store.getState();
  return ui.step ?? stemsFacts(store).under ?? { tick: rangeOfBars(part, transport.fromBar, transport.toBar).start };
}

/** The bars that the loop spans, from 0 without `to`, where it is not the whole part. */
export function loopedBars({ transport, part }: Pick<BenchState, 'transport' | 'part'>): { from: number; to: number } | null {
  const { fromBar: from, toBar: to } = transport;
  return to - from < part.bars ? { from, to: Math.min(to, part.bars) } : null;
}

/** Puts the copied hits down in each of some bars and selects them. @param bars from 0, without `to` */
export function pasteOver(store: BenchStore, bars: { from: number; to: number }): void {
  if (!clip) return say('Nothing is copied yet.');
  const from = clip;
  const words = barsText(bars);
  const copies = Math.ceil((bars.to - bars.from) / from.bars) * from.hits.length;
  if (store.getState().part.hits.length + copies > MOST_HITS) return say('Nothing pasted: the part would have more than 160,000 hits.');
  pasteAs(store, `Paste ${counted(from.hits.length, 'hit')} over ${words}`, `over ${words}`, (part, onto) =>
    pasteOverBars(part, from, bars, newHitId, { onto }),
  );
}

/** Puts the copied hits down at the places that they came from, on the open row. */
export function pasteOnOpenRow(store: BenchStore): void {
  const { part, focus } = store.getState();
  if (!clip) return say('Nothing is copied yet.');
  if (!focus) return say('No row is open: click the name of a row first.');
  const from = clip;
  const where = `to the same places on ${labelOfRow(part, focus).toLowerCase()}`;
  pasteAs(store, `Paste ${counted(from.hits.length, 'hit')} ${where}`, where, (p, onto) => pasteOnRow(p, from, focus, newHitId, onto));
}

function pasteAs(store: BenchStore, label: string, where: string, put: (part: Part, onto: Onto) => Copied): void {
  const { part, run } = store.getState();
  const pasted = putCopies(store, (onto) => {
    let copied: Copied = { part, ids: [], replaced: 0, leftOut: 0 };
    run(
      label,
      (p) => (copied = put(p, onto)).part,
      () => copied.ids,
    );
    return copied;
  });
  if (pasted.replaced + pasted.leftOut === 0) say(`Pasted ${counted(pasted.ids.length, 'hit')} ${where}.`);
}

/** Puts the copied hits down and selects them. A copy of one row may go to another, if the place names one. */
export function paste(store: BenchStore, place = pastePlace(store)): void {
  if (!clip) return say('Nothing is copied yet.');
  const from = clip;
  const where = `at ${placeText(store.getState().part, place.tick)}`;
  pasteAs(store, `Paste ${counted(from.hits.length, 'hit')} ${where}`, where, (p, onto) =>
    pasteClip(p, from, place.tick, newHitId, { row: place.voice, onto }),
  );
}
