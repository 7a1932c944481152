/** Where the picture of a break has its strokes, its sensitivity threshold and its flags: pure functions. */
import { momentOfTick, tickOfMoment } from '@/core/breaks/lines';
import { leastOver, sensitivityOf } from '@/core/onsets/onsets';
import type { BreakStroke } from '@/core/breaks/strokes';
import type { Break } from '@/core/model/break';
import type { Part } from '@/core/model/part';
import { clamp, seconds, type Seconds } from '@/core/units';
import { tickOf, xOf, type Axis } from '../stems/geometry/axis';

/** Of the picture, in pixels: flags above, words below, strokes and outline between. */
export const FLAGS = 22;
export const WORDS = 20;
export const PICTURE_HEIGHT = 148;
export const FOOT = PICTURE_HEIGHT - WORDS;
const ROOM = FOOT - FLAGS - 8;

/** As high as a stem ever is: so far over its surroundings, and the softest there is. */
const TALLEST_OVER = 30;
const LOWEST_OVER = 0.2;

/** How high a stroke stands by how far it is over its surroundings. @example heightOf(30) // all of the room */
export const heightOf = (over: number): number =>
  ROOM * clamp(Math.log(over / LOWEST_OVER) / Math.log(TALLEST_OVER / LOWEST_OVER), 0.03, 1);

/** Height of the threshold at a sensitivity, and the sensitivity of a height. */
export const thresholdHeight = (sensitivity: number): number => heightOf(leastOver(sensitivity));
export const sensitivityAt = (height: number): number =>
  clamp(sensitivityOf(LOWEST_OVER * (TALLEST_OVER / LOWEST_OVER) ** (height / ROOM)), 0, 1);

/** The lines that a picture's moments are placed by. While one of them is dragged, all stays where it was. */
export type Placed = Pick<Break, 'lines' | 'bar'>;

/** Pixels from a break's moments, as its lines were when a drag began. */
export const xOfMoment = (part: Pick<Part, 'meter' | 'origin'>, of: Pick<Break, 'lines' | 'bar'>, axis: Axis, at: number): number =>
  xOf(axis, tickOfMoment(part, of, at));
export const momentAtX = (part: Pick<Part, 'meter' | 'origin'>, of: Pick<Break, 'lines' | 'bar'>, axis: Axis, x: number): number =>
  momentOfTick(part, of, tickOf(axis, x));

/** Where marks are put: to the microsecond. */
export const toMicrosecond = (at: number): Seconds => seconds(Math.round(at * 1e6) / 1e6);

/** How near to a place a drag is taken to it, in pixels. */
const SNAP_PIXELS = 14;

/** The place that a drag means: the nearest of some, unless it is free. */
export function snapped(at: number, places: readonly number[], pixelsPerSecond: number, free: boolean): number {
  if (free) return at;
  let best = at;
  let least = SNAP_PIXELS / pixelsPerSecond;
  for (const place of places) {
    const away = Math.abs(place - at);
    if (away <= least) [best, least] = [place, away];
  }
  return best;
}

/** @example kindWords({ kind: 'snare', sure: 0.4 }) // 'snare?' */
export const kindWords = ({ kind, also, sure }: Pick<BreakStroke, 'kind' | 'also' | 'sure'>): string =>
  `${kind}${also ? `+${also}` : ''}${sure < UNSURE ? '?' : ''}`;

/** Under this a guess is shown as one. */
export const UNSURE = 0.6;
