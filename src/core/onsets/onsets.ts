import { seconds, type Seconds } from '../units';
import { fluxOf, FLUX_RATE } from './flux';

/** Where something was struck. */
export interface DetectedOnset {
  /** From the sound's start. */
  seconds: Seconds;
  /** 0 to 1, of the strongest there is. */
  strength: number;
}

/** A peak stands this far above its surroundings. */
const FLOOR = 0.1;
const TIMES_MEAN = 1.5;
/** What surrounds a peak, in seconds before and after it. */
const BEFORE = 0.1;
const AFTER = 0.07;
/** It is the highest within so many frames on either side. */
const REACH = 3;
/** Where the attack is looked for around a peak. */
const LOOK_BEFORE = 0.024;
const LOOK_AFTER = 0.005;
/** A side of the attack has at least so many samples. */
const LEAST_SIDE = 16;
/** Two that are closer are one. */
export const MERGE_SECONDS = 0.015;
/** Sensitivity 0 takes the strongest alone, 1 nearly all that rises: the threshold goes with it, by this factor either way. */
const SENSITIVITY_RANGE = 4;

export const USUAL_SENSITIVITY = 0.5;

/** Strokes stand out this far, half of them at least; in noise what is found hardly does (measured: 1.1 in noise, over 3 in loops). */
const STANDS_OUT = 1.5;

/** Whether what is found at the usual sensitivity are strokes, or the humps of a noise. @param overs of all peaks */
export function standOut(overs: readonly number[]): boolean {
  const found = overs.filter((o) => o >= 1).sort((a, b) => a - b);
  return found.length > 0 && (found[found.length >> 1] as number) >= STANDS_OUT;
}

/** A sound's peaks before any is chosen: sensitivity is swept over them without listening again. */
export interface Peaks {
  list: readonly Peak[];
  rate: number;
}

interface Peak extends DetectedOnset {
  /** Of the threshold at sensitivity 0.5; 1 is just above it. */
  over: number;
}

/** @throws what onProgress throws */
export function findPeaks(mono: Float32Array, rate: number, onProgress?: (done: number) => void): Peaks {
  const level = normalised(mono);
  const { values, timeOf } = fluxOf(level, rate, onProgress);
  const list: Peak[] = [];
  const sums = new Float64Array(values.length + 1);
  values.forEach((v, i) => (sums[i + 1] = (sums[i] as number) + v));
  const strongest = values.reduce((most, v) => Math.max(most, v), 0);
  for (let n = 0; n < values.length; n++) {
    const v = values[n] as number;
    if (v <= 0 || !isHighest(values, n)) continue;
    const from = Math.max(0, n - Math.round(BEFORE * FLUX_RATE));
    const to = Math.min(values.length, n + Math.round(AFTER * FLUX_RATE) + 1);
    const mean = ((sums[to] as number) - (sums[from] as number)) / (to - from);
    const over = v / (FLOOR + TIMES_MEAN * mean);
    if (over < 1 / SENSITIVITY_RANGE) continue;
    list.push({ seconds: seconds(attackNear(level, rate, timeOf(n))), strength: v / strongest, over });
  }
  return { list, rate };
}

function isHighest(values: Float64Array, n: number): boolean {
  const v = values[n] as number;
  for (let k = Math.max(0, n - REACH); k <= Math.min(values.length - 1, n + REACH); k++) {
    // Of equals the first counts.
    if ((values[k] as number) > v || (k < n && values[k] === v)) return false;
  }
  return true;
}

/** How far over its surroundings a peak must be at a sensitivity. @example leastOver(0.5) // 1 */
export const leastOver = (sensitivity: number): number => SENSITIVITY_RANGE ** (1 - 2 * sensitivity);

/** The sensitivity at which a peak is just found. @example sensitivityOf(1) // 0.5 */
export const sensitivityOf = (over: number): number => (1 - Math.log(over) / Math.log(SENSITIVITY_RANGE)) / 2;

/** The onsets of a sensitivity from 0 to 1. */
export function onsetsOf({ list }: Peaks, sensitivity = USUAL_SENSITIVITY): DetectedOnset[] {
  const least = leastOver(sensitivity);
  const found: DetectedOnset[] = [];
  for (const { seconds: at, strength, over } of list) {
    if (over < least) continue;
    const last = found.at(-1);
    if (last && at - last.seconds < MERGE_SECONDS) {
      if (strength > last.strength) found[found.length - 1] = { seconds: last.seconds, strength };
    } else found.push({ seconds: at, strength });
  }
  return found;
}

/** @example findOnsets(mono, 44_100).map((o) => o.seconds) */
export const findOnsets = (mono: Float32Array, rate: number, sensitivity = USUAL_SENSITIVITY): DetectedOnset[] =>
  onsetsOf(findPeaks(mono, rate), sensitivity);

/** At a peak of 1, unless it is silent. */
function normalised(mono: Float32Array): Float32Array {
  let peak = 0;
  for (let i = 0; i < mono.length; i++) peak = Math.max(peak, Math.abs(mono[i] as number));
  if (peak === 0) return mono;
  const level = new Float32Array(mono.length);
  for (let i = 0; i < mono.length; i++) level[i] = (mono[i] as number) / peak;
  return level;
}

/**
 * The sample at which a sound changes most around a moment, in seconds: where its second difference is best told as two noises of different
 * strength, by Akaike's criterion (N. Maeda, 1985, for the first arrivals of earthquakes).
 */
export function attackNear(mono: Float32Array, rate: number, at: number): number {
  // Before it begins a sound is silent: what is struck at once is found there too.
  const from = Math.round((at - LOOK_BEFORE) * rate);
  const to = Math.min(mono.length, Math.round((at + LOOK_AFTER) * rate));
  const n = to - from;
  if (n < 2 * LEAST_SIDE + 2) return Math.max(0, at);
  const sums = new Float64Array(n + 1);
  let [before, last] = [sampleAt(mono, from - 2), sampleAt(mono, from - 1)];
  for (let i = 0; i < n; i++) {
    const now = sampleAt(mono, from + i);
    const d = now - 2 * last + before;
    sums[i + 1] = (sums[i] as number) + d * d;
    before = last;
    last = now;
  }
  const all = sums[n] as number;
  // As quiet as the smallest step of 24 bits: silence is told apart from nothing else.
  const quiet = 1e-14;
  let [best, least] = [LEAST_SIDE, Infinity];
  for (let k = LEAST_SIDE; k <= n - LEAST_SIDE; k++) {
    const before = (sums[k] as number) / k + quiet;
    const after = (all - (sums[k] as number)) / (n - k) + quiet;
    const cost = k * Math.log(before) + (n - k) * Math.log(after);
    if (cost < least) [best, least] = [k, cost];
  }
  return Math.max(0, from + best) / rate;
}

/** Nothing sounds before a sound, and behind it. */
const sampleAt = (mono: Float32Array, k: number): number => (k >= 0 && k < mono.length ? (mono[k] as number) : 0);
