import { addNudge, addNudgeTicks, mirrorNudges, setNudges } from '@/core/commands/hits';
import { setApart } from '@/core/commands/apart';
import { stepOf } from '@/core/time/grid';
import { milliseconds, TICKS_PER_QUARTER } from '@/core/units';
import type { VoiceName } from '@/core/row-names';
import type { BenchStore } from '../store/bench-store';
import { actOnSelection } from './act';

/** A tick as exports count by default. */
const EXPORT_TICK = TICKS_PER_QUARTER / 960;

/** Nudges the selection by a number of the chosen units; negative is early. */
export function nudgeSelection(store: BenchStore, times: number): void {
  const { ui, view } = store.getState();
  const step = stepOf(view.grid);
  const inTicks = { '1 tick': EXPORT_TICK, '1/16 step': step / 16, '1/8 step': step / 8 }[ui.nudgeUnit as string];
  const verb = times < 0 ? 'Nudge earlier:' : 'Nudge later:';
  actOnSelection(store, verb, (p, ids) =>
    inTicks === undefined
      ? addNudge(p, ids, milliseconds(Number.parseFloat(ui.nudgeUnit) * times))
      : addNudgeTicks(p, ids, inTicks * times),
  );
}

export const clearNudges = (store: BenchStore): void => actOnSelection(store, 'Clear the nudge of', (p, ids) => setNudges(p, ids, () => 0));

export const mirrorSelection = (store: BenchStore): void => actOnSelection(store, 'Mirror the nudges of', mirrorNudges);

export const setSelectionApart = (store: BenchStore, ms: number, leader: VoiceName): void =>
  actOnSelection(store, `Set ${ms} ms apart:`, (p, ids) => setApart(p, ids, ms, leader));
