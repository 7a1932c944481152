import { stepOf } from '../time/grid';
import type { MeterMap } from '../time/meter-map';
import { TICKS_PER_QUARTER, type Ticks } from '../units';
import { deviation, median } from '../statistics';

/** A swing that hits already have. */
export interface MeasuredSwing {
  division: '1/8' | '1/16';
  /** Median place of the second hits in their pairs. */
  percent: number;
  n: number;
}

const FEWEST = 4;
/** Second hits that scatter by more, in percent of their pair, have no one swing: straight and dotted ones, or bars that swing unlike each other. */
const MOST_SPREAD = 5;

/**
 * Measures swing: a hit that lies at 40 to 80 % of a pair (both included) is its second one. Of 1/8 and 1/16 the division with
 * more of them counts, 1/16 on a tie.
 * @returns null under four second hits, or where they scatter by more than 5 % of their pair
 */
export function measureSwing(map: MeterMap, places: readonly Ticks[]): MeasuredSwing | null {
  const eighths = secondHits(map, places, 2 * stepOf('1/8'));
  const sixteenths = secondHits(map, places, 2 * stepOf('1/16'));
  const [division, found] = eighths.length > sixteenths.length ? (['1/8', eighths] as const) : (['1/16', sixteenths] as const);
  return found.length < FEWEST || deviation(found) > MOST_SPREAD ? null : { division, percent: median(found), n: found.length };
}

/** How far the second hits of a division scatter, in percent of their pair (of the population); 0 without any. */
export function spreadOfSwing(map: MeterMap, places: readonly Ticks[], division: MeasuredSwing['division']): number {
  const found = secondHits(map, places, 2 * stepOf(division));
  return found.length === 0 ? 0 : deviation(found);
}

/** Whether some hits stand off all straight lines, of thirty-seconds and of sixteenth triplets, by more than 1 % of a quarter. */
export function isOffStraight(map: MeterMap, places: readonly Ticks[]): boolean {
  return places.some((tick) => {
    const place = tick - map.barAt(tick).start;
    return [stepOf('1/32'), stepOf('1/16T')].every((step) => Math.abs(place - Math.round(place / step) * step) > 0.01 * TICKS_PER_QUARTER);
  });
}

function secondHits(map: MeterMap, places: readonly Ticks[], pair: number): number[] {
  const found: number[] = [];
  for (const tick of places) {
    const bar = map.barAt(tick);
    const place = tick - bar.start;
    const start = Math.floor(place / pair) * pair;
    if (start + pair > bar.length) continue;
    const percent = ((place - start) / pair) * 100;
    if (percent >= 40 && percent <= 80) found.push(percent);
  }
  return found;
}
