/**
 * Loudness as heard: the K-weighting of Recommendation ITU-R BS.1770-4, a high shelf for the head and a high-pass, for any sample rate
 * (its coefficients at 48 kHz, carried over by the filters' analogue frequencies, gains and qualities).
 */

interface Biquad {
  b0: number;
  b1: number;
  b2: number;
  a1: number;
  a2: number;
}

const SHELF = { hz: 1681.9744509555319, gain: 3.99984385397, q: 0.7071752369554193 };
const HIGH_PASS = { hz: 38.13547087613982, q: 0.5003270373253953 };

function shelfAt(rate: number): Biquad {
  const k = Math.tan((Math.PI * SHELF.hz) / rate);
  const vh = 10 ** (SHELF.gain / 20);
  const vb = vh ** 0.499666774155;
  const a0 = 1 + k / SHELF.q + k * k;
  return {
    b0: (vh + (vb * k) / SHELF.q + k * k) / a0,
    b1: (2 * (k * k - vh)) / a0,
    b2: (vh - (vb * k) / SHELF.q + k * k) / a0,
    a1: (2 * (k * k - 1)) / a0,
    a2: (1 - k / SHELF.q + k * k) / a0,
  };
}

function highPassAt(rate: number): Biquad {
  const k = Math.tan((Math.PI * HIGH_PASS.hz) / rate);
  const a0 = 1 + k / HIGH_PASS.q + k * k;
  return { b0: 1, b1: -2, b2: 1, a1: (2 * (k * k - 1)) / a0, a2: (1 - k / HIGH_PASS.q + k * k) / a0 };
}

/** The K-weighted energy of samples, or of the first so many: the sum of their squares. */
export function kEnergy(samples: Float32Array, rate: number, frames = samples.length): number {
  const [s, h] = [shelfAt(rate), highPassAt(rate)];
  const end = Math.min(frames, samples.length);
  let x1 = 0;
  let x2 = 0;
  let y1 = 0;
  let y2 = 0;
  let z1 = 0;
  let z2 = 0;
  let energy = 0;
  for (let i = 0; i < end; i++) {
    const x = samples[i] as number;
    const y = s.b0 * x + s.b1 * x1 + s.b2 * x2 - s.a1 * y1 - s.a2 * y2;
    const z = y - 2 * y1 + y2 - h.a1 * z1 - h.a2 * z2;
    energy += z * z;
    x2 = x1;
    x1 = x;
    y2 = y1;
    y1 = y;
    z2 = z1;
    z1 = z;
  }
  return energy;
}

/** The level of a stroke is taken over so many seconds from its start. */
export const STROKE_SECONDS = 0.4;

/** The K-weighted level of a stroke, in dB under a steady full-scale square: over its first 0.4 s. */
export const strokeLevel = (samples: Float32Array, rate: number): number =>
  10 * Math.log10(kEnergy(samples, rate, Math.round(STROKE_SECONDS * rate)) / (STROKE_SECONDS * rate) + 1e-20);
