import { OPEN_GUARDS, type Take, type TakeEvent } from '@/core/model/take';
import { milliseconds, seconds, ticks, TICKS_PER_QUARTER } from '@/core/units';
import { STRAIGHT_CURVE } from '@/core/velocity-curve';

/** A take over one bar of 4/4 at 120 BPM: two seconds. */
export const oneBarTake = (change: Partial<Take> = {}): Take => ({
  id: 't1',
  name: 'Take 1',
  recordedAt: 0,
  input: 'pads',
  tempo: [{ tick: ticks(0), microsecondsPerQuarter: 500_000 }],
  meter: [{ tick: ticks(0), numerator: 4, denominator: 4 }],
  origin: ticks(0),
  start: ticks(0),
  end: ticks(4 * TICKS_PER_QUARTER),
  latencyMs: milliseconds(0),
  curve: STRAIGHT_CURVE,
  guards: OPEN_GUARDS,
  passes: 1,
  complete: true,
  ...change,
});

/** A struck key, so many seconds after the first downbeat. */
export const struck = (at: number, key = 36, value = 100): TakeEvent => ({ at: seconds(at), kind: 'note', key, value });
