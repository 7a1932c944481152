import { normalStream } from '../random';
import { clamp } from '../units';

/**
 * The shapes that a row of values can be given. Each is a pure function from values to values; places are numbers that rise with
 * time (ticks will do), limits are applied by whoever keeps the values, so that a shape comes back when a gesture is taken back.
 */

/** All to one value. */
export const setTo = (values: readonly number[], value: number): number[] => values.map(() => value);

/** All by the same amount: the differences stay. */
export const add = (values: readonly number[], by: number): number[] => values.map((v) => v + by);

/** All by the same factor. */
export const scale = (values: readonly number[], factor: number): number[] => values.map((v) => v * factor);

/**
 * Compresses (factor under 1) or expands (over 1) the distances to a pivot.
 * @example stretch([60, 100], 80, 0.5) // [70, 90]
 */
export const stretch = (values: readonly number[], pivot: number, factor: number): number[] =>
  values.map((v) => pivot + (v - pivot) * factor);

/** None under `low`, none over `high`. */
export const limit = (values: readonly number[], low: number, high: number): number[] =>
  values.map((v) => clamp(v, Math.min(low, high), Math.max(low, high)));

/** Each moved at random by at most `range` either way, evenly distributed; with `keepMean` around the mean that was. */
export function scatter(values: readonly number[], range: number, random: () => number, keepMean: boolean): number[] {
  const draws = values.map(() => (random() * 2 - 1) * range);
  const off = keepMean && draws.length > 0 ? draws.reduce((a, b) => a + b, 0) / draws.length : 0;
  return values.map((v, i) => v + (draws[i] as number) - off);
}

/**
 * Each drawn anew between two limits, evenly: none beyond either.
 * @example between([60, 60], 70, 120, random) // two values from 70 to 120
 */
export function between(values: readonly number[], from: number, to: number, random: () => number): number[] {
  const [low, high] = [Math.min(from, to), Math.max(from, to)];
  return values.map(() => low + random() * (high - low));
}

/** Louder and louder, or softer, each as a share of itself: accents stay accents. */
export function crescendo(
  places: readonly number[],
  values: readonly number[],
  fromPercent: number,
  toPercent: number,
  bend: number,
): number[] {
  const factors = ramp(places, fromPercent / 100, toPercent / 100, bend);
  return values.map((v, i) => v * (factors[i] as number));
}

/** Which of some are touched where only a few are meant. */
export interface Few {
  /** So many; all without it. */
  of?: number;
  /** None at moments that follow each other, whatever row they are on. */
  apart?: boolean;
  /** Those of the first and the last moment are left. */
  keepEnds?: boolean;
}

/**
 * A random few: so many as are asked for, or as there can be.
 * @param places what is at one place is one moment
 * @returns flags, parallel to the places
 * @example fewOf([0, 1, 2, 3], { apart: true }, random).filter(Boolean).length // 2
 */
export function fewOf(places: readonly number[], { of, apart = false, keepEnds = false }: Few, random: () => number): boolean[] {
  const moments = new Map([...new Set(places)].sort((a, b) => a - b).map((place, n) => [place, n]));
  const momentOf = places.map((place) => moments.get(place) as number);
  const open = momentOf.map((moment) => !(keepEnds && (moment === 0 || moment === moments.size - 1)));
  if (of === undefined && !apart) return open;
  const order = [...open.keys()]
    .filter((i) => open[i])
    .map((i) => ({ i, at: random() }))
    .sort((a, b) => a.at - b.at);
  const taken = new Array<boolean>(places.length).fill(false);
  const takenMoments = new Set<number>();
  let left = of ?? places.length;
  for (const { i } of order) {
    if (left === 0) break;
    const moment = momentOf[i] as number;
    if (apart && (takenMoments.has(moment - 1) || takenMoments.has(moment + 1))) continue;
    taken[i] = true;
    takenMoments.add(moment);
    left--;
  }
  return taken;
}

/** Loud and soft in turn, or any cycle of levels: the n-th place gets the n-th level. Values at one place share it. */
export function alternate(places: readonly number[], levels: readonly number[]): number[] {
  let n = -1;
  let before = -Infinity;
  return places.map((place) => {
    if (place > before) n++;
    before = place;
    return levels[n % levels.length] as number;
  });
}

/**
 * From one value to another over the places. `bend` 0 is a straight line; towards 1 it stays low and rises late, towards -1 early.
 * @example ramp([0, 1, 2], 40, 100, 0) // [40, 70, 100]
 */
export function ramp(places: readonly number[], from: number, to: number, bend: number): number[] {
  const first = places[0] ?? 0;
  const length = (places[places.length - 1] ?? 0) - first;
  const power = 4 ** clamp(bend, -1, 1);
  return places.map((place) => (length <= 0 ? to : from + (to - from) * ((place - first) / length) ** power));
}

/** A drawn point: a place and the value there. */
export interface LinePoint {
  place: number;
  value: number;
}

/** Values along a drawn line; places outside of it keep theirs. @param points sorted by place */
export function alongLine(places: readonly number[], values: readonly number[], points: readonly LinePoint[]): number[] {
  const first = points[0];
  const last = points[points.length - 1];
  if (!first || !last) return [...values];
  let k = 0;
  return places.map((place, i) => {
    if (place < first.place || place > last.place) return values[i] as number;
    if (place < (points[k] as LinePoint).place) k = 0;
    while (k < points.length - 2 && (points[k + 1] as LinePoint).place < place) k++;
    const a = points[k] as LinePoint;
    const b = points[k + 1] ?? a;
    if (b.place === a.place) return b.value;
    return a.value + ((b.value - a.value) * (place - a.place)) / (b.place - a.place);
  });
}

/**
 * Accents: each value times the level of its step in the bar, as deep as `depth` (0 none, 1 all).
 * @param steps index of each value's step in the bar
 */
export const accents = (values: readonly number[], steps: readonly number[], levels: readonly number[], depth: number): number[] =>
  values.map((v, i) => v * (1 + depth * ((levels[(steps[i] as number) % levels.length] as number) - 1)));

/** Gives the values another mean and spread (population deviation), keeping their shape; equal values stay equal. */
export function reshape(values: readonly number[], mean: number, deviation: number): number[] {
  const now = momentsOf(values);
  const factor = now.deviation > 0 ? deviation / now.deviation : 0;
  return values.map((v) => mean + (v - now.mean) * factor);
}

/** Draws all values anew with a mean and spread (normal distribution, cut at 2.5 deviations), then sets both exactly. */
export function reroll(values: readonly number[], mean: number, deviation: number, random: () => number): number[] {
  const normal = normalStream(random);
  const draws = values.map(() => clamp(normal(), -2.5, 2.5));
  return values.length > 1 ? reshape(draws, mean, deviation) : values.map(() => mean);
}

/** Mean and population deviation. */
export function momentsOf(values: readonly number[]): { mean: number; deviation: number } {
  if (values.length === 0) return { mean: 0, deviation: 0 };
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  return { mean, deviation: Math.sqrt(values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / values.length) };
}
