import { hashText, randomStream } from '../random';
import type { VoiceName } from '../voices';
import { filterInPlace } from './filter';
import type { Layer, Recipe } from './recipe';
import { recipeOf } from './recipes';

/** Longest fade at the end of a sound, so that none ends in a click. */
const FADE_SECONDS = 0.01;
/** Layers end where they are 80 dB down. */
const INAUDIBLE = 1e-4;

/**
 * Renders a voice at full strength: mono samples, starting with its first frame. The same voice and rate give the same samples.
 * @param sampleRate frames a second
 */
export function renderVoice(voice: VoiceName, sampleRate: number): Float32Array {
  const recipe = recipeOf(voice);
  const out = new Float32Array(Math.ceil(recipe.seconds * sampleRate));
  const random = randomStream(hashText(voice));
  for (const layer of recipe.layers) addLayer(out, layer, sampleRate, random);
  return finish(out, recipe, sampleRate);
}

function addLayer(out: Float32Array, layer: Layer, rate: number, random: () => number) {
  switch (layer.kind) {
    case 'skin':
      return addSkin(out, layer, rate);
    case 'noise':
      return addNoise(out, layer, rate, random);
    case 'metal':
      return addMetal(out, layer, rate, random);
    case 'waver':
      return addWaver(out, layer, rate);
  }
}

type LayerOf<Kind extends Layer['kind']> = Extract<Layer, { kind: Kind }>;

/** Factor a frame of a decay: `e^(-1 / (seconds x rate))`, so that no exponential is computed inside a loop. */
const decayFactor = (seconds: number, rate: number): number => Math.exp(-1 / (seconds * rate));

function addSkin(out: Float32Array, layer: LayerOf<'skin'>, rate: number) {
  for (const [ratio, level] of layer.partials ?? [[1, 1]]) {
    const perHz = (2 * Math.PI * ratio) / rate;
    const bendFactor = decayFactor(layer.fall, rate);
    const factor = decayFactor(layer.decay / Math.sqrt(ratio), rate);
    let bend = layer.from - layer.to;
    let strength = level * layer.level;
    let phase = Math.PI / 5; // not from zero: the stroke is there with its first sample
    for (let i = 0; i < out.length && strength > INAUDIBLE; i++) {
      out[i] = (out[i] as number) + Math.sin(phase) * strength;
      phase += (layer.to + bend) * perHz;
      bend *= bendFactor;
      strength *= factor;
    }
  }
}

function addNoise(out: Float32Array, layer: LayerOf<'noise'>, rate: number, random: () => number) {
  const noise = new Float32Array(out.length);
  for (const start of layer.bursts ?? [0]) {
    const first = Math.round(start * rate);
    const length = Math.min(out.length - first, Math.ceil(layer.decay * 7 * rate));
    const factor = decayFactor(layer.decay, rate);
    let strength = 1;
    for (let i = 0; i < length; i++) {
      const rise = layer.attack ? Math.min(1, (i + 1) / rate / layer.attack) : 1;
      noise[first + i] = (noise[first + i] as number) + (random() * 2 - 1) * rise * strength;
      strength *= factor;
    }
  }
  filterInPlace(noise, layer.filter, layer.frequency, layer.q, rate);
  for (let i = 0; i < out.length; i++) out[i] = (out[i] as number) + (noise[i] as number) * layer.level * 2;
}

/** Bends a sine towards a square, as `tanh(2.2 s)` does (its Pade approximant): the sidebands of struck metal without a sampled cymbal. */
function squared(s: number): number {
  const t = 2.2 * s;
  return (t * (27 + t * t)) / (27 + 9 * t * t);
}

function addMetal(out: Float32Array, layer: LayerOf<'metal'>, rate: number, random: () => number) {
  const metal = new Float32Array(out.length);
  for (let n = 0; n < layer.partials; n++) {
    const frequency = layer.base * layer.spread ** n * (1 + (random() - 0.5) * 0.04);
    if (frequency > rate * 0.45) break;
    const turn = (2 * Math.PI * frequency) / rate;
    const cos = Math.cos(turn);
    const sin = Math.sin(turn);
    const factor = decayFactor(layer.decay / (1 + n * 0.06), rate);
    // A turning pointer gives the sine without computing one a frame.
    const phase = random() * 2 * Math.PI;
    let x = Math.cos(phase);
    let y = Math.sin(phase);
    let strength = 1;
    for (let i = 0; i < out.length && strength > INAUDIBLE; i++) {
      metal[i] = (metal[i] as number) + squared(y) * strength;
      [x, y] = [x * cos - y * sin, x * sin + y * cos];
      strength *= factor;
    }
  }
  filterInPlace(metal, 'highpass', layer.highpass, 0.75, rate);
  const scale = layer.level / Math.sqrt(layer.partials);
  for (let i = 0; i < out.length; i++) out[i] = (out[i] as number) + (metal[i] as number) * scale;
}

function addWaver(out: Float32Array, layer: LayerOf<'waver'>, rate: number) {
  let phase = 0.6; // as with skins: there with its first sample
  for (let i = 0; i < out.length; i++) {
    const t = i / rate;
    const share = Math.min(1, t / layer.decay);
    const frequency = (layer.from + (layer.to - layer.from) * share) * (1 + layer.depth * Math.sin(2 * Math.PI * layer.rate * t));
    const envelope = Math.min(1, (t + 1 / rate) / layer.attack) * Math.exp(-((t / (layer.decay * 1.1)) ** 4));
    out[i] = (out[i] as number) + (Math.sin(phase) + 0.25 * Math.sin(2 * phase)) * envelope * layer.level;
    phase += (2 * Math.PI * frequency) / rate;
  }
}

function finish(out: Float32Array, recipe: Recipe, rate: number): Float32Array {
  let peak = 1e-9;
  for (const s of out) peak = Math.max(peak, Math.abs(s));
  const fade = Math.round(FADE_SECONDS * rate);
  for (let i = 0; i < out.length; i++) {
    const left = out.length - i;
    out[i] = ((out[i] as number) / peak) * recipe.peak * (left < fade ? left / fade : 1);
  }
  return out;
}
