import { strokeLevel } from '@/core/loudness/k-weighting';
import { KIT_NAMES, type KitName } from '@/core/model/sound';
import { ALTERNATES, CLASSES, classOf, velocityOf } from '@/core/synth/classes';
import { strokeOf } from '@/core/synth/kits/all';
import type { VoiceName } from '@/core/row-names';
import { VOICES } from '@/core/voices';
import { bandPower, centroidOf, spectrumOf, thirdOctaves } from './spectrum';

/**
 * Measures every stroke of a kit and writes the figures as JSON. It runs in a process of its own, since tests compute several times
 * slower than plain programs: name a kit as its argument.
 */

export const RATE = 44_100;
/** For levels; for takes, bands and lines; for all of it. */
const [LEVEL, SHORT, WHOLE] = [0.42, 0.55, 9];

export interface VoiceFigures {
  voice: VoiceName;
  /** K-weighted levels in dB at velocities 24, 64, 104 and 127: the tops of their classes. */
  levels: number[];
  /** In Hz, of the first 0.1 s, class by class. */
  centroids: number[];
  takes: { correlations: number[]; centroids: number[] };
  /** Of a stroke at 120: first sample and offset against the peak, where it was cut in dB. */
  start: number;
  offset: number;
  cut: number;
  peak: number;
  finite: boolean;
  /** Milliseconds until it stays 60 dB under the loudest at 127, at 20 and at 120. */
  rings: [soft: number, hard: number];
}

export interface KitFigures {
  voices: VoiceFigures[];
  /** Body over wires of the snare in dB, at 20 and 120. */
  balance: [soft: number, hard: number];
  metals: { voice: VoiceName; lines: number; lowAt: number; highAt: number }[];
  /** Pairs of voices that differ by less than 4 dB. */
  near: { a: VoiceName; b: VoiceName; dB: number }[];
}

/** The velocities that levels are taken at. */
export const LEVEL_VELOCITIES = [24, 64, 104, 127];

export function figuresOf(kit: KitName): KitFigures {
  const known = new Map<string, Float32Array>();
  const stroke = (voice: VoiceName, velocity: number, take = 0, seconds = SHORT): Float32Array => {
    const name = `${voice} ${classOf(velocity)} ${take} ${seconds}`;
    let found = known.get(name);
    if (!found) known.set(name, (found = strokeOf(kit, voice, classOf(velocity), take, RATE, seconds).samples));
    return found;
  };
  const centroid = (samples: Float32Array): number => centroidOf(spectrumOf(samples, RATE, { to: 0.1 }));
  const voices = VOICES.map((voice): VoiceFigures => {
    const takes = Array.from({ length: ALTERNATES }, (_, a) => stroke(voice, 100, a));
    const highs = takes.map(highPassed);
    const [hard, soft, full] = [120, 20, 127].map((v) => stroke(voice, v, 0, WHOLE)) as [Float32Array, Float32Array, Float32Array];
    const loudest = Math.max(...blocks(full));
    const powers = blocks(hard);
    const peak = hard.reduce((m, x) => Math.max(m, Math.abs(x)), 0);
    return {
      voice,
      levels: LEVEL_VELOCITIES.map((v) => strokeLevel(stroke(voice, v, 0, LEVEL), RATE)),
      centroids: Array.from({ length: CLASSES }, (_, c) => centroid(stroke(voice, velocityOf(c), 0, 0.112))),
      takes: {
        correlations: (
          [
            [0, 1],
            [0, 2],
            [1, 2],
          ] as const
        ).map(([a, b]) => Math.min(correlation(takes[a]!, takes[b]!), correlation(highs[a]!, highs[b]!))),
        centroids: takes.map(centroid),
      },
      start: Math.abs(hard[0]!) / peak,
      offset: Math.abs(hard.reduce((sum, x) => sum + x, 0) / hard.length) / peak,
      // The last block before the fade.
      cut: 10 * Math.log10(powers[powers.length - 14]! / Math.max(...powers)),
      peak,
      finite: hard.every(Number.isFinite),
      rings: [ringOf(soft, loudest), ringOf(hard, loudest)],
    };
  });
  const balance = (velocity: number): number => {
    const s = spectrumOf(stroke('snare', velocity), RATE);
    return 10 * Math.log10(bandPower(s, 20, 500) / bandPower(s, 1500, 20_000));
  };
  const metals = ['ride', 'crash'].map((voice) => {
    const samples = stroke(voice, 120, 0, 0.8);
    return { voice, lines: linesOf(samples), lowAt: halfTime(samples, 300, 1200), highAt: halfTime(samples, 5000, 12_000) };
  });
  const bands = VOICES.map((voice) => {
    const takes = Array.from({ length: ALTERNATES }, (_, a) => thirdOctaves(spectrumOf(stroke(voice, 100, a), RATE, { to: 0.5 })));
    return takes[0]!.map((_, i) => takes.reduce((sum, t) => sum + t[i]!, 0) / ALTERNATES);
  });
  const near = VOICES.flatMap((a, i) => VOICES.slice(i + 1).map((b, j) => ({ a, b, dB: difference(bands[i]!, bands[i + 1 + j]!) }))).filter(
    (p) => p.dB < 4,
  );
  return { voices, balance: [balance(20), balance(120)], metals, near };
}

