/** One small room: eight delays that feed each other (a feedback network after J.-M. Jot, 1991), without movement, so that the same sound in gives the same out. */

/** Lengths in ms of the smallest room; no two share a factor once they are frames. */
const LINES_MS = [7.3, 8.9, 10.7, 12.1, 13.9, 15.7, 17.9, 19.3];
/** The largest room is so many times as large. */
const LARGEST = 2.6;
const RING_SECONDS = { small: 0.22, large: 0.75 };
/** Walls take the highs first. */
const DAMP_HZ = 5200;
const GAIN = 0.5;

export class Room {
  private lines: Float32Array[] = [];
  private gains: number[] = [];
  private places: number[] = [];
  private damped: Float64Array = new Float64Array(LINES_MS.length);
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
    const n = this.lines.length;
    const outs = new Float64Array(n);
    let heard = false;
    for (let i = 0; i < left.length; i++) {
      const [inL, inR] = [sendLeft[i] as number, sendRight[i] as number];
      if (inL !== 0 || inR !== 0) heard = true;
      let sum = 0;
      for (let k = 0; k < n; k++) {
        const read = (this.lines[k] as Float32Array)[this.places[k] as number] as number;
        const soft = (this.damped[k] as number) + (read - (this.damped[k] as number)) * this.damp;
        // So small that no sample tells it from silence.
        this.damped[k] = Math.abs(soft) < 1e-15 ? 0 : soft;
        outs[k] = (this.damped[k] as number) * (this.gains[k] as number);
        sum += outs[k] as number;
      }
      // Each line gets the others, turned over: energy is kept (a Householder reflection).
      const back = (-2 / n) * sum;
      let [l, r] = [0, 0];
      for (let k = 0; k < n; k++) {
        const out = outs[k] as number;
        if (k % 2 === 0) l += k % 4 === 0 ? out : -out;
        else r += k % 4 === 1 ? out : -out;
        const line = this.lines[k] as Float32Array;
        const place = this.places[k] as number;
        line[place] = out + back + (k % 2 === 0 ? inL : inR) * 0.5;
        this.places[k] = place + 1 === line.length ? 0 : place + 1;
      }
      left[i] = (left[i] as number) + l * amount * GAIN;
      right[i] = (right[i] as number) + r * amount * GAIN;
    }
    this.alive = heard ? this.rate * RING_SECONDS.large * 2.5 : this.alive - left.length;
  }
}
