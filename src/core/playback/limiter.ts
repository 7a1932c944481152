/** Nothing leaves above this: -0.2 dB of full scale. */
const CEILING = 10 ** (-0.2 / 20);
/** It looks so far ahead, in seconds. */
export const AHEAD_SECONDS = 0.005;
/** What it turned down comes back so slowly. */
const RELEASE_SECONDS = 0.09;

/**
 * A look-ahead limiter: where a peak is to come the level is turned down smoothly before it, and comes back slowly. Waves keep their shape.
 * It delays by {@link latency} frames. Where nothing is too loud, samples leave as they came.
 */
export class Limiter {
  /** Frames from in to out. */
  readonly latency: number;
  private readonly left: Float32Array;
  private readonly right: Float32Array;
  /** Rising values of the window, as a queue of frames and gains: the least is at its head. */
  private readonly queueAt: Float64Array;
  private readonly queueGain: Float64Array;
  private head = 0;
  private tail = 0;
  private readonly release: number;
  private released = 1;
  /** Two boxes, one after the other, smooth what the window's minimum gives. */
  private readonly boxes: Box[];
  private frame = 0;
  private lastOver = -Infinity;
  /** The lowest gain since it was last asked. */
  private lowest = 1;

  constructor(rate: number) {
    const half = Math.round((AHEAD_SECONDS * rate) / 2);
    this.latency = 2 * half;
    this.left = new Float32Array(this.latency + 1);
    this.right = new Float32Array(this.latency + 1);
    this.queueAt = new Float64Array(this.latency + 2);
    this.queueGain = new Float64Array(this.latency + 2);
    this.release = 1 - Math.exp(-1 / (RELEASE_SECONDS * rate));
    this.boxes = [new Box(half + 1), new Box(half + 1)];
  }

  /** Limits a block in place; what leaves is what came {@link latency} frames before. */
  process(left: Float32Array, right: Float32Array): void {
    if (this.isAtRest && !isOver(left) && !isOver(right)) return this.pass(left, right);
    const size = this.latency + 1;
    for (let i = 0; i < left.length; i++) {
      const [l, r] = [left[i] as number, right[i] as number];
      const peak = Math.max(Math.abs(l), Math.abs(r));
      if (peak > CEILING) this.lastOver = this.frame;
      const least = this.leastOf(peak > CEILING ? CEILING / peak : 1);
      this.released = least < this.released ? least : this.released + (least - this.released) * this.release;
      if (this.released > 0.999999) this.released = 1;
      let gain = this.released;
      for (const box of this.boxes) gain = box.mean(gain);
      const at = this.frame % size;
      this.left[at] = l;
      this.right[at] = r;
      const out = (this.frame + 1) % size;
      left[i] = (this.left[out] as number) * gain;
      right[i] = (this.right[out] as number) * gain;
      if (gain < this.lowest) this.lowest = gain;
      this.frame++;
    }
  }

  /** Nothing was too loud for so long that all gains are 1. */
  private get isAtRest(): boolean {
    return this.released === 1 && this.frame - this.lastOver > this.latency && this.boxes.every((box) => box.isFull);
  }

  /** The delay alone: what is multiplied by 1 is only moved. */
  private pass(left: Float32Array, right: Float32Array) {
    const size = this.latency + 1;
    let at = this.frame % size;
    for (let i = 0; i < left.length; i++) {
      const out = at + 1 === size ? 0 : at + 1;
      const [l, r] = [left[i] as number, right[i] as number];
      left[i] = this.left[out] as number;
      right[i] = this.right[out] as number;
      this.left[at] = l;
      this.right[at] = r;
      at = out;
    }
    this.frame += left.length;
    this.head = 0;
    this.tail = 1;
    this.queueAt[0] = this.frame - 1;
    this.queueGain[0] = 1;
  }

  /** The least gain that any frame of the window asks for. */
  private leastOf(gain: number): number {
    const size = this.queueAt.length;
    while (this.tail > this.head && (this.queueGain[(this.tail - 1) % size] as number) >= gain) this.tail--;
    this.queueAt[this.tail % size] = this.frame;
    this.queueGain[this.tail % size] = gain;
    this.tail++;
    while ((this.queueAt[this.head % size] as number) < this.frame - this.latency) this.head++;
    return this.queueGain[this.head % size] as number;
  }

  /** How far it turned down since it was last asked: 1 is not at all. */
  takeLowest(): number {
    const { lowest } = this;
    this.lowest = 1;
    return lowest;
  }
}

function isOver(samples: Float32Array): boolean {
  for (const x of samples) if (x > CEILING || x < -CEILING) return true;
  return false;
}

/** A running mean, exact where all values are 1. */
class Box {
  private readonly values: Float64Array;
  private at = 0;
  /** What lies under 1 of the values in it, added up. */
  private under = 0;
  private others = 0;

  constructor(size: number) {
    this.values = new Float64Array(size).fill(1);
  }

  /** All values are 1. */
  get isFull(): boolean {
    return this.others === 0;
  }

  mean(value: number): number {
    const old = this.values[this.at] as number;
    this.values[this.at] = value;
    this.at = this.at + 1 === this.values.length ? 0 : this.at + 1;
    if (value !== 1) this.others++;
    if (old !== 1) this.others--;
    this.under = this.others === 0 ? 0 : this.under + (1 - value) - (1 - old);
    return 1 - this.under / this.values.length;
  }
}
