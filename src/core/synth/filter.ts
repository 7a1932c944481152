/** Second-order filters after R. Bristow-Johnson's "Cookbook formulae for audio EQ biquad filter coefficients". */

export type FilterKind = 'lowpass' | 'highpass' | 'bandpass';

/** Filters a buffer in place. Frequency in Hz, q without unit (0.7 is flat). */
export function filterInPlace(buffer: Float32Array, kind: FilterKind, frequency: number, q: number, sampleRate: number): Float32Array {
  const w = 2 * Math.PI * Math.min(0.49, frequency / sampleRate);
  const alpha = Math.sin(w) / (2 * q);
  const cos = Math.cos(w);
  const a0 = 1 + alpha;
  const [b0, b1, b2] =
    kind === 'lowpass'
      ? [(1 - cos) / 2, 1 - cos, (1 - cos) / 2]
      : kind === 'highpass'
        ? [(1 + cos) / 2, -1 - cos, (1 + cos) / 2]
        : [alpha, 0, -alpha];
  const a1 = -2 * cos;
  const a2 = 1 - alpha;
  let x1 = 0;
  let x2 = 0;
  let y1 = 0;
  let y2 = 0;
  for (let i = 0; i < buffer.length; i++) {
    const x = buffer[i] as number;
    const y = (b0 * x + b1 * x1 + b2 * x2 - a1 * y1 - a2 * y2) / a0;
    buffer[i] = y;
    x2 = x1;
    x1 = x;
    y2 = y1;
    y1 = y;
  }
  return buffer;
}
