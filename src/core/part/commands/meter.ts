/** Commands on the meter: hits stay where they are, the bar lines move. */
import { sameMeter, type MeterChange } from '../../time/meter-map';
import { ticks, TICKS_PER_WHOLE, type Ticks } from '../../units';
import type { Part } from '../part';
import { endOfPart, meterMapOf } from '../part-time';
import { meterOfLength } from './bars';

export type Meter = Omit<MeterChange, 'tick'>;

/** The part with as many bars as reach the old end, so that no hit falls outside. */
function reaching(part: Part, end: Ticks): Part {
  const bars = meterMapOf(part).barAt(ticks(end - 1)).index + 1;
  return { ...part, bars: Math.max(1, bars) };
}

/**
 * Sets the meter of bars `from` to `to` (0-based, `to` not included), or from `from` to the next change.
 * Hits keep their ticks; the part gets as many bars as it needs to hold them all.
 */
export function setMeter(part: Part, from: number, meter: Meter, to?: number): Part {
  const map = meterMapOf(part);
  const start = from <= 0 ? 0 : map.barOf(from).start - part.origin;
  const stop = to === undefined || to >= part.bars ? null : map.barOf(to);
  const list: MeterChange[] = part.meter.filter((m) => m.tick < start || (m.tick > start && (!stop || m.tick > stop.start - part.origin)));
  list.push({ ...meter, tick: ticks(start) });
  if (stop) list.push({ ...stop.meter, tick: ticks(stop.start - part.origin) });
  list.sort((a, b) => a.tick - b.tick);
  const next = list.filter((m, i) => i === 0 || !sameMeter(m, list[i - 1] as MeterChange));
  return reaching({ ...part, meter: next }, endOfPart(part));
}

/** Length of the part's pickup, a first bar that is shorter than the second; null without one. */
export function pickupOf(part: Pick<Part, 'meter' | 'origin' | 'bars'>): Ticks | null {
  const map = meterMapOf(part);
  const first = map.barOf(0);
  const second = map.barOf(1);
  return part.meter.length > 1 && second.length > first.length && part.meter[1]?.tick === first.length ? first.length : null;
}

/**
 * Makes the first bar a pickup of a length, or a whole bar again with null. Hits keep their ticks, later bar lines move along.
 * Only lengths of whole 64ths that are shorter than a bar can be pickups: others change nothing.
 */
export function setPickup(part: Part, length: Ticks | null): Part {
  const was = pickupOf(part);
  const base = (was === null ? part.meter[0] : part.meter[1]) as MeterChange;
  const full = (base.numerator * TICKS_PER_WHOLE) / base.denominator;
  const short = length === null ? null : meterOfLength(length);
  if (length !== null && (!short || length >= full)) return part;
  const shift = (length ?? 0) - (was ?? 0);
  if (shift === 0) return part;
  const rest = part.meter.slice(was === null ? 1 : 2).map((m) => ({ ...m, tick: ticks(m.tick + shift) }));
  const { tick: _tick, ...plain } = base;
  const head = short && length !== null ? [{ ...short, tick: ticks(0) }, { ...plain, tick: length }] : [{ ...plain, tick: ticks(0) }];
  return reaching({ ...part, meter: [...head, ...rest] }, endOfPart(part));
}
