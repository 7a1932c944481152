import { clamp, milliseconds, roundHalfUp, ticks, TICKS_PER_QUARTER, type Velocity } from '../units';
import type { Hit, HitId, Part } from '../model/part';
import { shapedHit } from '../model/hit-shape';
import { changeHits, MAX_NUDGE_MS } from '../commands/hits';

/** What of a hit can be shaped, all with the same tools. */
export const QUALITIES = ['velocity', 'pan', 'pitch', 'brightness', 'length', 'timing'] as const;
export type QualityName = (typeof QUALITIES)[number];

export interface Quality {
  name: QualityName;
  min: number;
  max: number;
  /** What a hit without a value of its own has. */
  rest: number;
  /** Values are kept to so many digits behind the point. */
  digits: number;
  unit: string;
  /** Where values mostly lie, where that is much less than they may be. */
  usual?: { min: number; max: number };
}

export const QUALITY: Readonly<Record<QualityName, Quality>> = {
  velocity: { name: 'velocity', min: 1, max: 127, rest: 96, digits: 0, unit: '' },
  pan: { name: 'pan', min: -100, max: 100, rest: 0, digits: 0, unit: '%' },
  pitch: { name: 'pitch', min: -24, max: 24, rest: 0, digits: 2, unit: 'semitones' },
  brightness: { name: 'brightness', min: -100, max: 100, rest: 0, digits: 0, unit: '%' },
  length: { name: 'length', min: 0, max: 1024, rest: 1, digits: 3, unit: 'sixteenths', usual: { min: 0, max: 4 } },
  timing: { name: 'timing', min: -MAX_NUDGE_MS, max: MAX_NUDGE_MS, rest: 0, digits: 1, unit: 'ms', usual: { min: -30, max: 30 } },
};

/** @example readQuality(hit, 'pan') // 0 where the hit has none of its own */
export const readQuality = (hit: Hit, name: QualityName): number =>
  name === 'length' ? hit.length / SIXTEENTH : name === 'timing' ? (hit.nudge?.ms ?? 0) : (hit[name] ?? QUALITY[name].rest);

const SIXTEENTH = TICKS_PER_QUARTER / 4;

/** A value as it is kept: rounded half up to the quality's digits, limited to its range. */
export function keptValue(name: QualityName, value: number): number {
  const { min, max, digits } = QUALITY[name];
  const scale = 10 ** digits;
  return clamp(roundHalfUp(value * scale) / scale, min, max);
}

/** Sets a quality of hits; a value at rest is not kept, except for velocity and length, which every hit has. */
export function setQuality(part: Part, ids: ReadonlySet<HitId>, name: QualityName, value: (hit: Hit) => number): Part {
  return changeHits(part, ids, (hit) => {
    const next = keptValue(name, value(hit));
    if (next === keptValue(name, readQuality(hit, name))) return hit;
    if (name === 'length') return { ...hit, length: ticks(Math.max(1, Math.round(next * SIXTEENTH))) };
    if (name === 'timing') return nudgedTo(hit, next);
    if (name === 'velocity') return { ...hit, velocity: next as Velocity };
    return shapedHit(hit, { [name]: next === QUALITY[name].rest ? undefined : next });
  });
}

/** The hand's nudge in time; what it did to the velocity stays. */
function nudgedTo(hit: Hit, ms: number): Hit {
  const louder = hit.nudge?.velocity ?? 0;
  return shapedHit(hit, { nudge: ms === 0 && louder === 0 ? undefined : { ms: milliseconds(ms), velocity: louder } });
}
