import type { Performance } from '../perform/perform';
import { mod, roundOfBar } from '../time/cycle';
import { meterMapOf, tempoMapOf } from '../part/part-time';
import type { Hit, Part } from '../model/part';
import { mean } from '../statistics';
import { ticks, TICKS_PER_QUARTER } from '../units';
import { namesRow, type VoiceName } from '../row-names';

/** What one hit says of its step. */
export interface Lesson {
  /** Index of the hit in the part. */
  hit: number;
  voice: VoiceName;
  step: number;
  /** Deviation from the step's line, in steps. */
  deviation: number;
  ms: number;
  velocity: number;
  /** Velocity over the mean velocity of its voice. */
  level: number;
}

export interface LessonOptions {
  voices?: readonly VoiceName[] | undefined;
  /** Indices of hits that are left out. */
  without?: ReadonlySet<number> | undefined;
  stepsPerBeat: number;
  /** Steps of the groove. */
  count: number;
}

/**
 * Sorts hits to the steps of a groove: each to its nearest step of the straight grid (ties to the later), bars folded onto the groove's
 * length. Chokes say nothing.
 */
export function lessonsOf(part: Part, performance: Performance, { voices, without, stepsPerBeat, count }: LessonOptions): Lesson[] {
  const map = meterMapOf(part);
  const tempo = tempoMapOf(part);
  const chosen = voices && new Set(voices);
  const step = TICKS_PER_QUARTER / stepsPerBeat;
  const length = count * step;
  const lessons: Lesson[] = [];
  part.hits.forEach((hit: Hit, i) => {
    if (hit.choke || (chosen && !namesRow(chosen, hit.voice)) || without?.has(i)) return;
    const tick = performance.ticks[i] as number;
    const round = roundOfBar(map, map.barAt(ticks(tick)).index, length);
    const place = tick - round.start;
    const line = Math.floor(place / step + 0.5) * step;
    // Where the round's end is nearer, the hit is an early one of the next round.
    const end = round.end - round.start;
    const late = line >= end || end - place <= Math.abs(place - line);
    const nearest = late ? end : line;
    lessons.push({
      hit: i,
      voice: hit.voice,
      step: late ? 0 : mod(Math.round(nearest / step), count),
      deviation: (place - nearest) / step,
      ms: tempo.between(ticks(round.start + nearest), ticks(tick)),
      velocity: performance.velocities[i] as number,
      level: 1,
    });
  });
  for (const own of lessonsByVoice(lessons).values()) {
    const usual = mean(own.map((l) => l.velocity));
    for (const lesson of own) lesson.level = lesson.velocity / usual;
  }
  return lessons;
}

export function lessonsByVoice(lessons: readonly Lesson[]): Map<VoiceName, Lesson[]> {
  return grouped(lessons, (l) => l.voice);
}

/** Items by a key of theirs, in the order in which they come. */
export function grouped<T, K>(items: readonly T[], keyOf: (item: T) => K): Map<K, T[]> {
  const groups = new Map<K, T[]>();
  for (const item of items) {
    const key = keyOf(item);
    const own = groups.get(key);
    if (own) own.push(item);
    else groups.set(key, [item]);
  }
  return groups;
}
