import type { Ticks } from '../units';
import type { HitId, Part } from '../model/part';
import { meterMapOf } from '../part/part-time';
import { barOfHome, homesOf, homeTest } from './homes';

/**
 * A stretch of musical time, `end` not included. Hits belong to it by their home, so early ones stay with their line, and those at the
 * part's end with its last bar.
 */
export interface TickRange {
  start: Ticks;
  end: Ticks;
}

/** The ticks of bars, 0-based and without `to`. */
export function rangeOfBars(part: Pick<Part, 'meter' | 'origin'>, from: number, to: number): TickRange {
  const map = meterMapOf(part);
  return { start: map.barOf(from).start, end: map.barOf(to).start };
}

/** The hits whose home lies in a range. */
export function hitsInRange(part: Pick<Part, 'hits' | 'meter' | 'origin' | 'bars'>, range: TickRange): Set<HitId> {
  const homes = homesOf(part);
  const within = homeTest(part, range.start, range.end);
  const ids = new Set<HitId>();
  part.hits.forEach((hit, i) => {
    if (within(homes.ticks[i] as number)) ids.add(hit.id);
  });
  return ids;
}

/** The whole bars that the homes of some hits span; null without hits. */
export function barsOfHits(
  part: Pick<Part, 'hits' | 'meter' | 'origin' | 'bars'>,
  ids: ReadonlySet<HitId>,
): { from: number; to: number } | null {
  const homes = homesOf(part);
  let from = Infinity;
  let to = -Infinity;
  part.hits.forEach((hit, i) => {
    if (!ids.has(hit.id)) return;
    const bar = barOfHome(part, homes.ticks[i] as number);
    from = Math.min(from, bar);
    to = Math.max(to, bar + 1);
  });
  return from === Infinity ? null : { from, to };
}
