import { MeterMap } from '../time/meter-map';
import { TempoMap } from '../time/tempo-map';
import { ticks, type Ticks } from '../units';
import type { Part } from '../model/part';

const tempoMaps = new WeakMap<readonly unknown[], TempoMap>();
const meterMaps = new WeakMap<readonly unknown[], MeterMap>();

/** The part's tempo map, compiled once a list of changes. */
export function tempoMapOf(part: Pick<Part, 'tempo'>): TempoMap {
  let map = tempoMaps.get(part.tempo);
  if (!map) tempoMaps.set(part.tempo, (map = new TempoMap(part.tempo)));
  return map;
}

/** The part's bars, compiled once a list of changes and origin. */
export function meterMapOf(part: Pick<Part, 'meter' | 'origin'>): MeterMap {
  let map = meterMaps.get(part.meter);
  if (!map || map.origin !== part.origin) meterMaps.set(part.meter, (map = new MeterMap(part.meter, part.origin)));
  return map;
}

/** The tick right behind the part's last bar. */
export function endOfPart(part: Pick<Part, 'meter' | 'origin' | 'bars'>): Ticks {
  const last = meterMapOf(part).barOf(Math.max(1, part.bars) - 1);
  return ticks(last.start + last.length);
}
