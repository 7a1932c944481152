/** Reading a sound faster or slower: a sine cardinal under a Kaiser window (J. F. Kaiser, 1974), wide enough for 60 dB at 6 kHz. */

const HALF = 12;
const PHASES = 256;
const BETA = 8;

/** The modified Bessel function of order 0, by its series. */
function bessel(x: number): number {
  let [sum, term] = [1, 1];
  for (let k = 1; k < 40; k++) {
    term *= (x / (2 * k)) ** 2;
    sum += term;
  }
  return sum;
}

/** A kernel for one speed: weights by phase, for frames from `-half + 1` to `half`. */
export interface Kernel {
  half: number;
  weights: Float32Array;
}

const kernels = new Map<number, Kernel>();

/** The kernel for a speed; faster reading needs a lower corner, so that nothing folds back. */
export function kernelFor(speed: number): Kernel {
  const corner = speed > 1 ? 1 / (Math.ceil(speed * 8) / 8) : 1;
  let found = kernels.get(corner);
  if (found) return found;
  const half = Math.ceil(HALF / corner);
  const weights = new Float32Array((PHASES + 1) * 2 * half);
  const whole = bessel(BETA);
  for (let p = 0; p <= PHASES; p++) {
    let sum = 0;
    for (let t = 0; t < 2 * half; t++) {
      const x = t - half + 1 - p / PHASES;
      const u = x / half;
      const window = Math.abs(u) >= 1 ? 0 : bessel(BETA * Math.sqrt(1 - u * u)) / whole;
      const w = (x === 0 ? 1 : Math.sin(Math.PI * corner * x) / (Math.PI * corner * x)) * window;
      weights[p * 2 * half + t] = w;
      sum += w;
    }
    for (let t = 0; t < 2 * half; t++) weights[p * 2 * half + t] = (weights[p * 2 * half + t] as number) / sum;
  }
  found = { half, weights };
  kernels.set(corner, found);
  return found;
}

/** The value between samples; silence lies before and after them. */
export function readAt(samples: Float32Array, at: number, { half, weights }: Kernel): number {
  const index = Math.floor(at);
  const place = (at - index) * PHASES;
  const phase = Math.floor(place);
  const rest = place - phase;
  const width = 2 * half;
  const base = phase * width;
  const first = index - half + 1;
  const [from, to] = [Math.max(0, -first), Math.min(width, samples.length - first)];
  let sum = 0;
  for (let t = from; t < to; t++) {
    const a = weights[base + t] as number;
    sum += (samples[first + t] as number) * (a + ((weights[base + width + t] as number) - a) * rest);
  }
  return sum;
}

/** Samples at another rate. @returns memory of its own */
export function atRate(samples: Float32Array, from: number, to: number): Float32Array {
  if (from === to) return samples.slice();
  const speed = from / to;
  const kernel = kernelFor(speed);
  return Float32Array.from({ length: Math.floor(samples.length / speed) }, (_, i) => readAt(samples, i * speed, kernel));
}
