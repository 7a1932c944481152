import { writtenPerformance, type Performance } from '../perform/perform';
import { mod } from '../time/cycle';
import { deviation, mean, median } from '../statistics';
import { NamedError } from '../errors';
import { meterMapOf } from '../part/part-time';
import type { Part } from '../model/part';
import { clamp, TICKS_PER_QUARTER } from '../units';
import type { VoiceName } from '../row-names';
import { MOST_LEVEL, MOST_OFFSET, type Groove, type GrooveStep } from '../model/groove';
import { stepCount } from '../groove/steps';
import { lessonsByVoice, lessonsOf, type Lesson } from './lessons';

export interface LearnOptions {
  name?: string;
  /** Extract from these alone; from all voices without it. */
  voices?: readonly VoiceName[] | undefined;
  /** Separate timing per row, beside that of all. */
  perVoice?: boolean;
  /**
   * `rows`: each row keeps levels relative to its own mean, so that an accent of the snare moves no hat; the shared steps have those of the
   * row with most hits. `all`, the default: one level per step for all rows.
   */
  levels?: LearntLevels;
  /** Length in quarter notes; one bar of the first meter without it. */
  beats?: number;
  /** 1 to 24; 4 without it. */
  stepsPerBeat?: number;
  /** Hits that are left out, by index: outliers. */
  without?: ReadonlySet<number>;
}

export const LEARNT_LEVELS = ['rows', 'all'] as const;
export type LearntLevels = (typeof LEARNT_LEVELS)[number];

/** Fewest hits that show a row's own timing. */
const ENOUGH_FOR_TIMING = 8;

/** Whether separate timing per row is worth having: at least two rows have 8 hits or more. */
export function rowsTellTiming(part: Pick<Part, 'hits'>): boolean {
  const counts = new Map<VoiceName, number>();
  for (const { voice, choke } of part.hits) if (!choke) counts.set(voice, (counts.get(voice) ?? 0) + 1);
  return [...counts.values()].filter((n) => n >= ENOUGH_FOR_TIMING).length >= 2;
}

/** A learnt groove, and what each hit said. */
export interface LearntGroove {
  groove: Groove;
  lessons: readonly Lesson[];
}

/**
 * Learns a groove: each hit goes to its nearest step of the straight grid (ties to the later), bars fold onto the groove's length. A
 * step's offset is the median deviation of its hits, its level their velocity over the mean velocity of their own voice, its spread the
 * deviation of their ms around the mean. Steps without hits take the offset between their neighbours and level 1. Chokes say nothing.
 * `fit` = 1 - mean(residual^2) / mean(deviation^2); null where every deviation is 0.
 * @param performance what is learnt from; the hits as written without it
 * @throws NamedError nothing-to-learn where no hit is left
 * @example learnGroove(part, { perVoice: true, stepsPerBeat: 4 })
 */
export const learnGroove = (part: Part, options: LearnOptions = {}, performance: Performance = writtenPerformance(part)): Groove =>
  learnWithLessons(part, options, performance).groove;

/** {@link learnGroove}, with what each hit said. */
export function learnWithLessons(part: Part, options: LearnOptions, performance: Performance): LearntGroove {
  const { name = part.name, voices, perVoice = false, levels = 'all', stepsPerBeat = 4, without } = options;
  const first = meterMapOf(part).barOf(0);
  const beats = options.beats ?? first.length / TICKS_PER_QUARTER;
  const count = stepCount(beats, stepsPerBeat);
  const lessons = lessonsOf(part, performance, { voices, without, stepsPerBeat, count });
  if (lessons.length === 0) throw new NamedError('nothing-to-learn');
  const rows = lessonsByVoice(lessons);
  const shared = stepsOf(lessons, count);
  const own = new Map<VoiceName, GrooveStep[]>();
  const isByRow = levels === 'rows' && rows.size > 1;
  if (perVoice || isByRow)
    for (const [voice, list] of rows) {
      const steps = stepsOf(list, count);
      own.set(voice, perVoice ? steps : steps.map((s, i) => ({ ...s, offset: (shared[i] as GrooveStep).offset })));
    }
  // Rows that the groove does not have follow its timekeeper, the row with most hits.
  const [leading] = [...rows].sort((a, b) => b[1].length - a[1].length)[0] as [VoiceName, Lesson[]];
  const steps = isByRow ? shared.map((s, i) => ({ ...s, level: ((own.get(leading) as GrooveStep[])[i] as GrooveStep).level })) : shared;
  const groove: Groove = {
    format: 'nod-sway/groove@1',
    name: name.slice(0, 120) || 'Groove',
    meter: [first.meter.numerator, first.meter.denominator],
    beats,
    stepsPerBeat,
    steps,
    ...(own.size > 0 ? { voices: Object.fromEntries([...own].sort((a, b) => (a[0] < b[0] ? -1 : 1))) } : {}),
    fit: fitOf(lessons, (l) => ((own.get(l.voice) ?? steps)[l.step] as GrooveStep).offset),
  };
  return { groove, lessons };
}

function stepsOf(lessons: readonly Lesson[], count: number): GrooveStep[] {
  const grouped = Array.from({ length: count }, (): Lesson[] => []);
  for (const lesson of lessons) (grouped[lesson.step] as Lesson[]).push(lesson);
  const offsets = grouped.map((own) => (own.length > 0 ? clamp(median(own.map((l) => l.deviation)), -MOST_OFFSET, MOST_OFFSET) : null));
  return grouped.map((own, i): GrooveStep => {
    const offset = offsets[i] ?? between(offsets, i);
    if (own.length === 0) return { offset, level: 1, n: 0 };
    return { offset, level: clamp(mean(own.map((l) => l.level)), 0, MOST_LEVEL), n: own.length, spreadMs: deviation(own.map((l) => l.ms)) };
  });
}

/** The offset of a step without hits: on the straight line between its learnt neighbours, around the end. */
function between(offsets: readonly (number | null)[], at: number): number {
  const count = offsets.length;
  const distance = (direction: 1 | -1): number => {
    let d = 1;
    while (d < count && offsets[mod(at + direction * d, count)] === null) d++;
    return d;
  };
  const [back, on] = [distance(-1), distance(1)];
  const [before, after] = [offsets[mod(at - back, count)] ?? 0, offsets[mod(at + on, count)] ?? 0];
  return before + ((after - before) * back) / (back + on);
}

function fitOf(lessons: readonly Lesson[], offsetOf: (lesson: Lesson) => number): number | null {
  const deviations = mean(lessons.map((l) => l.deviation ** 2));
  if (deviations === 0) return null;
  return 1 - mean(lessons.map((l) => (l.deviation - offsetOf(l)) ** 2)) / deviations;
}
