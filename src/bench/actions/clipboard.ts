import { counted } from '@/core/plurals';
import { newHitId } from '@/editing/ids';
import { copyHits, pasteClip, type Clip, type Copied } from '@/core/commands/copy';
import { removeHits } from '@/core/commands/hits';
import { rangeOfBars } from '@/core/homes/ticks-range';
import { say } from '@/ui/notify';
import { describeHits, placeText } from '../words/describe';
import type { BenchStore } from '../store/bench-store';
import type { StepCursor } from '../store/tools';
import { stemsFacts } from '../store/stems-facts';
import { canTouch, touchOf } from './act';
import { putCopies } from './arrange';

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

/** Puts the copied hits down and selects them. A copy of one row may go to another, if the place names one. */
export function paste(store: BenchStore, place = pastePlace(store)): void {
  if (!clip) return say('Nothing is copied yet.');
  const { part, run } = store.getState();
  const from = clip;
  const where = placeText(part, place.tick);
  const pasted = putCopies(store, (onto) => {
    let copied: Copied = { part, ids: [], replaced: 0, leftOut: 0 };
    run(
      `Paste ${counted(from.hits.length, 'hit')} at ${where}`,
      (p) => (copied = pasteClip(p, from, place.tick, newHitId, { row: place.voice, onto })).part,
      () => copied.ids,
    );
    return copied;
  });
  if (pasted.replaced + pasted.leftOut === 0) say(`Pasted ${counted(pasted.ids.length, 'hit')} at ${where}.`);
}
