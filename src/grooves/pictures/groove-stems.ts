import { clamp } from '@/core/units';
import type { Groove, GrooveStep } from '@/core/model/groove';

/** One step of a groove as a leaning stem, in pixels. */
export interface GrooveStem {
  index: number;
  footX: number;
  footY: number;
  headX: number;
  headY: number;
  side: 'early' | 'line' | 'late';
  /** It leans further than can be drawn. */
  broken: boolean;
  /** Learnt from no hit: drawn pale. */
  guessed: boolean;
  /** It stands on a beat of the groove. */
  onBeat: boolean;
}

export interface StemsFrame {
  width: number;
  height: number;
  /** Times that leans are drawn wider than they are. */
  magnified: number;
}

const MARGIN = 10;
/** Heads go no further than this part of a step, so that they never cross. */
const WIDEST = 0.45;
/** A level of 1 takes this part of the height. */
const LEVEL_SHARE = 0.52;
const SHORTEST = 8;
const TOP = 6;
/** Less than this, in steps, is on the line. */
const ON_LINE = 0.004;

export const stepWidth = (frame: StemsFrame, count: number): number => (frame.width - 2 * MARGIN) / count;

/** Lays out a list of steps: feet evenly, heads leaning by their offset, heights by their level. */
export function layOutSteps(groove: Pick<Groove, 'stepsPerBeat'>, steps: readonly GrooveStep[], frame: StemsFrame): GrooveStem[] {
  const width = stepWidth(frame, steps.length);
  const footY = frame.height - 3;
  const tallest = footY - TOP;
  return steps.map(({ offset, level, n }, index) => {
    const footX = MARGIN + (index + 0.5) * width;
    const wanted = offset * frame.magnified;
    const lean = clamp(wanted, -WIDEST, WIDEST);
    return {
      index,
      footX,
      footY,
      headX: footX + lean * width,
      headY: footY - clamp(level * LEVEL_SHARE * tallest, SHORTEST, tallest),
      side: offset < -ON_LINE ? 'early' : offset > ON_LINE ? 'late' : 'line',
      broken: Math.abs(wanted) > WIDEST,
      guessed: n === 0,
      onBeat: index % groove.stepsPerBeat === 0,
    };
  });
}

/** The offset and level for which a head would stand at a place; the inverse of {@link layOutSteps}. */
export function stepUnderHead(
  frame: StemsFrame,
  count: number,
  index: number,
  headX: number,
  headY: number,
): { offset: number; level: number } {
  const width = stepWidth(frame, count);
  const footX = MARGIN + (index + 0.5) * width;
  const footY = frame.height - 3;
  return {
    offset: clamp((headX - footX) / width, -WIDEST, WIDEST) / frame.magnified,
    level: Math.max(0, (footY - headY) / (LEVEL_SHARE * (footY - TOP))),
  };
}

/** Lenses: each named by the lean that it shows in full, in percent of a step. */
export const LENSES = [15, 30, 45] as const;
export const magnificationOf = (lens: number): number => (WIDEST * 100) / lens;

/** The narrowest lens that shows a groove without a break. */
export function lensFor(groove: Groove): number {
  const largest = Math.max(...[groove.steps, ...Object.values(groove.voices ?? {})].flat().map((s) => Math.abs(s.offset))) * 100;
  return LENSES.find((l) => largest <= l) ?? LENSES[LENSES.length - 1] ?? 45;
}
