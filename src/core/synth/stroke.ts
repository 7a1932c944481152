import { kEnergy, STROKE_SECONDS } from '../loudness/k-weighting';
import { hashText, mix, randomStream } from '../random';
import { amplitudeOf, velocityOf } from './classes';
import { filterInPlace } from './filter';
import { addLayer, between } from './layers';
import type { Layer, Recipe } from './recipe';

/** One take of a stroke, at one class of velocity. */
export interface RenderedStroke {
  /** Of a stereo recording the left side. */
  samples: Float32Array;
  right?: Float32Array;
  /** Share of its loudness above {@link tiltHz}, 0 to 1: what a tilt of its tone costs. */
  high: number;
  /** Around this frequency its tone tilts within a class. */
  tiltHz: number;
}

/** How much memory it takes. */
export const bytesOfStroke = ({ samples, right }: RenderedStroke): number => samples.byteLength + (right?.byteLength ?? 0);

/** A tone tilts around this, or, where it is lower, around one and a half times its middle. */
export const TILT_HZ = 1500;
const LOWEST_TILT_HZ = 100;
/** Where a stroke is so far below its loudest millisecond it ends. */
const END_DB = -72;
const FADE_SECONDS = 0.012;
/** Kits are so far down that a usual groove needs no limiter. */
export const HEADROOM_DB = -2.5;
const LEAD_SECONDS = 0.0003;
const LONGEST = 8;

export interface StrokeRecipe {
  /** Names the dice: kit and voice. */
  name: string;
  recipe: Recipe;
  /** Class of velocity, 0 to 15. */
  index: number;
  /** Which take, 0 to 2. */
  alternate: number;
  /** Frames a second. */
  rate: number;
  /** At most so much of it. */
  seconds?: number;
}

/**
 * Renders a stroke: a pure function of recipe, class and take. Its loudness (K-weighted, over 0.4 s) follows the one law exactly, whatever
 * it is made of.
 */
export function renderStroke({ name, recipe, index, alternate, rate, seconds = LONGEST }: StrokeRecipe): RenderedStroke {
  const force = velocityOf(index) / 127;
  const length = Math.ceil(Math.min(seconds, secondsOf(recipe)) * rate);
  const out = new Float32Array(length);
  const seed = mix(hashText(name), alternate);
  // Each layer has dice of its own: what is added to a recipe leaves the rest as it was.
  recipe.layers.forEach((layer, i) =>
    addLayer(out, layer, { force, rate, alternate, random: randomStream(mix(seed, i)), shared: randomStream(mix(hashText(name), -1 - i)) }),
  );
  filterInPlace(out, 'lowpass', between(recipe.tone, force), 0.6, rate);
  filterInPlace(out, 'highpass', 18, 0.7, rate);
  const samples = ended(out, rate);
  const wanted = 10 ** ((recipe.level + HEADROOM_DB) / 20) * amplitudeOf(velocityOf(index));
  const energy = kEnergy(samples, rate, Math.round(STROKE_SECONDS * rate));
  const gain = energy > 0 ? wanted / Math.sqrt(energy / (STROKE_SECONDS * rate)) : 0;
  for (let i = 0; i < samples.length; i++) samples[i] = (samples[i] as number) * gain;
  return { samples, ...tiltOf(samples, rate) };
}

/** Where the tone of a stroke tilts, and what that costs. */
export function tiltOf(samples: Float32Array, rate: number): Pick<RenderedStroke, 'high' | 'tiltHz'> {
  const tiltHz = Math.max(LOWEST_TILT_HZ, Math.min(TILT_HZ, 1.5 * middleHz(samples, rate)));
  return { high: highShare(samples, rate, tiltHz), tiltHz };
}

/** How long a recipe may ring. */
function secondsOf({ layers }: Recipe): number {
  const of = (layer: Layer): number => {
    switch (layer.kind) {
      case 'modes':
        return layer.t60 * (layer.tail?.times ?? 1) * 1.3;
      case 'plate':
        return layer.t60 * (600 / layer.from) ** layer.fall * 1.25;
      case 'noise':
        return Math.max(0, ...(layer.bursts ?? [0])) * 1.03 + layer.t60 * 2 + 0.02 + (layer.attack ?? 0);
      case 'wires':
        return layer.t60[0] * 1.4;
      case 'waver':
        return layer.seconds * 2;
      case 'cluster':
        return layer.t60 * 1.3;
    }
  };
  return Math.min(LONGEST, 0.02 + Math.max(...layers.map(of)));
}

/** Begins within a third of a millisecond and ends where nothing is heard any more. */
function ended(out: Float32Array, rate: number): Float32Array {
  const lead = Math.round(LEAD_SECONDS * rate);
  for (let i = 0; i < lead; i++) out[i] = (out[i] as number) * (0.5 - 0.5 * Math.cos((Math.PI * i) / lead));
  const block = Math.round(rate / 1000);
  const powers: number[] = [];
  for (let at = 0; at < out.length; at += block) {
    let sum = 0;
    for (let i = at; i < Math.min(out.length, at + block); i++) sum += (out[i] as number) ** 2;
    powers.push(sum);
  }
  const loudest = powers.reduce((most, p) => Math.max(most, p), 0);
  const quiet = loudest * 10 ** (END_DB / 10);
  let last = powers.length - 1;
  while (last > 0 && (powers[last] as number) < quiet) last--;
  const fade = Math.round(FADE_SECONDS * rate);
  const length = Math.min(out.length, (last + 1) * block + fade);
  const kept = out.slice(0, length);
  for (let i = 0; i < fade && i < length; i++) kept[length - 1 - i] = (kept[length - 1 - i] as number) * (i / fade);
  return kept;
}

/** The middle of its spectrum, from the energy of its slope. */
export function middleHz(samples: Float32Array, rate: number): number {
  let [energy, slope] = [1e-20, 0];
  for (let i = 1; i < Math.min(samples.length, rate * 0.1); i++) {
    energy += (samples[i] as number) ** 2;
    slope += ((samples[i] as number) - (samples[i - 1] as number)) ** 2;
  }
  return (Math.sqrt(slope / energy) * rate) / (2 * Math.PI);
}

function highShare(samples: Float32Array, rate: number, tiltHz: number): number {
  const frames = Math.min(samples.length, Math.round(STROKE_SECONDS * rate));
  const high = new Float32Array(frames);
  const a = 1 - Math.exp((-2 * Math.PI * tiltHz) / rate);
  let low = 0;
  for (let i = 0; i < frames; i++) {
    low += ((samples[i] as number) - low) * a;
    high[i] = (samples[i] as number) - low;
  }
  const all = kEnergy(samples, rate, frames);
  return all > 0 ? Math.min(1, kEnergy(high, rate) / all) : 0;
}
