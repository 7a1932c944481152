import type { Hit } from '@/core/model/part';
import { nearestPlace, stepOf, type GridName } from '@/core/time/grid';
import { MeterMap, type MeterChange } from '@/core/time/meter-map';
import type { Ticks } from '@/core/units';

/** Homes as part@2 had them: never stored, but fitted for each beat and row. Nothing here changes any more. */

/** Tried in this order for each beat and row; the first that fits wins. */
const CANDIDATES: readonly GridName[] = ['1/8', '1/16', '1/8T', '1/16T', '1/32'];
const FALLBACK: GridName = '1/16';
/** A grid fits where the mean distance of the places is within this part of its step ... */
const FIT_LIMIT = 0.12;
/** ... and none is further off than this. A hit further from its home than this part of a step is doubtful, too. */
const DOUBTFUL_LIMIT = 0.3;
/** Strokes less than three quarters of a 1/32 after a place's first stroke belong to that place: flams, drags, doubles. */
const ONE_PLACE = 0.75 * stepOf('1/32');

/** Where the hits of a part belong; columns run parallel to the hits. */
export interface Homes2 {
  /** The home's tick. */
  ticks: Float64Array;
  /** The line on the hit's other side, on the grid that was fitted for its beat. */
  others: Float64Array;
  /** 1 where the hit lies further than 30 % of a step from its home; a pinned home has been decided and is not doubtful. */
  doubtful: Uint8Array;
}

/** A hit of part@2: its home only where the user chose it. */
export type Hit2 = Omit<Hit, 'home' | 'sure' | 'other' | 'decided' | 'placed'> & { home?: Ticks };

/**
 * Homes as part@2 had them: chosen, or fitted for each beat and row. Hits are in their order.
 * @param chosen whether homes that hits have were chosen
 */
export function homes2(
  { hits, meter, origin }: { hits: readonly Hit2[]; meter: readonly MeterChange[]; origin: Ticks },
  chosen = true,
): Homes2 {
  return fitHomes(hits, new MeterMap(meter, origin), chosen);
}

/** Strokes of one row that count as one: indices `from` to `to` of the row, and the loudest of them, the first of equals. */
interface Place {
  from: number;
  to: number;
  loudest: number;
}

function fitHomes(hits: readonly Hit2[], map: MeterMap, chosen: boolean): Homes2 {
  const homes: Homes2 = {
    ticks: new Float64Array(hits.length),
    others: new Float64Array(hits.length),
    doubtful: new Uint8Array(hits.length),
  };
  const rows = new Map<string, number[]>();
  hits.forEach(({ voice }, i) => {
    const row = rows.get(voice);
    if (row) row.push(i);
    else rows.set(voice, [i]);
  });
  for (const indices of rows.values()) {
    const places = placesOf(hits, indices);
    let from = 0;
    while (from < places.length) {
      const first = tickOf(hits, places[from] as Place);
      const bar = map.barAt(first);
      const beat = map.beatAt(bar, first);
      const end = beat.start + beat.length;
      let to = from + 1;
      while (to < places.length && tickOf(hits, places[to] as Place) < end) to++;
      const grid = fittingGrid(hits, places, from, to, bar.start, bar.length);
      for (let p = from; p < to; p++) settle(hits, indices, places[p] as Place, grid, map, homes, chosen);
      from = to;
    }
  }
  return homes;
}

function placesOf(hits: readonly Hit2[], indices: readonly number[]): Place[] {
  const places: Place[] = [];
  let place: Place | undefined;
  let first = 0;
  for (let k = 0; k < indices.length; k++) {
    const i = indices[k] as number;
    const hit = hits[i] as Hit2;
    if (place && hit.tick - first < ONE_PLACE) {
      place.to = k + 1;
      if (hit.velocity > (hits[place.loudest] as Hit2).velocity) place.loudest = i;
    } else {
      first = hit.tick;
      places.push((place = { from: k, to: k + 1, loudest: i }));
    }
  }
  return places;
}

const tickOf = (hits: readonly Hit2[], place: Place): Ticks => (hits[place.loudest] as Hit2).tick;

/** Gives the strokes of a place their nearest lines of the grid that was fitted there; lines restart at each bar line. */
function settle(
  hits: readonly Hit2[],
  indices: readonly number[],
  place: Place,
  grid: GridName,
  map: MeterMap,
  homes: Homes2,
  chosen: boolean,
) {
  const step = stepOf(grid);
  for (let k = place.from; k < place.to; k++) {
    const i = indices[k] as number;
    const hit = hits[i] as Hit2;
    const bar = map.barAt(hit.tick);
    const own = chosen ? hit.home : undefined;
    const home = own ?? bar.start + nearestPlace(hit.tick - bar.start, step, bar.length);
    homes.ticks[i] = home;
    homes.others[i] = hit.tick < home ? home - step : home + step;
    homes.doubtful[i] = own === undefined && Math.abs(hit.tick - home) > DOUBTFUL_LIMIT * step ? 1 : 0;
  }
}

function fittingGrid(
  hits: readonly Hit2[],
  places: readonly Place[],
  from: number,
  to: number,
  barStart: number,
  barLength: number,
): GridName {
  for (const grid of CANDIDATES) {
    const step = stepOf(grid);
    let sum = 0;
    let furthest = 0;
    for (let p = from; p < to; p++) {
      const place = tickOf(hits, places[p] as Place) - barStart;
      const distance = Math.abs(place - nearestPlace(place, step, barLength));
      sum += distance;
      if (distance > furthest) furthest = distance;
    }
    if (sum / (to - from) <= FIT_LIMIT * step && furthest <= DOUBTFUL_LIMIT * step) return grid;
  }
  return FALLBACK;
}
