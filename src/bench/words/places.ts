import { listed, plural } from '@/core/plurals';
import type { Part } from '@/core/model/part';
import { meterMapOf } from '@/core/part/part-time';
import { ticks } from '@/core/units';
import { countName, placeText } from './describe';

/** More places in the bar than these are counted, not named. */
const MOST_NAMED = 4;

/**
 * Several places in one phrase.
 * @example placesText(part, [beat2, beat4, ...]) // 'beats 2 and 4 of 8 bars'
 */
export function placesText(part: Pick<Part, 'meter' | 'origin'>, places: readonly number[]): string {
  if (places.length === 1) return placeText(part, places[0] as number);
  const map = meterMapOf(part);
  const bars = new Set<number>();
  const inBar = new Map<string, number>();
  for (const place of places) {
    const bar = map.barAt(ticks(place));
    bars.add(bar.index);
    inBar.set(countName(place - bar.start, bar.meter.denominator), place - bar.start);
  }
  if (bars.size === 1) {
    const [bar] = bars as unknown as [number];
    return inBar.size > MOST_NAMED ? `${places.length} places in bar ${bar + 1}` : `bar ${bar + 1} · ${listed(namesOf(inBar))}`;
  }
  if (inBar.size > MOST_NAMED) return `${places.length} places in ${bars.size} bars`;
  const named = `${plural(inBar.size, 'beat')} ${listed(namesOf(inBar))} of ${bars.size} bars`;
  return places.length === inBar.size * bars.size ? named : `${places.length} places on ${named}`;
}

const namesOf = (inBar: ReadonlyMap<string, number>): string[] => [...inBar].sort((a, b) => a[1] - b[1]).map(([name]) => name);
