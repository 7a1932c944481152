import { indicesByVoice } from '../part/by-voice';
import { endOfPart, meterMapOf } from '../part/part-time';
import type { Hit, Part } from '../model/part';
import { nearestPlace, stepOf, type GridName } from '../time/grid';
import type { MeterMap } from '../time/meter-map';
import { ticks, type Ticks } from '../units';

/** Tried in this order for each beat and row; the first that fits wins. */
const CANDIDATES: readonly GridName[] = ['1/8', '1/16', '1/8T', '1/16T', '1/32'];
const FALLBACK: GridName = '1/16';
/** A grid fits where the mean distance of the places is within this part of its step ... */
const FIT_LIMIT = 0.12;
/** ... and none is further off than this. A hit further from its home than this part of a step is doubtful, too. */
export const DOUBTFUL_LIMIT = 0.3;
/** Strokes less than three quarters of a 1/32 after a place's first stroke belong to that place: flams, drags, doubles. */
export const ONE_PLACE = 0.75 * stepOf('1/32');

/** Where the hits of a part belong; columns run parallel to `part.hits`. */
export interface Homes {
  /** The home's tick. */
  ticks: Float64Array;
  /** The grid that was fitted for the hit's beat. */
  grids: GridName[];
  /** 1 where the hit lies further than 30 % of a step from its home; a pinned home has been decided and is not doubtful. */
  doubtful: Uint8Array;
  /** Some place has several strokes: then its loudest decides where it stands, and homes depend on velocities. */
  byLoudness: boolean;
}

const cache = new WeakMap<readonly Hit[], { meter: unknown; origin: Ticks; homes: Homes }>();

/**
 * The home of each hit: pinned, or fitted for each beat and row.
 * Depends on the written hits, the meter and the origin alone: never on the feel, the tempo or the grid chosen for editing.
 */
export function homesOf(part: Pick<Part, 'hits' | 'meter' | 'origin'>): Homes {
  const known = cache.get(part.hits);
  if (known && known.meter === part.meter && known.origin === part.origin) return known.homes;
  const homes = fitHomes(part.hits, meterMapOf(part));
  cache.set(part.hits, { meter: part.meter, origin: part.origin, homes });
  return homes;
}

/**
 * Hands on known homes to a list whose hits have the same voices, places and pinned homes in the same order, but perhaps other
 * velocities: homes depend on these only where one place has several strokes.
 */
export function carryHomes(from: readonly Hit[], to: readonly Hit[]): void {
  const known = cache.get(from);
  if (known && !known.homes.byLoudness) cache.set(to, known);
}

/**
 * The bar that a home belongs to, 0-based; negative before the first one. The part's end is no bar's start: what has its home there
 * belongs to the last bar.
 */
export function barOfHome(part: Pick<Part, 'meter' | 'origin' | 'bars'>, home: number): number {
  return Math.min(part.bars - 1, meterMapOf(part).barAt(ticks(home)).index);
}

/** A stretch of musical time without its end; but the part's end belongs to what reaches it. */
export function homeTest(part: Pick<Part, 'meter' | 'origin' | 'bars'>, start: number, end: number): (home: number) => boolean {
  const last = endOfPart(part);
  return (home) => home >= start && (home < end || (home === last && end >= last));
}

/** Strokes of one row that count as one: indices `from` to `to` of the row, and the loudest of them, the first of equals. */
interface Place {
  from: number;
  to: number;
  loudest: number;
}

function fitHomes(hits: readonly Hit[], map: MeterMap): Homes {
  const homes: Homes = { ticks: new Float64Array(hits.length), grids: new Array<GridName>(hits.length), doubtful: new Uint8Array(hits.length), byLoudness: false };
  for (const indices of indicesByVoice(hits).values()) {
    const places = placesOf(hits, indices);
    if (places.length < indices.length) homes.byLoudness = true;
    let from = 0;
    while (from < places.length) {
      const first = tickOf(hits, places[from] as Place);
      const bar = map.barAt(first);
      const beat = map.beatAt(bar, first);
      const end = beat.start + beat.length;
      let to = from + 1;
      while (to < places.length && tickOf(hits, places[to] as Place) < end) to++;
      const grid = fittingGrid(hits, places, from, to, bar.start, bar.length);
      for (let p = from; p < to; p++) settle(hits, indices, places[p] as Place, grid, map, homes);
      from = to;
    }
  }
  return homes;
}

function placesOf(hits: readonly Hit[], indices: readonly number[]): Place[] {
  const places: Place[] = [];
  let place: Place | undefined;
  let first = 0;
  for (let k = 0; k < indices.length; k++) {
    const i = indices[k] as number;
    const hit = hits[i] as Hit;
    if (place && hit.tick - first < ONE_PLACE) {
      place.to = k + 1;
      if (hit.velocity > (hits[place.loudest] as Hit).velocity) place.loudest = i;
    } else {
      first = hit.tick;
      places.push((place = { from: k, to: k + 1, loudest: i }));
    }
  }
  return places;
}

const tickOf = (hits: readonly Hit[], place: Place): Ticks => (hits[place.loudest] as Hit).tick;

/** Gives the strokes of a place their nearest lines of the grid that was fitted there; lines restart at each bar line. */
function settle(hits: readonly Hit[], indices: readonly number[], place: Place, grid: GridName, map: MeterMap, homes: Homes) {
  const step = stepOf(grid);
  for (let k = place.from; k < place.to; k++) {
    const i = indices[k] as number;
    const hit = hits[i] as Hit;
    const bar = map.barAt(hit.tick);
    const home = hit.home ?? bar.start + nearestPlace(hit.tick - bar.start, step, bar.length);
    homes.ticks[i] = home;
    homes.grids[i] = grid;
    homes.doubtful[i] = hit.home === undefined && Math.abs(hit.tick - home) > DOUBTFUL_LIMIT * step ? 1 : 0;
  }
}

function fittingGrid(hits: readonly Hit[], places: readonly Place[], from: number, to: number, barStart: number, barLength: number): GridName {
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
