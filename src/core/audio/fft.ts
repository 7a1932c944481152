/** Fourier transforms of real frames, for looking at sound. */

/** Tables of one size, a power of two. */
export class Fft {
  private readonly cos: Float64Array;
  private readonly sin: Float64Array;
  private readonly order: Uint32Array;
  private readonly re: Float64Array;
  private readonly im: Float64Array;

  constructor(readonly size: number) {
    const bits = Math.log2(size);
    if (!Number.isInteger(bits)) throw new RangeError(`${size} is no power of two`);
    this.cos = Float64Array.from({ length: size / 2 }, (_, i) => Math.cos((2 * Math.PI * i) / size));
    this.sin = Float64Array.from({ length: size / 2 }, (_, i) => -Math.sin((2 * Math.PI * i) / size));
    this.order = Uint32Array.from({ length: size }, (_, i) => {
      let reversed = 0;
      for (let b = 0; b < bits; b++) reversed |= ((i >> b) & 1) << (bits - 1 - b);
      return reversed;
    });
    this.re = new Float64Array(size);
    this.im = new Float64Array(size);
  }

  /**
   * Magnitudes of two real frames at once: one is the real, the other the imaginary part of a complex transform, which are told apart by
   * their symmetry. Each result has size / 2 + 1 values.
   */
  magnitudesOfTwo(first: Float64Array, second: Float64Array, outFirst: Float64Array, outSecond: Float64Array): void {
    const { size, re, im } = this;
    for (let i = 0; i < size; i++) {
      const from = this.order[i] as number;
      re[i] = first[from] as number;
      im[i] = second[from] as number;
    }
    this.transform();
    for (let k = 0; k <= size / 2; k++) {
      const m = (size - k) % size;
      const a = re[k] as number;
      const b = im[k] as number;
      const c = re[m] as number;
      const d = im[m] as number;
      outFirst[k] = 0.5 * Math.sqrt((a + c) * (a + c) + (b - d) * (b - d));
      outSecond[k] = 0.5 * Math.sqrt((b + d) * (b + d) + (c - a) * (c - a));
    }
  }

  /** In place, on values in bit-reversed order (Cooley and Tukey, 1965). */
  private transform() {
    const { size, re, im, cos, sin } = this;
    for (let half = 1; half < size; half *= 2) {
      const stride = size / (2 * half);
      for (let j = 0; j < half; j++) {
        const wr = cos[j * stride] as number;
        const wi = sin[j * stride] as number;
        for (let a = j; a < size; a += 2 * half) {
          const b = a + half;
          const br = re[b] as number;
          const bi = im[b] as number;
          const tr = br * wr - bi * wi;
          const ti = br * wi + bi * wr;
          const ar = re[a] as number;
          const ai = im[a] as number;
          re[b] = ar - tr;
          im[b] = ai - ti;
          re[a] = ar + tr;
          im[a] = ai + ti;
        }
      }
    }
  }
}

/** A Hann window. */
export const hann = (length: number): Float64Array => Float64Array.from({ length }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / length));
