import { stepOf } from '../time/grid';
import type { MeterMap } from '../time/meter-map';
import { TICKS_PER_QUARTER, type Ticks } from '../units';

/** Whether some hits stand off all straight lines, of thirty-seconds and of sixteenth triplets, by more than 1 % of a quarter. */
export function isOffStraight(map: MeterMap, places: readonly Ticks[]): boolean {
  return places.some((tick) => {
    const place = tick - map.barAt(tick).start;
    return [stepOf('1/32'), stepOf('1/16T')].every((step) => Math.abs(place - Math.round(place / step) * step) > 0.01 * TICKS_PER_QUARTER);
  });
}
