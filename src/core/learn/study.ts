import type { Performance } from '../perform/perform';
import type { Part } from '../model/part';
import { deviation, mean, median } from '../statistics';
import type { VoiceName } from '../row-names';
import type { Groove, GrooveStep } from '../model/groove';
import { stepsFor } from '../groove/steps';
import { learnWithLessons, type LearnOptions } from './learn';
import { grouped, type Lesson } from './lessons';

/**
 * What there is to learn from a part: a habit that comes back; none at all; scatter, that is, deviations without a habit; or too few hits
 * to tell one from the other.
 */
export type Verdict = 'habit' | 'none' | 'scatter' | 'few';

/** A hit that lies far from what the others of its step do. */
export interface Outlier {
  /** Index of the hit in the part. */
  hit: number;
  voice: VoiceName;
  step: number;
  /** How much later than its step's offset, in ms. */
  ms: number;
}

export interface Study {
  groove: Groove;
  timing: Verdict;
  levels: Verdict;
  outliers: Outlier[];
  /** Typical distance of hits from their step's offset, in ms: the deviation of the residuals. */
  scatterMs: number;
  hits: number;
  /** Where all steps are early or late by about the same: how much, in ms. Then the lines want moving, not a groove. */
  commonMs: number | null;
}

/** Steps that explain less of the deviation than this are no habit. */
const LEAST_FIT = 0.05;
/** Less is no lean: in ms, and in level. */
const STRAIGHT_MS = 0.75;
const FLAT_LEVEL = 0.01;
/** Median deviations from the middle make a standard deviation: 1 / 0.6745 for normal scatter. */
const SIGMA_OF_MEDIAN = 1.4826;
/** A hit is an outlier from so many deviations on, and never within so many ms. */
const OUTLIER_SIGMAS = 3.5;
const OUTLIER_MS = 12;

/**
 * Learns a groove and says how far it can be trusted.
 * @throws NamedError nothing-to-learn
 */
export function studyGroove(part: Part, options: LearnOptions, performance: Performance): Study {
  const { groove, lessons } = learnWithLessons(part, options, performance);
  const stepOf = (l: Lesson): GrooveStep => stepsFor(groove, l.voice)[l.step] as GrooveStep;
  // In ms at each hit's own tempo: deviation in steps and in ms go together.
  const msPerStep = (l: Lesson): number => (l.deviation === 0 ? 0 : l.ms / l.deviation);
  const residuals = lessons.map((l) => (l.deviation - stepOf(l).offset) * (msPerStep(l) || typicalStepMs(lessons)));
  const sigma = SIGMA_OF_MEDIAN * median(residuals.map(Math.abs));
  const limit = Math.max(OUTLIER_MS, OUTLIER_SIGMAS * sigma);
  const outliers = lessons.flatMap((l, i): Outlier[] =>
    Math.abs(residuals[i] as number) > limit ? [{ hit: l.hit, voice: l.voice, step: l.step, ms: residuals[i] as number }] : [],
  );
  const cells = [...grouped(lessons, (l) => `${groove.voices ? l.voice : ''} ${l.step}`).values()];
  const timing = verdictOf(cells, (l) => l.ms, STRAIGHT_MS, MEDIAN_EFFICIENCY);
  return {
    groove,
    // Hits of a step that fall into two places have a middle that explains nothing.
    timing: timing === 'habit' && (groove.fit ?? 0) < LEAST_FIT ? 'scatter' : timing,
    levels: verdictOf(cells, (l) => l.level - 1, FLAT_LEVEL, 1),
    outliers,
    scatterMs: Math.sqrt(mean(residuals.map((r) => r * r))),
    hits: lessons.length,
    commonMs: commonOf(cells.map((cell) => median(cell.map((l) => l.ms)))),
  };
}

/** Steps differ among themselves by less than this part of what they share. */
const MOSTLY = 1 / 3;
const LEAST_COMMON_MS = 4;

function commonOf(middles: readonly number[]): number | null {
  const shared = mean(middles);
  return Math.abs(shared) >= LEAST_COMMON_MS && deviation(middles) < Math.abs(shared) * MOSTLY ? shared : null;
}

function typicalStepMs(lessons: readonly Lesson[]): number {
  const moved = lessons.filter((l) => l.deviation !== 0);
  return moved.length === 0 ? 0 : median(moved.map((l) => l.ms / l.deviation));
}

/** A median of normal scatter varies pi/2 times as much as a mean. */
const MEDIAN_EFFICIENCY = Math.PI / 2;

/**
 * A habit shows where the middles of the steps differ from the line by more than scatter alone would make them: the mean of
 * n x middle^2 over the variance within steps is near 1 for scatter (the F test of a one-way analysis of variance: R. A. Fisher,
 * Statistical Methods for Research Workers, 1925); three of its deviations above that are taken for a habit.
 */
function verdictOf(cells: readonly (readonly Lesson[])[], valueOf: (l: Lesson) => number, least: number, inefficiency: number): Verdict {
  const values = cells.map((cell) => cell.map(valueOf));
  const all = values.flat();
  if (all.every((v) => Math.abs(v) < least)) return 'none';
  const freedom = all.length - cells.length;
  const middles = values.map((own) => (inefficiency > 1 ? median(own) : mean(own)));
  if (freedom < cells.length / 2) return 'few';
  const within = values.reduce((sum, own, i) => sum + own.reduce((s, v) => s + (v - (middles[i] as number)) ** 2, 0), 0) / freedom;
  const among = values.reduce((sum, own, i) => sum + own.length * (middles[i] as number) ** 2, 0) / cells.length;
  if (within < least ** 2 / 4) return middles.some((m) => Math.abs(m) >= least) ? 'habit' : 'none';
  const expected = 3 * Math.sqrt(2 / cells.length + 2 / freedom);
  return among / within > inefficiency * (1 + expected) ? 'habit' : 'scatter';
}
