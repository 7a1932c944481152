import { indicesByVoice } from '../part/by-voice';
import { meterMapOf } from '../part/part-time';
import type { Hit, Part } from '../part/part';
import { nearestPlace, stepOf, type GridName } from '../time/grid';
import type { Bar, MeterMap } from '../time/meter-map';
import type { Ticks } from '../units';

/** Tried in this order for each beat and row; the first whose mean distance is within {@link FIT_LIMIT} wins. */
const CANDIDATES: readonly GridName[] = ['1/8', '1/16', '1/8T', '1/16T', '1/32'];
const FALLBACK: GridName = '1/16';
const FIT_LIMIT = 0.12;
/** A hit further from its home than this part of a step is doubtful. */
export const DOUBTFUL_LIMIT = 0.3;

/** Where the hits of a part belong; columns run parallel to `part.hits`. */
export interface Homes {
  /** The home's tick. */
  ticks: Float64Array;
  /** The grid that was fitted for the hit's beat. */
  grids: GridName[];
  /** 1 where the hit lies further than 30 % of a step from its home; a pinned home has been decided and is not doubtful. */
  doubtful: Uint8Array;
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

/** Hands on known homes to a list whose hits have the same voices, places and pinned homes in the same order: they depend on nothing else. */
export function carryHomes(from: readonly Hit[], to: readonly Hit[]): void {
  const known = cache.get(from);
  if (known) cache.set(to, known);
}

function fitHomes(hits: readonly Hit[], map: MeterMap): Homes {
  const homes: Homes = { ticks: new Float64Array(hits.length), grids: new Array<GridName>(hits.length), doubtful: new Uint8Array(hits.length) };
  for (const indices of indicesByVoice(hits).values()) {
    let from = 0;
    while (from < indices.length) {
      const first = hits[indices[from] as number] as Hit;
      const bar = map.barAt(first.tick);
      const beat = map.beatAt(bar, first.tick);
      const end = beat.start + beat.length;
      let to = from + 1;
      while (to < indices.length && (hits[indices[to] as number] as Hit).tick < end) to++;
      fitBeat(hits, indices, from, to, bar, homes);
      from = to;
    }
  }
  return homes;
}

function fitBeat(hits: readonly Hit[], indices: readonly number[], from: number, to: number, bar: Bar, homes: Homes) {
  const grid = fittingGrid(hits, indices, from, to, bar);
  const step = stepOf(grid);
  for (let k = from; k < to; k++) {
    const i = indices[k] as number;
    const hit = hits[i] as Hit;
    const home = hit.home ?? bar.start + nearestPlace(hit.tick - bar.start, step, bar.length);
    homes.ticks[i] = home;
    homes.grids[i] = grid;
    homes.doubtful[i] = hit.home === undefined && Math.abs(hit.tick - home) > DOUBTFUL_LIMIT * step ? 1 : 0;
  }
}

function fittingGrid(hits: readonly Hit[], indices: readonly number[], from: number, to: number, bar: Bar): GridName {
  for (const grid of CANDIDATES) {
    const step = stepOf(grid);
    let sum = 0;
    for (let k = from; k < to; k++) {
      const place = (hits[indices[k] as number] as Hit).tick - bar.start;
      sum += Math.abs(place - nearestPlace(place, step, bar.length));
    }
    if (sum / (to - from) <= FIT_LIMIT * step) return grid;
  }
  return FALLBACK;
}
