/** How grooves are spoken of: places, leans, lengths, and how they meet a part. */
import { plural } from '@/core/plurals';
import type { Groove } from '@/core/model/groove';
import type { Meeting } from '@/core/groove/meeting';
import type { Verdict } from '@/core/learn/study';
import type { Bpm } from '@/core/units';

const SUBS: Readonly<Record<number, readonly string[]>> = { 2: ['', '&'], 3: ['', '2nd', '3rd'], 4: ['', 'e', '&', 'a'] };

/**
 * A step's name: counted in quarters, in meters of eighths in eighths.
 * @example stepName({ meter: [4, 4], stepsPerBeat: 4 }, 6) // '2 &'
 */
export function stepName({ meter, stepsPerBeat }: Pick<Groove, 'meter' | 'stepsPerBeat'>, index: number): string {
  const eighths = meter[1] === 8;
  const perCount = eighths ? stepsPerBeat / 2 : stepsPerBeat;
  const counts = Math.max(1, meter[0]);
  const count = Math.floor(index / perCount + 1e-9);
  const within = Math.round(index - count * perCount);
  const bar = Math.floor(count / counts);
  const name = `${bar > 0 ? `${bar + 1}.` : ''}${(count % counts) + 1}`;
  const sub = SUBS[perCount]?.[within] ?? (within === 0 ? '' : `+${within}/${perCount}`);
  return sub ? `${name} ${sub}` : name;
}

export const stepMs = (offset: number, stepsPerBeat: number, tempo: Bpm): number => (offset * 60_000) / tempo / stepsPerBeat;

/** @example leanWords(0.12, 4, bpm(100)) // '12 % late, 18.0 ms' */
export function leanWords(offset: number, stepsPerBeat: number, tempo: Bpm): string {
  const percent = Math.round(offset * 1000) / 10;
  if (percent === 0) return 'on the grid';
  return `${Math.abs(percent)} % ${offset < 0 ? 'early' : 'late'}, ${Math.abs(stepMs(offset, stepsPerBeat, tempo)).toFixed(1)} ms`;
}

/** @example msWords(-3.2) // '3.2 ms early' */
export const msWords = (ms: number): string =>
  Math.abs(ms) < 0.05 ? 'on the grid' : `${Math.abs(ms).toFixed(1)} ms ${ms < 0 ? 'early' : 'late'}`;

const quarters = (n: number): string => `${Math.round(n * 100) / 100} ${plural(n, 'quarter')}`;

/** @example sizeWords(hold) // '4/4 · 4 quarters · 16 steps' */
export const sizeWords = (groove: Groove): string =>
  `${groove.meter.join('/')} · ${quarters(groove.beats)} · ${groove.steps.length} steps${groove.voices ? ` · ${Object.keys(groove.voices).length} rows of their own` : ''}`;

/** What happens where a groove is not as long as a bar; empty where it is. */
export function meetingWords({ kind, groove, bar, bars }: Meeting): string {
  const sizes = `The groove lasts ${quarters(groove)}, a bar of this part ${quarters(bar)}`;
  switch (kind) {
    case 'same':
      return '';
    case 'divides':
      return `${sizes}: it repeats ${Math.round(bar / groove)} times in each bar.`;
    case 'restarts':
      return `${sizes}: each bar starts it again, and its beginning fills up the bar.`;
    case 'loses-end':
      return `${sizes}: each bar starts it again, so its end is never heard.`;
    case 'bars':
      return `${sizes}: one round takes ${bars} bars, counted from the start of the part.`;
    case 'bars-restarts':
      return `${sizes}: it starts again every ${bars} bars, and its beginning fills them up.`;
    case 'bars-loses-end':
      return `${sizes}: it starts again every ${bars} bars, so its end is never heard.`;
  }
}

/** What a study found, as one sentence. */
export function verdictWords(timing: Verdict, levels: Verdict): string {
  if (timing === 'none' && levels === 'none') return 'Nothing to extract: every hit is on its step, and all are equally loud.';
  if (timing === 'few' || levels === 'few') return 'Too few hits: with about one per step, a habit cannot be told from chance.';
  if (timing !== 'habit' && levels !== 'habit')
    return 'Nothing to extract: the hits vary, but no step has a habit of its own. Other steps or fewer rows may tell more.';
  if (timing === 'none') return 'Straight in time; its levels can be extracted.';
  if (timing === 'scatter') return 'In time there is chance alone, with these rows and steps; its levels can be extracted.';
  if (levels !== 'habit') return 'A habit in time; the levels say nothing.';
  return 'A habit in time and in level.';
}

/** How much of the deviation learnt steps explain. @example fitWords(0.934) // 'the steps explain 93 % of the spread' */
export function fitWords(fit: number | null | undefined): string {
  if (fit === null || fit === undefined) return 'no spread';
  return fit <= 0 ? 'the steps explain none of the spread' : `the steps explain ${Math.round(fit * 100)} % of the spread`;
}
