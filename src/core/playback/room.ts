/**
 * One small room: eight delays that feed each other (a feedback network after J.-M. Jot, 1991), without movement, so that the same sound in
 * gives the same out.
 */

/** Lengths in ms of the smallest room; no two share a factor once they are frames. */
const LINES_MS = [7.3, 8.9, 10.7, 12.1, 13.9, 15.7, 17.9, 19.3];
/** The largest room is so many times as large. */
const LARGEST = 2.6;
const RING_SECONDS = { small: 0.22, large: 0.75 };
/** Walls take the highs first. */
const DAMP_HZ = 5200;
const GAIN = 0.5;
export class RoomReverb {
  /** All lines in one memory, one behind the other: an engine looks only once a frame whether it is still there. */
  private lines = new Float32Array(0);
  private lengths: number[] = [];
  private starts: number[] = [];
  private gains: number[] = [];
  private places: number[] = [];
  /** What each wall has let through last. */
  private readonly soft = new Float64Array(LINES_MS.length);
  private readonly damp: number;
  private size = -1;
  /** Frames for which something still rings. */
  private alive = 0;

  constructor(private readonly rate: number) {
    this.damp = 1 - Math.exp((-2 * Math.PI * DAMP_HZ) / rate);
  }

  /** @param size in percent, 0 to 100 */
  setSize(size: number): void {
    if (size === this.size) return;
    this.size = size;
    const factor = 1 + ((LARGEST - 1) * size) / 100;
    const ring = RING_SECONDS.small + ((RING_SECONDS.large - RING_SECONDS.small) * size) / 100;
    this.lengths = LINES_MS.map((ms) => Math.round((ms * factor * this.rate) / 1000) | 1);
    this.starts = this.lengths.map((_, k) => this.lengths.slice(0, k).reduce((sum, n) => sum + n, 0));
    this.lines = new Float32Array(this.lengths.reduce((sum, n) => sum + n, 0));
    this.gains = this.lengths.map((n) => 10 ** ((-3 * n) / (ring * this.rate)));
    this.places = this.lengths.map(() => 0);
    this.soft.fill(0);
  }

  get isSilent(): boolean {
    return this.alive <= 0;
  }

  /** Adds the room's answer to what is sent into it. */
  process(sendLeft: Float32Array, sendRight: Float32Array, left: Float32Array, right: Float32Array, amount: number): void {
    if (this.size < 0) this.setSize(40);
    let heard = false;
    for (let at = 0, count = 0; at < left.length; at += count) {
      // As far as no line comes to its end.
      count = this.lengths.reduce((least, n, k) => Math.min(least, n - (this.places[k] as number)), left.length - at);
      heard = this.run(sendLeft, sendRight, left, right, at, at + count, amount * GAIN) || heard;
      this.lengths.forEach((n, k) => (this.places[k] = ((this.places[k] as number) + count) % n));
    }
    // So small that no sample tells it from silence, and slow to reckon with.
    this.soft.forEach((x, k) => (this.soft[k] = Math.abs(x) < 1e-15 ? 0 : x));
    this.alive = heard ? this.rate * RING_SECONDS.large * 2.5 : this.alive - left.length;
  }

  /** Written out for the eight lines: as a loop over them a frame takes five times as long. */
  private run(
    sendLeft: Float32Array,
    sendRight: Float32Array,
    left: Float32Array,
    right: Float32Array,
    from: number,
    to: number,
    amount: number,
  ): boolean {
    const { lines, damp, soft } = this;
    const at = this.places.map((place, k) => place + (this.starts[k] as number) - from) as Eight;
    const [p0, p1, p2, p3, p4, p5, p6, p7] = at;
    const [g0, g1, g2, g3, g4, g5, g6, g7] = this.gains as Eight;
    let [s0, s1, s2, s3, s4, s5, s6, s7] = soft as unknown as Eight;
    // Each line gets the others, turned over: energy is kept (a Householder reflection).
    const share = -2 / LINES_MS.length;
    let heard = false;
    for (let i = from; i < to; i++) {
      s0 += ((lines[p0 + i] as number) - s0) * damp;
      s1 += ((lines[p1 + i] as number) - s1) * damp;
      s2 += ((lines[p2 + i] as number) - s2) * damp;
      s3 += ((lines[p3 + i] as number) - s3) * damp;
      s4 += ((lines[p4 + i] as number) - s4) * damp;
      s5 += ((lines[p5 + i] as number) - s5) * damp;
      s6 += ((lines[p6 + i] as number) - s6) * damp;
      s7 += ((lines[p7 + i] as number) - s7) * damp;
      const x0 = s0 * g0;
      const x1 = s1 * g1;
      const x2 = s2 * g2;
      const x3 = s3 * g3;
      const x4 = s4 * g4;
      const x5 = s5 * g5;
      const x6 = s6 * g6;
      const x7 = s7 * g7;
      const ours = sendLeft[i] as number;
      const theirs = sendRight[i] as number;
      if (ours !== 0 || theirs !== 0) heard = true;
      left[i] = (left[i] as number) + (x0 - x2 + x4 - x6) * amount;
      right[i] = (right[i] as number) + (x1 - x3 + x5 - x7) * amount;
      const shared = share * (x0 + x1 + x2 + x3 + x4 + x5 + x6 + x7);
      const intoLeft = shared + ours * 0.5;
      const intoRight = shared + theirs * 0.5;
      lines[p0 + i] = x0 + intoLeft;
      lines[p1 + i] = x1 + intoRight;
      lines[p2 + i] = x2 + intoLeft;
      lines[p3 + i] = x3 + intoRight;
      lines[p4 + i] = x4 + intoLeft;
      lines[p5 + i] = x5 + intoRight;
      lines[p6 + i] = x6 + intoLeft;
      lines[p7 + i] = x7 + intoRight;
    }
    soft.set([s0, s1, s2, s3, s4, s5, s6, s7]);
    return heard;
  }
}

type Eight = [number, number, number, number, number, number, number, number];
