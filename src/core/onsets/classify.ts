import { Fft } from '../audio/fft';
import { STROKE_KINDS, type StrokeKind } from '../model/break';


/** Up to where the bands go, in Hz. */
const BANDS = [110, 220, 450, 1000, 2200, 4500, 9000, 16_000] as const;
/** The start of a stroke, in seconds, that tells what it is. */
const HEARD = 0.06;
/** What follows tells how long it rings. */
const RINGS = 0.14;

const known = new Map<number, Fft>();

/** Tables of a size, made once. */
function fftOf(size: number): Fft {
  let fft = known.get(size);
  if (!fft) known.set(size, (fft = new Fft(size)));
  return fft;
}

/** How a stroke's power is shared out by bands, and how much of it is still there a little later. */
export function featuresOf(mono: Float32Array, rate: number, at: number, until: number): number[] {
  const start = Math.round(at * rate);
  const heard = Math.max(Math.round(0.015 * rate), Math.min(Math.round(HEARD * rate), Math.round(until * rate) - start));
  const size = 2 ** Math.ceil(Math.log2(heard));
  const fft = fftOf(size);
  const frame = new Float64Array(size);
  // A window that falls from the attack on.
  for (let i = 0; i < heard; i++) frame[i] = (mono[start + i] ?? 0) * (0.5 + 0.5 * Math.cos((Math.PI * (i + 0.5)) / heard));
  const spectrum = new Float64Array(size / 2 + 1);
  fft.magnitudesOfTwo(frame, new Float64Array(size), spectrum, new Float64Array(size / 2 + 1));
  const power = BANDS.map(() => 1e-12);
  for (let k = 1, band = 0; k <= size / 2; k++) {
    while (band < BANDS.length && (k * rate) / size > (BANDS[band] as number)) band++;
    if (band === BANDS.length) break;
    power[band] = (power[band] as number) + (spectrum[k] as number) ** 2;
  }
  const all = power.reduce((sum, p) => sum + p, 0);
  const early = energy(mono, start, start + Math.round(0.03 * rate));
  const late = energy(mono, start + Math.round(HEARD * rate), start + Math.round(RINGS * rate));
  const isCut = until - at < RINGS;
  return [...power.map((p) => Math.max(-6, Math.log10(p / all))), isCut ? Number.NaN : Math.max(-5, Math.log10((late + 1e-12) / (early + 1e-12)))];
}

function energy(mono: Float32Array, from: number, to: number): number {
  let sum = 0;
  for (let i = Math.max(0, from); i < Math.min(mono.length, to); i++) sum += (mono[i] as number) ** 2;
  return sum;
}

/** What a stroke most likely is, and how sure that is, 0.25 to 1. */
export interface StrokeGuess {
  voice: StrokeKind;
  sure: number;
  /** What is struck together with it. */
  also?: StrokeKind;
}

/** Above 9 kHz a kick alone has less than this of its power, under 110 Hz a snare alone (as logarithms): our kits keep 0.2 apart on either side. */
const KICK_WITHOUT_HAT = -3.6;
const SNARE_WITHOUT_KICK = -0.9;

function struckWith(voice: StrokeKind, features: readonly number[]): StrokeKind | undefined {
  if (voice === 'kick' && (features[BANDS.length - 1] as number) > KICK_WITHOUT_HAT) return 'hat';
  return voice === 'snare' && (features[0] as number) > SNARE_WITHOUT_KICK ? 'kick' : undefined;
}

/**
 * Weights of a softmax regression, one line a kind: a constant, the bands, the ring, whether the ring was cut off, and the bands squared. Fitted
 * to single strokes of our four kits at five loudnesses, ringing and cut off; of those 99 % come out right, and 90 to 97 % of a kit that
 * is left out while fitting.
 */
const WEIGHTS: Readonly<Record<StrokeKind, readonly number[]>> = {
  kick: [1.19, 2.48, -2.41, -5.28, -0.25, -3.31, -3.41, -0.9, -2.1, -1.04, -0.78, -0.06, -0.51, 1.11, -1.95, 0.37, -1.81, -0.83, 1.23],
  snare: [-0.58, 0.02, 3.16, 2.58, 0.38, 0.43, 3.8, 0.22, 1.76, -1.27, 0.35, -0.99, 1.15, 2.45, -1.64, -0.89, 0.97, -2.08, -2.49],
  hat: [-0.7, 0.6, -3.73, -1.49, 0.98, 0.63, 0.47, 0.74, 0.2, 0.96, 0.04, -1.56, 3.42, 0.28, 1.64, 0.55, 0.43, 0.33, -1.68],
  other: [0.08, -3.09, 2.97, 4.18, -1.11, 2.25, -0.86, -0.06, 0.14, 1.35, 0.4, 2.62, -4.05, -3.84, 1.95, -0.03, 0.41, 2.59, 2.95],
};

/** What was struck at a moment. @param until where the next stroke is, in seconds */
export function guessStroke(mono: Float32Array, rate: number, at: number, until: number): StrokeGuess {
  const features = featuresOf(mono, rate, at, until);
  const bands = features.slice(0, BANDS.length).map((x) => Math.max(-5, x) / 2 + 1);
  const ring = features[BANDS.length] as number;
  const inputs = [1, ...bands, ...(Number.isNaN(ring) ? [0, 1] : [(ring + 1) / 1.5, 0]), ...bands.map((x) => x * x)];
  const scores = STROKE_KINDS.map((kind) => WEIGHTS[kind].reduce((sum, w, i) => sum + w * (inputs[i] as number), 0));
  const most = Math.max(...scores);
  const total = scores.reduce((sum, s) => sum + Math.exp(s - most), 0);
  const voice = STROKE_KINDS[scores.indexOf(most)] as StrokeKind;
  const also = struckWith(voice, features);
  return { voice, sure: 1 / total, ...(also ? { also } : {}) };
}
