import { endOfPart, meterMapOf } from '../part/part-time';
import type { Hit, Part } from '../model/part';
import { GRIDS, nearestPlace, stepOf, type GridName } from '../time/grid';
import type { MeterMap } from '../time/meter-map';
import { ticks, type Ticks } from '../units';

/** A home that was read with less than this is doubtful, until it is decided. */
export const SURE_ENOUGH = 0.9;

/** Where the hits of a part belong; columns run parallel to `part.hits`. */
export interface Homes {
  /** The home's tick. */
  ticks: Float64Array;
  /** 1 where the home was read with a probability under 0.9 and nobody has decided it. */
  doubtful: Uint8Array;
}

const cache = new WeakMap<readonly Hit[], Homes>();

/** The homes of hits as columns; made once a list. They are shared: copy before changing. */
export function homesOf({ hits }: Pick<Part, 'hits'>): Homes {
  const known = cache.get(hits);
  if (known) return known;
  const homes: Homes = { ticks: new Float64Array(hits.length), doubtful: new Uint8Array(hits.length) };
  for (let i = 0; i < hits.length; i++) {
    const hit = hits[i] as Hit;
    homes.ticks[i] = hit.home;
    if (isDoubtful(hit)) homes.doubtful[i] = 1;
  }
  cache.set(hits, homes);
  return homes;
}

export const isDoubtful = ({ sure, decided }: Pick<Hit, 'sure' | 'decided'>): boolean =>
  sure !== undefined && sure < SURE_ENOUGH && !decided;

/** Hands on the columns to a list whose hits have the same homes in the same order. */
export function carryHomes(from: readonly Hit[], to: readonly Hit[]): void {
  const known = cache.get(from);
  if (known) cache.set(to, known);
}

/** A hit without what was read or decided of its home: what a new home starts from. */
export function withoutReading<H extends Partial<Pick<Hit, 'sure' | 'other' | 'decided' | 'placed'>>>(
  hit: H,
): Omit<H, 'sure' | 'other' | 'decided' | 'placed'> {
  const { sure: _sure, other: _other, decided: _decided, placed: _placed, ...rest } = hit;
  return rest;
}

/** A hit moved in time with its lines. @param by ticks */
export const shifted = <H extends Pick<Hit, 'tick' | 'home' | 'other'>>(hit: H, by: number): H =>
  by === 0
    ? hit
    : {
        ...hit,
        tick: ticks(hit.tick + by),
        home: ticks(hit.home + by),
        ...(hit.other === undefined ? {} : { other: ticks(hit.other + by) }),
      };

/** The coarsest grid that has a line at a tick; undefined for lines of no grid, as those of five a quarter. */
export function gridOfLine(map: MeterMap, line: Ticks): GridName | undefined {
  const place = line - map.barAt(line).start;
  return COARSEST_FIRST.find((grid) => place % stepOf(grid) === 0);
}

const COARSEST_FIRST: readonly GridName[] = [...GRIDS].sort((a, b) => stepOf(b) - stepOf(a));

const SIXTEENTH = stepOf('1/16');
/** Every grid's step is a whole multiple of one of these. */
const FINEST_STEPS = GRIDS.map((grid) => stepOf(grid)).filter((step, _, all) => !all.some((other) => other < step && step % other === 0));

/** What a hit that nobody has read yet is taken to belong to: the line that it stands on, else the nearest sixteenth. */
export function provisionalHome(map: MeterMap, tick: Ticks): Ticks {
  const bar = map.barAt(tick);
  const place = tick - bar.start;
  for (const step of FINEST_STEPS) if (place % step === 0) return tick;
  return ticks(bar.start + nearestPlace(place, SIXTEENTH, bar.length));
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
