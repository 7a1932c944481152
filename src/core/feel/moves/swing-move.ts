import { ticks } from '../../units';
import type { SwingMove } from '../feel';
import { swingTick } from '../swing';
import type { ApplyMove } from '../work';

/** Moves the off-beats, and the homes along with them: a perfectly swung hit has lean 0. */
export const applySwing: ApplyMove<SwingMove> = (move, { range, times, placedHomes, map }, inScope) => {
  const swung = (tick: number): number => swingTick(tick, map.barAt(ticks(tick)), move);
  for (let i = range.from; i < range.to; i++) {
    if (!inScope(i)) continue;
    times[i] = swung(times[i] as number);
    placedHomes[i] = swung(placedHomes[i] as number);
  }
};
