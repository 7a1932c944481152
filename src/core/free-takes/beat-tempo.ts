import { LONGEST_QUARTER, SHORTEST_QUARTER, type TempoChange } from '../time/tempo-map';
import { clamp, ticks, TICKS_PER_QUARTER, type Ticks } from '../units';

/** How long something lasts: in notes, and by the clock. */
export interface TimedStretch {
  /** Quarter notes, over 0. */
  quarters: number;
  /** Seconds, over 0. */
  seconds: number;
}

/**
 * One tempo event a stretch, in whole microseconds a quarter as MIDI has them. What rounding one of them takes or adds, the next one
 * makes good: no stretch begins more than half a microsecond a quarter from where it should.
 * @param from the tick that the first begins at
 * @example tempoOfStretches([{ quarters: 1, seconds: 0.6 }], ticks(0)) // [{ tick: 0, microsecondsPerQuarter: 600000 }]
 */
export function tempoOfStretches(stretches: readonly TimedStretch[], from: Ticks): TempoChange[] {
  const changes: TempoChange[] = [];
  let tick: number = from;
  let [wanted, written] = [0, 0];
  for (const { quarters, seconds } of stretches) {
    wanted += seconds;
    const microsecondsPerQuarter = clamp(Math.round(((wanted - written) * 1e6) / quarters), SHORTEST_QUARTER, LONGEST_QUARTER);
    changes.push({ tick: ticks(tick), microsecondsPerQuarter });
    written += (microsecondsPerQuarter * quarters) / 1e6;
    tick += Math.round(quarters * TICKS_PER_QUARTER);
  }
  return changes;
}
