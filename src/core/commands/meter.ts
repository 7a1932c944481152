/** Commands on the meter: of bars, and of a pickup. */
import { barOfHome, homesOf } from '../homes/homes';
import type { MeterChange } from '../time/meter-map';
import { ticks, TICKS_PER_WHOLE, type Ticks } from '../units';
import type { HitId, Part } from '../model/part';
import { endOfPart, meterMapOf } from '../part/part-time';
import { withSections } from '../part/sections';
import { arrangeBars, isBeyond, lengthOf, meterOfLength, rangeOf, type BarOfOrder } from './bars';

export type Meter = Omit<MeterChange, 'tick'>;

/** The part with as many bars as reach the old end, so that no hit falls outside. */
function reaching(part: Part, end: Ticks): Part {
  const bars = meterMapOf(part).barAt(ticks(end - 1)).index + 1;
  const fitted = { ...part, bars: Math.max(1, bars) };
  return part.sections ? withSections(fitted, part.sections) : fitted;
}

/** Bars `from` to `to` without `to`, 0-based; without `to` up to the next change of meter, or the end. */
export interface MeterRange {
  from: number;
  to?: number | undefined;
}

/** Where a range ends. */
function endOfRange(part: Part, { from, to }: MeterRange): number {
  if (to !== undefined) return Math.min(to, part.bars);
  const map = meterMapOf(part);
  const { meter } = map.barOf(from);
  let end = from + 1;
  while (end < part.bars && map.barOf(end).meter === meter) end++;
  return end;
}

/**
 * Sets the meter of bars; each of them becomes as long as it says, and what follows moves along: hits, tempo changes and pinned homes
 * keep their distance from their bar line. Hits beyond a shorter bar go, see {@link hitsBeyondMeter}. The number of bars stays.
 * @example setMeter(part, { from: 2, to: 3 }, { numerator: 5, denominator: 4 }) // bar 3 has five quarters, bar 4 starts later
 */
export function setMeter(part: Part, range: MeterRange, meter: Meter): Part {
  const end = endOfRange(part, range);
  const pieces = rangeOf(0, part.bars).map((piece): BarOfOrder =>
    piece.bar >= range.from && piece.bar < end ? { ...piece, meter } : piece,
  );
  return arrangeBars(part, pieces, () => '');
}

/** The hits that {@link setMeter} would take out: those whose home lies behind the end of a bar that becomes shorter. */
export function hitsBeyondMeter(part: Part, range: MeterRange, meter: Meter): Set<HitId> {
  const map = meterMapOf(part);
  const homes = homesOf(part);
  const end = endOfRange(part, range);
  const length = lengthOf(meter);
  return new Set(
    part.hits.flatMap((hit, i) => {
      const home = homes.ticks[i] as number;
      const index = barOfHome(part, home);
      return index >= range.from && index < end && isBeyond(home, map.barOf(index), length) ? [hit.id] : [];
    }),
  );
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
  const head =
    short && length !== null
      ? [
          { ...short, tick: ticks(0) },
          { ...plain, tick: length },
        ]
      : [{ ...plain, tick: ticks(0) }];
  return reaching({ ...part, meter: [...head, ...rest] }, endOfPart(part));
}
