import { quantizeNow } from '@/core/commands/quantize-now';
import { plural } from '@/core/plurals';
import { say } from '@/ui/notify';
import type { BenchStore } from '../store/bench-store';
import { linedPart } from '../store/derived';
import { canTouch, chosenIds, touchOf } from './act';

/** Moves the selection, or all hits, onto the shown grid in one undo step, and reports what moved. */
export function quantizeToGrid(store: BenchStore): void {
  const state = store.getState();
  const { part, view, run } = state;
  const touch = touchOf(part, chosenIds(state));
  if (!canTouch(touch)) return;
  const lined = linedPart(state);
  const swings = lined === part ? [] : lined.feel.moves.flatMap((move) => (move.kind === 'swing' ? [move] : []));
  const { part: next, moved, mostMs } = quantizeNow(part, touch.ids, view.grid, swings);
  const to = `the ${swings.length > 0 ? 'swung ' : ''}${view.grid} grid`;
  if (next !== part) run(`Quantize ${touch.what} to ${to}`, () => next);
  say(
    moved === 0
      ? `Nothing moved: ${touch.what} ${plural(touch.ids.size, 'is', 'are')} on ${to}.`
      : `Quantized ${touch.what} to ${to}: ${moved} moved, by ${mostMs.toFixed(1)} ms at most.`,
  );
}
