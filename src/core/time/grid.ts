import { ticks, TICKS_PER_WHOLE, type Ticks } from '../units';
import type { Bar, MeterMap } from './meter-map';

/** Grids by name; T marks triplets, so that a 4/4 bar has twelve 1/8T. */
export const GRIDS = ['1/4', '1/8', '1/16', '1/32', '1/64', '1/4T', '1/8T', '1/16T', '1/32T', '1/64T'] as const;
export type GridName = (typeof GRIDS)[number];

const STEPS = new Map<GridName, Ticks>(
  GRIDS.map((name) => {
    const divisor = Number(name.slice(2).replace('T', ''));
    return [name, ticks((TICKS_PER_WHOLE / divisor) * (name.endsWith('T') ? 2 / 3 : 1))];
  }),
);

/** @example stepOf('1/16') // 20160; stepOf('1/8T') // 26880 */
export const stepOf = (grid: GridName): Ticks => STEPS.get(grid) as Ticks;

export const isTriplet = (grid: GridName): boolean => grid.endsWith('T');

/** A line of a grid: its tick, and which step of which bar it is (steps count from 0 at the bar line). */
export interface GridLine {
  tick: Ticks;
  bar: number;
  step: number;
}

/** The nearest place to `place` within a bar: a multiple of `step`, or the bar's end. Ties go to the later. */
export function nearestPlace(place: number, step: number, barLength: number): number {
  const line = Math.floor(place / step + 0.5) * step;
  if (line >= barLength || barLength - place <= Math.abs(place - line)) return barLength;
  return line;
}

/**
 * The grid line nearest to a tick, ties to the later. Lines restart at each bar line, which is the next bar's step 0.
 * @example nearestLine(map, ticks(20000), stepOf('1/16')) // { tick: 20160, bar: 0, step: 1 }
 */
export function nearestLine(map: MeterMap, tick: Ticks, step: Ticks, bar: Bar = map.barAt(tick)): GridLine {
  const place = nearestPlace(tick - bar.start, step, bar.length);
  if (place === bar.length) return { tick: ticks(bar.start + place), bar: bar.index + 1, step: 0 };
  return { tick: ticks(bar.start + place), bar: bar.index, step: Math.round(place / step) };
}
