/** Power spectra for measuring sounds. */

/** A radix-2 transform in place (Cooley & Tukey, Mathematics of Computation 19, 1965); lengths are powers of two. */
function transform(re: Float64Array, im: Float64Array): void {
  const n = re.length;
  for (let i = 1, j = 0; i < n; i++) {
    let bit = n >> 1;
    for (; j & bit; bit >>= 1) j ^= bit;
    j ^= bit;
    if (i < j) {
      [re[i], re[j]] = [re[j]!, re[i]!];
      [im[i], im[j]] = [im[j]!, im[i]!];
    }
  }
  for (let size = 2; size <= n; size <<= 1) {
    const half = size >> 1;
    const turn = (-2 * Math.PI) / size;
    for (let k = 0; k < half; k++) {
      const c = Math.cos(turn * k);
      const s = Math.sin(turn * k);
      for (let at = k; at < n; at += size) {
        const b = at + half;
        const x = re[b]! * c - im[b]! * s;
        const y = re[b]! * s + im[b]! * c;
        re[b] = re[at]! - x;
        im[b] = im[at]! - y;
        re[at]! += x;
        im[at]! += y;
      }
    }
  }
}

export interface Spectrum {
  powers: Float64Array;
  /** Hz from one to the next. */
  step: number;
}

/** Powers of a stretch of samples, padded to a power of two. `window`: Hann's, for lines that are to be told apart. */
export function spectrumOf(
  samples: Float32Array,
  rate: number,
  { from = 0, to = samples.length / rate, window = false }: { from?: number; to?: number; window?: boolean } = {},
): Spectrum {
  const first = Math.round(from * rate);
  const length = Math.round(to * rate) - first;
  let n = 1;
  while (n < length) n <<= 1;
  const re = new Float64Array(n);
  for (let i = 0; i < length; i++) re[i] = (samples[first + i] ?? 0) * (window ? 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / length) : 1);
  const im = new Float64Array(n);
  transform(re, im);
  return { powers: Float64Array.from({ length: n / 2 }, (_, k) => re[k]! ** 2 + im[k]! ** 2), step: rate / n };
}

/** Power between two frequencies. */
export function bandPower({ powers, step }: Spectrum, low: number, high: number): number {
  let sum = 0;
  for (let k = Math.max(1, Math.ceil(low / step)); k < powers.length && k * step < high; k++) sum += powers[k]!;
  return sum;
}

/** The middle of the power, in Hz. */
export function centroidOf({ powers, step }: Spectrum): number {
  let [sum, all] = [0, 0];
  powers.forEach((p, k) => {
    sum += p * k * step;
    all += p;
  });
  return sum / all;
}

/** Levels in third-octaves from 50 Hz to 16 kHz, in dB. */
export function thirdOctaves(spectrum: Spectrum): number[] {
  return Array.from({ length: 26 }, (_, i) => 50 * 2 ** (i / 3)).map(
    (hz) => 10 * Math.log10(bandPower(spectrum, hz * 2 ** (-1 / 6), hz * 2 ** (1 / 6)) + 1e-20),
  );
}
