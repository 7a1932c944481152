import { clamp } from '../units';
import { median } from '../statistics';
import type { VelocityCurve } from '../velocity-curve';

/** Strokes of each strength that a pad's curve is learnt from. */
export const STROKES_A_STRENGTH = 8;
export const STRENGTHS = ['soft', 'medium', 'hard'] as const;
export type Strength = (typeof STRENGTHS)[number];
/** What strokes of these strengths are to become. */
export const WANTED: Readonly<Record<Strength, number>> = { soft: 36, medium: 76, hard: 116 };

const [LEAST_POWER, MOST_POWER, POWER_STEP] = [0.25, 4, 0.05];
/** A weak pad's curve may rise beyond what a velocity can be: it is cut there. */
const HIGHEST = 512;
/** Strengths that differ by less cannot be told apart. */
const LEAST_APART = 4;

/**
 * The curve that makes strokes of three strengths as loud as is wanted of them: by the median of each, the power that leaves the least
 * error, floor and ceiling by least squares.
 * @param strokes velocities as the device sent them
 * @returns null where soft, medium and hard cannot be told apart
 * @example learnCurve({ soft: [20, ...], medium: [45, ...], hard: [80, ...] }) // a curve with which 20, 45 and 80 become about 36, 76
 *   and 116
 */
export function learnCurve(strokes: Readonly<Record<Strength, readonly number[]>>): VelocityCurve | null {
  const middles = STRENGTHS.map((s) => median(strokes[s]));
  const [soft, medium, hard] = middles as [number, number, number];
  if (medium - soft < LEAST_APART || hard - medium < LEAST_APART) return null;
  let best: { curve: VelocityCurve; error: number } | null = null;
  for (let power = LEAST_POWER; power <= MOST_POWER + 1e-9; power += POWER_STEP) {
    const shares = middles.map((v) => ((clamp(v, 1, 127) - 1) / 126) ** power);
    const found = fit(
      shares,
      STRENGTHS.map((s) => WANTED[s]),
    );
    const floor = Math.round(clamp(found.floor, 1, 126));
    const ceiling = Math.round(clamp(found.floor + found.rise, floor + 1, HIGHEST));
    const error = shares.reduce((sum, share, i) => sum + (floor + (ceiling - floor) * share - WANTED[STRENGTHS[i] as Strength]) ** 2, 0);
    if (!best || error < best.error - 1e-9) best = { curve: { power: Math.round(power * 100) / 100, floor, ceiling }, error };
  }
  return best?.curve ?? null;
}

/** The straight line through some points, by least squares. */
function fit(xs: readonly number[], ys: readonly number[]): { floor: number; rise: number } {
  const n = xs.length;
  const [mx, my] = [xs.reduce((a, b) => a + b, 0) / n, ys.reduce((a, b) => a + b, 0) / n];
  const over = xs.reduce((sum, x, i) => sum + (x - mx) * ((ys[i] as number) - my), 0);
  const under = xs.reduce((sum, x) => sum + (x - mx) ** 2, 0);
  const rise = under > 0 ? over / under : 0;
  return { floor: my - rise * mx, rise };
}

/** Strokes of one pad, strength after strength. */
export interface CurveLesson {
  /** The pad that was struck first. */
  key: number | null;
  strokes: Readonly<Record<Strength, readonly number[]>>;
}

export const NEW_LESSON: CurveLesson = { key: null, strokes: { soft: [], medium: [], hard: [] } };

/** The strength that is wanted now; null when all are there. */
export const wantedIn = ({ strokes }: CurveLesson): Strength | null =>
  STRENGTHS.find((s) => strokes[s].length < STROKES_A_STRENGTH) ?? null;

/** After a stroke; those of other pads do not count. */
export function struckIn(lesson: CurveLesson, key: number, velocity: number): CurveLesson {
  const wanted = wantedIn(lesson);
  if (!wanted || (lesson.key !== null && lesson.key !== key)) return lesson;
  return { key, strokes: { ...lesson.strokes, [wanted]: [...lesson.strokes[wanted], velocity] } };
}
