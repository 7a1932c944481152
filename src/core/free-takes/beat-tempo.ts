import { LONGEST_QUARTER, SHORTEST_QUARTER, type TempoChange } from '../time/tempo-map';
import { clamp, ticks, TICKS_PER_QUARTER, type Ticks } from '../units';

/** A length in quarter notes and in seconds. */
export interface TimedStretch {
  /** Quarter notes, over 0. */
  quarters: number;
  /** Seconds, over 0. */
  seconds: number;
}

/**
 * Makes one tempo event per stretch, in whole microseconds per quarter as MIDI stores them. Rounding errors carry over to the next event,
 * so no stretch starts more than half a microsecond per quarter off.
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
