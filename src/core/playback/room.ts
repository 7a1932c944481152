/** One small room: eight delays that feed each other (a feedback network after J.-M. Jot, 1991), without movement, so that the same sound in gives the same out. */

/** Lengths in ms of the smallest room; no two share a factor once they are frames. */
const LINES_MS = [7.3, 8.9, 10.7, 12.1, 13.9, 15.7, 17.9, 19.3];
/** The largest room is so many times as large. */
const LARGEST = 2.6;
const RING_SECONDS = { small: 0.22, large: 0.75 };
/** Walls take the highs first. */
const DAMP_HZ = 5200;
const GAIN = 0.5;
/** Fewer frames than the shortest line has, at any rate that is used; and a block of the audio thread, so that live and export go in the same steps. */
const CHUNK = 128;

export class Room {
  private lines: Float32Array[] = [];
  private gains: number[] = [];
  private places: number[] = [];
  private damped: Float64Array = new Float64Array(LINES_MS.length);
  private readonly damp: number;
  private size = -1;
  private readonly outs = LINES_MS.map(() => new Float64Array(CHUNK));
  private readonly sum = new Float64Array(CHUNK);
  private readonly sides = [new Float64Array(CHUNK), new Float64Array(CHUNK)] as const;
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
    const lengths = LINES_MS.map((ms) => Math.round((ms * factor * this.rate) / 1000) | 1);
    this.lines = lengths.map((n) => new Float32Array(n));
    this.gains = lengths.map((n) => 10 ** ((-3 * n) / (ring * this.rate)));
    this.places = lengths.map(() => 0);
    this.damped.fill(0);
  }

  get isSilent(): boolean {
    return this.alive <= 0;
  }

  /** Adds the room's answer to what is sent into it. */
  process(sendLeft: Float32Array, sendRight: Float32Array, left: Float32Array, right: Float32Array, amount: number): void {
    if (this.size < 0) this.setSize(40);
    let heard = false;
    for (let at = 0; at < left.length; at += CHUNK) heard = this.chunk(sendLeft, sendRight, left, right, at, Math.min(CHUNK, left.length - at), amount * GAIN) || heard;
    this.alive = heard ? this.rate * RING_SECONDS.large * 2.5 : this.alive - left.length;
  }

  /** So few frames that no line hears in them what it was given in them: line by line, instead of frame by frame. */
  private chunk(sendLeft: Float32Array, sendRight: Float32Array, left: Float32Array, right: Float32Array, at: number, count: number, amount: number): boolean {
    const n = this.lines.length;
    const { sum, sides, damp } = this;
    sum.fill(0, 0, count);
    sides[0].fill(0, 0, count);
    sides[1].fill(0, 0, count);
    for (let k = 0; k < n; k++) {
      const line = this.lines[k] as Float32Array;
      const out = this.outs[k] as Float64Array;
      const side = sides[k % 2] as Float64Array;
      const sign = k % 4 < 2 ? 1 : -1;
      const gain = this.gains[k] as number;
      const place = this.places[k] as number;
      let soft = this.damped[k] as number;
      // A line goes round at most once in a chunk: two stretches without a question asked a frame.
      const wrap = Math.min(count, line.length - place);
      for (let from = 0, to = wrap, shift = place; from < count; from = to, to = count, shift = -wrap) {
        for (let i = from; i < to; i++) {
          soft += ((line[i + shift] as number) - soft) * damp;
          const x = soft * gain;
          out[i] = x;
          sum[i] = (sum[i] as number) + x;
          side[i] = (side[i] as number) + sign * x;
        }
      }
      // So small that no sample tells it from silence.
      this.damped[k] = Math.abs(soft) < 1e-15 ? 0 : soft;
    }
    let heard = false;
    for (let i = 0; i < count; i++) {
      if (sendLeft[at + i] !== 0 || sendRight[at + i] !== 0) heard = true;
      left[at + i] = (left[at + i] as number) + (sides[0][i] as number) * amount;
      right[at + i] = (right[at + i] as number) + (sides[1][i] as number) * amount;
    }
    // Each line gets the others, turned over: energy is kept (a Householder reflection).
    const share = -2 / n;
    for (let k = 0; k < n; k++) {
      const line = this.lines[k] as Float32Array;
      const out = this.outs[k] as Float64Array;
      const send = k % 2 === 0 ? sendLeft : sendRight;
      const place = this.places[k] as number;
      const wrap = Math.min(count, line.length - place);
      for (let from = 0, to = wrap, shift = place; from < count; from = to, to = count, shift = -wrap) {
        for (let i = from; i < to; i++) line[i + shift] = (out[i] as number) + share * (sum[i] as number) + (send[at + i] as number) * 0.5;
      }
      this.places[k] = (place + count) % line.length;
    }
    return heard;
  }
}
