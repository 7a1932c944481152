import { writtenPerformance, type Performance } from '../feel/perform';
import { mod, roundOfBar } from '../feel/cycle';
import { deviation, mean, median } from '../statistics';
import { NamedError } from '../errors';
import { meterMapOf, tempoMapOf } from '../part/part-time';
import type { Hit, Part } from '../part/part';
import type { MeterMap } from '../time/meter-map';
import { clamp, ticks, TICKS_PER_QUARTER } from '../units';
import type { VoiceName } from '../voices';
import type { Groove, GrooveStep } from './groove';

export interface LearnOptions {
  name?: string;
  /** Learn from these alone; from all voices without it. */
  voices?: readonly VoiceName[];
  /** Steps of its own for each voice, beside those of all. */
  perVoice?: boolean;
  /** Length in quarter notes; one bar of the first meter without it. */
  beats?: number;
  /** 1 to 24; 4 without it. */
  stepsPerBeat?: number;
}

export const MOST_BEATS = 64;
export const MOST_STEPS_A_BEAT = 24;

/** What one hit says of its step. */
interface Lesson {
  voice: VoiceName;
  step: number;
  /** Deviation from the step's line, in steps. */
  deviation: number;
  ms: number;
  velocity: number;
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
export function learnGroove(part: Part, options: LearnOptions = {}, performance: Performance = writtenPerformance(part)): Groove {
  const { name = part.name, voices, perVoice = false, stepsPerBeat = 4 } = options;
  const map = meterMapOf(part);
  const first = map.barOf(0);
  const beats = options.beats ?? first.length / TICKS_PER_QUARTER;
  const count = Math.max(1, Math.round(beats * stepsPerBeat));
  const lessons = lessonsOf(part, performance, map, voices && new Set(voices), stepsPerBeat, count);
  if (lessons.length === 0) throw new NamedError('nothing-to-learn');
  const levels = levelsOf(lessons);
  const steps = stepsOf(lessons, levels, count);
  const own = new Map<VoiceName, GrooveStep[]>();
  if (perVoice) for (const [voice, list] of byVoice(lessons)) own.set(voice, stepsOf(list, levels, count));
  return {
    format: 'nod-sway/groove@1',
    name: name.slice(0, 120) || 'Groove',
    meter: [first.meter.numerator, first.meter.denominator],
    beats,
    stepsPerBeat,
    steps,
    ...(perVoice ? { voices: Object.fromEntries([...own].sort((a, b) => (a[0] < b[0] ? -1 : 1))) } : {}),
    fit: fitOf(lessons, (l) => ((own.get(l.voice) ?? steps)[l.step] as GrooveStep).offset),
  };
}

function lessonsOf(part: Part, performance: Performance, map: MeterMap, voices: ReadonlySet<VoiceName> | undefined, stepsPerBeat: number, count: number): Lesson[] {
  const tempo = tempoMapOf(part);
  const step = TICKS_PER_QUARTER / stepsPerBeat;
  const length = count * step;
  const lessons: Lesson[] = [];
  part.hits.forEach((hit: Hit, i) => {
    if (hit.choke || (voices && !voices.has(hit.voice))) return;
    const tick = performance.ticks[i] as number;
    const round = roundOfBar(map, map.barAt(ticks(tick)).index, length);
    const place = tick - round.start;
    const line = Math.floor(place / step + 0.5) * step;
    // Where the round's end is nearer, the hit is an early one of the next round.
    const end = round.end - round.start;
    const late = line >= end || end - place <= Math.abs(place - line);
    const nearest = late ? end : line;
    lessons.push({
      voice: hit.voice,
      step: late ? 0 : mod(Math.round(nearest / step), count),
      deviation: (place - nearest) / step,
      ms: tempo.between(ticks(round.start + nearest), ticks(tick)),
      velocity: performance.velocities[i] as number,
    });
  });
  return lessons;
}

function byVoice(lessons: readonly Lesson[]): Map<VoiceName, Lesson[]> {
  const groups = new Map<VoiceName, Lesson[]>();
  for (const lesson of lessons) {
    const own = groups.get(lesson.voice);
    if (own) own.push(lesson);
    else groups.set(lesson.voice, [lesson]);
  }
  return groups;
}

/** Velocity of each lesson over the mean of its voice. */
function levelsOf(lessons: readonly Lesson[]): Map<Lesson, number> {
  const levels = new Map<Lesson, number>();
  for (const own of byVoice(lessons).values()) {
    const usual = mean(own.map((l) => l.velocity));
    for (const lesson of own) levels.set(lesson, lesson.velocity / usual);
  }
  return levels;
}

function stepsOf(lessons: readonly Lesson[], levels: ReadonlyMap<Lesson, number>, count: number): GrooveStep[] {
  const grouped = Array.from({ length: count }, (): Lesson[] => []);
  for (const lesson of lessons) (grouped[lesson.step] as Lesson[]).push(lesson);
  const offsets = grouped.map((own) => (own.length > 0 ? clamp(median(own.map((l) => l.deviation)), -0.5, 0.5) : null));
  return grouped.map((own, i): GrooveStep => {
    const offset = offsets[i] ?? between(offsets, i);
    if (own.length === 0) return { offset, level: 1, n: 0 };
    return { offset, level: clamp(mean(own.map((l) => levels.get(l) as number)), 0, 2), n: own.length, spreadMs: deviation(own.map((l) => l.ms)) };
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