const asked = process.argv[2];
if (KIT_NAMES.includes(asked as KitName)) process.stdout.write(JSON.stringify(figuresOf(asked as KitName)));

/** Powers of milliseconds. */
function blocks(samples: Float32Array): number[] {
  const size = RATE / 1000;
  const powers = new Array<number>(Math.ceil(samples.length / size)).fill(0);
  samples.forEach((x, i) => (powers[Math.floor(i / size)]! += x * x));
  return powers;
}

/** Milliseconds until the level stays 60 dB under the loudest millisecond. */
function ringOf(samples: Float32Array, full: number): number {
  const powers = blocks(samples);
  let last = powers.length - 1;
  while (last > 0 && powers[last]! < full * 1e-6) last--;
  return last;
}

function highPassed(samples: Float32Array): Float32Array {
  const a = 1 - Math.exp((-2 * Math.PI * 400) / RATE);
  let [one, two] = [0, 0];
  return samples.map((x) => {
    one += (x - one) * a;
    const y = x - one;
    two += (y - two) * a;
    return y - two;
  });
}

function correlation(a: Float32Array, b: Float32Array): number {
  let [ab, aa, bb] = [0, 0, 0];
  for (let i = 0; i < RATE / 2; i++) {
    const [x, y] = [a[i] ?? 0, b[i] ?? 0];
    ab += x * y;
    aa += x * x;
    bb += y * y;
  }
  return ab / Math.sqrt(aa * bb);
}

/** Spectral lines between 0.2 and 8 kHz, within 40 dB of the highest and 13 dB over the median around. */
function linesOf(samples: Float32Array): number {
  const { powers, step } = spectrumOf(samples, RATE, { from: 0.02, to: 0.72, window: true });
  const [from, to] = [Math.round(200 / step), Math.round(8000 / step)];
  const highest = powers.slice(from, to).reduce((m, p) => Math.max(m, p), 0);
  const around = Math.round(100 / step);
  let lines = 0;
  for (let k = from; k < to; k++) {
    const p = powers[k]!;
    if (p < highest * 1e-4 || p <= powers[k - 1]! || p < powers[k + 1]!) continue;
    const near = [...powers.slice(Math.max(0, k - around), k + around)].sort((a, b) => a - b);
    if (p > near[near.length >> 1]! * 20) lines++;
  }
  return lines;
}

/** When half of the first 100 ms of a band has come, in ms. */
function halfTime(samples: Float32Array, low: number, high: number): number {
  const powers = Array.from({ length: 20 }, (_, i) =>
    bandPower(spectrumOf(samples, RATE, { from: i * 0.005, to: (i + 1) * 0.005, window: true }), low, high),
  );
  const all = powers.reduce((a, b) => a + b, 0);
  let sum = 0;
  return powers.findIndex((p) => (sum += p) >= all / 2);
}

/** Rms of the differences over the bands that are heard in either: within 40 dB of its loudest. */
function difference(a: readonly number[], b: readonly number[]): number {
  const [topA, topB] = [Math.max(...a), Math.max(...b)];
  const heard = a.map((_, i) => i).filter((i) => a[i]! > topA - 40 || b[i]! > topB - 40);
  return Math.sqrt(heard.reduce((sum, i) => sum + (Math.max(a[i]!, topA - 60) - Math.max(b[i]!, topB - 60)) ** 2, 0) / heard.length);
}
