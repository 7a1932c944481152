import { clamp, type Seconds } from '../units';

/** A note as a plain tone. */
export interface Tone {
  start: Seconds;
  length: Seconds;
  key: number;
  velocity: number;
}

/** Seconds: how it rises, and how it ends behind its note. */
const ATTACK = 0.004;
const RELEASE = 0.06;
/** It falls to this share over {@link DECAY} seconds. */
const SUSTAIN = 0.55;
const DECAY = 0.35;
/** Of full scale, for one tone of velocity 127. */
const LOUDEST = 0.22;
/** A third harmonic gives low tones something to be heard by. */
const THIRD = 0.18;

/**
 * Plain tones, one sine and its third harmonic a note: enough to hear a song's other tracks beside the drums, and nothing to judge.
 * @param rate frames a second
 * @param length seconds
 * @example renderTones([{ start: 0, length: 1, key: 69, velocity: 100 }], 8000, 2) // a second of 440 Hz
 */
export function renderTones(tones: readonly Tone[], rate: number, length: number): Float32Array<ArrayBuffer> {
  const out = new Float32Array(Math.max(1, Math.ceil(length * rate)));
  for (const { start, length: held, key, velocity } of tones) {
    const from = Math.round(start * rate);
    const ends = Math.round((start + held) * rate);
    const until = Math.min(out.length, ends + Math.round(RELEASE * rate));
    const step = (2 * Math.PI * 440 * 2 ** ((key - 69) / 12)) / rate;
    // What lies above half the rate is not there.
    const third = 3 * step < Math.PI ? THIRD : 0;
    if (step >= Math.PI) continue;
    const gain = LOUDEST * (velocity / 127) ** 1.5;
    for (let i = Math.max(0, from); i < until; i++) {
      const age = (i - from) / rate;
      const body = SUSTAIN + (1 - SUSTAIN) * Math.exp((-3 * age) / DECAY);
      const tail = i < ends ? 1 : clamp(1 - (i - ends) / (RELEASE * rate), 0, 1);
      const phase = step * (i - from);
      out[i] = (out[i] as number) + gain * Math.min(1, age / ATTACK) * body * tail * (Math.sin(phase) + third * Math.sin(3 * phase));
    }
  }
  return out;
}
