import type { Ticks } from '../units';
import { nearestLine } from './grid';
import type { MeterMap } from './meter-map';

/** @example mod(-1, 4) // 3 */
export const mod = (n: number, m: number): number => ((n % m) + m) % m;

/** One round of a cycle, in ticks. */
export interface CycleRound {
  start: number;
  end: number;
}

/**
 * The round that a bar belongs to: cycles shorter than one and a half bars restart at each bar line, longer ones run on over
 * round(cycle / bar) whole bars from the part's start.
 */
export function roundOfBar(map: MeterMap, bar: number, cycle: number): CycleRound {
  const own = map.barOf(bar);
  const span = Math.round(cycle / own.length);
  if (span <= 1) return { start: own.start, end: own.start + own.length };
  const first = bar - mod(bar, span);
  return { start: map.barOf(first).start, end: map.barOf(first + span).start };
}

/** Index of the step nearest to a tick within a cycle of `of` steps (ties to the later). */
export function stepInCycle(map: MeterMap, tick: Ticks, step: Ticks, of: number): number {
  const line = nearestLine(map, tick, step);
  const bar = map.barOf(line.bar);
  if (Math.round((of * step) / bar.length) <= 1) return mod(line.step, of);
  const { start } = roundOfBar(map, line.bar, of * step);
  return mod(Math.round((line.tick - start) / step), of);
}
