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
    let half = 1;
    for (; 4 * half <= this.size; half *= 4) this.twoRounds(half);
    if (half < this.size) this.lastRound();
  }

  /** Two rounds as one: each value is read and written once instead of twice. */
  private twoRounds(half: number) {
    const { size, re, im, cos, sin } = this;
    const wide = size / (4 * half);
    for (let block = 0; block < size; block += 4 * half) {
      for (let j = 0; j < half; j++) {
        // The turn of the first round, and of the second; a quarter turn on it is that times -i.
        const ur = cos[2 * j * wide] as number;
        const ui = sin[2 * j * wide] as number;
        const vr = cos[j * wide] as number;
        const vi = sin[j * wide] as number;
        const a = block + j;
        const b = a + half;
        const c = b + half;
        const d = c + half;
        const b0 = re[b] as number;
        const b1 = im[b] as number;
        const d0 = re[d] as number;
        const d1 = im[d] as number;
        const bu = b0 * ur - b1 * ui;
        const bv = b0 * ui + b1 * ur;
        const du = d0 * ur - d1 * ui;
        const dv = d0 * ui + d1 * ur;
        const a0 = re[a] as number;
        const a1 = im[a] as number;
        const c0 = re[c] as number;
        const c1 = im[c] as number;
        const pr = a0 + bu;
        const pi = a1 + bv;
        const qr = a0 - bu;
        const qi = a1 - bv;
        const rr = c0 + du;
        const ri = c1 + dv;
        const sr = c0 - du;
        const si = c1 - dv;
        const ru = rr * vr - ri * vi;
        const rv = rr * vi + ri * vr;
        const su = sr * vi + si * vr;
        const sv = si * vi - sr * vr;
        re[a] = pr + ru;
        im[a] = pi + rv;
        re[c] = pr - ru;
        im[c] = pi - rv;
        re[b] = qr + su;
        im[b] = qi + sv;
        re[d] = qr - su;
        im[d] = qi - sv;
      }
    }
  }

  /** The round that joins the two halves of the whole, where their number of rounds is odd. */
  private lastRound() {
    const { size, re, im, cos, sin } = this;
    const half = size / 2;
    for (let a = 0, b = half; a < half; a++, b++) {
      const wr = cos[a] as number;
      const wi = sin[a] as number;
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

/** A Hann window. */
export const hann = (length: number): Float64Array =>
  Float64Array.from({ length }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / length));
