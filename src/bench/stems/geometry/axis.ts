import { ticks, TICKS_PER_QUARTER, type Ticks } from '@/core/units';
import type { View } from '../../store/view';

/** Pixels to ticks and back; musical time runs evenly from left to right, never magnified. */
export interface Axis {
  scroll: Ticks;
  pixelsPerTick: number;
}

/** Room left of the first line, so that early heads of beat 1 are not cut off. */
export const LEFT_MARGIN = 28;

/** So small that a thousand bars are in sight. */
export const MIN_PIXELS_PER_QUARTER = 0.1;
export const MAX_PIXELS_PER_QUARTER = 640;

export const axisOf = (view: Pick<View, 'scroll' | 'pixelsPerQuarter'>): Axis => ({
  scroll: view.scroll,
  pixelsPerTick: view.pixelsPerQuarter / TICKS_PER_QUARTER,
});

export const xOf = (axis: Axis, tick: number): number => LEFT_MARGIN + (tick - axis.scroll) * axis.pixelsPerTick;
export const tickOf = (axis: Axis, x: number): Ticks => ticks(axis.scroll + (x - LEFT_MARGIN) / axis.pixelsPerTick);

/** Levels of detail by pixels a 1/16 step. */
export type Detail = 'full' | 'small' | 'ribbon' | 'band';

export function detailOf(pixelsPerStep: number): Detail {
  if (pixelsPerStep >= 16) return 'full';
  if (pixelsPerStep >= 8) return 'small';
  return pixelsPerStep >= 3 ? 'ribbon' : 'band';
}

/** A 1/16 in pixels: what leans and levels of detail are measured by. */
export const stepPixels = (axis: Axis): number => (axis.pixelsPerTick * TICKS_PER_QUARTER) / 4;
