import { homesOf } from '../homes/homes';
import { meterMapOf } from '../part/part-time';
import { stepOf } from '../time/grid';
import { ticks } from '../units';
import { MAX_SWING, MIN_SWING, SWING_DIVISIONS, type SwingMove } from '../model/feel';
import type { Performable } from '../feel/work';
import { swingTick } from '../feel/swing';
import { choice, number, optional, type ApplyMove, type MoveSpec } from '../feel/move-spec';

/** Moves the off-beats, and the homes along with them: a perfectly swung hit has lean 0. */
const applySwing: ApplyMove<SwingMove> = (move, { range, times, placedHomes, map }, inScope) => {
  const swung = (tick: number): number => swingTick(tick, map.barAt(ticks(tick)), move);
  for (let i = range.from; i < range.to; i++) {
    if (!inScope(i)) continue;
    times[i] = swung(times[i] as number);
    placedHomes[i] = swung(placedHomes[i] as number);
  }
};

const DEFAULT_SWING = 56;
const EIGHTH_SWING = 60;

export const swingMove: MoveSpec<SwingMove> = {
  kind: 'swing',
  members: { division: choice(SWING_DIVISIONS), percent: number(MIN_SWING, MAX_SWING), inverse: optional({ is: 'flag' }) },
  plain: { kind: 'swing', division: '1/16', percent: DEFAULT_SWING },
  // Eighths where hits stand on these alone, else sixteenths; in a part without hits as well.
  first: (part) => (part.hits.length === 0 || hasSixteenths(part) ? {} : { division: '1/8', percent: EIGHTH_SWING }),
  salt: 'swing',
  draws: false,
  apply: applySwing,
};

/** Whether any hit belongs to the second sixteenth of a pair. */
function hasSixteenths(part: Performable): boolean {
  const map = meterMapOf(part);
  const homes = homesOf(part);
  const step = stepOf('1/16');
  return part.hits.some((_, i) => {
    const home = homes.ticks[i] as number;
    const n = Math.round((home - map.barAt(ticks(home)).start) / step);
    return n % 2 === 1;
  });
}
