import type { NetLayer } from '@/core/onsets/stroke-net';
import { normalStream, randomStream } from '@/core/random';

/** Fits nets of a few layers by Adam (D. Kingma and J. Ba, 2015), with a rate that falls as a cosine. */

const BATCH = 128;
const FASTEST = 0.003;
const SLOWEST = 1e-5;
/** Weights shrink by this share of a step: what is of no use goes. */
const DECAY = 2e-4;
/** What one in the rows is worth. */
export const UNIT = 0.001;

/** What to learn from. */
export interface Lesson<T> {
  examples: readonly T[];
  /** What goes in. */
  valuesOf(example: T): ArrayLike<number>;
  /** How the loss goes with the k-th number that comes out, given what it is. */
  slope(example: T, k: number, said: number): number;
}

export interface NetShape {
  /** Of what goes in, of the layers, of what comes out. */
  sizes: readonly number[];
  steps: number;
  /** Standard deviation of the noise added to the input. */
  noise: number;
  /** Decides where it begins and the order of examples. */
  seed?: number;
}

/** One layer with what Adam keeps of it. */
class LearntLayer {
  readonly weights: Float64Array;
  readonly slopes: Float64Array;
  private readonly mean: Float64Array;
  private readonly power: Float64Array;
  readonly out: Float64Array;
  readonly back: Float64Array;

  constructor(
    readonly from: number,
    readonly to: number,
    private readonly bends: boolean,
    normal: () => number,
  ) {
    const size = to * (from + 1);
    this.weights = Float64Array.from({ length: size }, (_, i) => (i % (from + 1) === 0 ? 0 : normal() / Math.sqrt(from)));
    this.slopes = new Float64Array(size);
    this.mean = new Float64Array(size);
    this.power = new Float64Array(size);
    this.out = new Float64Array(to);
    this.back = new Float64Array(from);
  }

  run(values: Float64Array): Float64Array {
    const { weights, out, from, to } = this;
    for (let j = 0, w = 0; j < to; j++) {
      // Four independent sums run in parallel.
      let a = weights[w++] as number;
      let b = 0;
      let c = 0;
      let d = 0;
      let i = 0;
      for (; i + 3 < from; i += 4, w += 4) {
        a += (weights[w] as number) * (values[i] as number);
        b += (weights[w + 1] as number) * (values[i + 1] as number);
        c += (weights[w + 2] as number) * (values[i + 2] as number);
        d += (weights[w + 3] as number) * (values[i + 3] as number);
      }
      for (; i < from; i++, w++) a += (weights[w] as number) * (values[i] as number);
      out[j] = this.bends ? Math.tanh(a + b + c + d) : a + b + c + d;
    }
    return out;
  }

  /** @param slopes by what came out; those by what went in are left in `back` @param first nothing lies before it */
  learn(values: Float64Array, slopes: Float64Array, first: boolean): void {
    const { weights, slopes: own, out, back, from, to, bends } = this;
    back.fill(0);
    for (let j = 0; j < to; j++) {
      const slope = (slopes[j] as number) * (bends ? 1 - (out[j] as number) ** 2 : 1);
      if (slope === 0) continue;
      let w = j * (from + 1);
      own[w] = (own[w] as number) + slope;
      w++;
      if (first) for (let i = 0; i < from; i++, w++) own[w] = (own[w] as number) + slope * (values[i] as number);
      else
        for (let i = 0; i < from; i++, w++) {
          own[w] = (own[w] as number) + slope * (values[i] as number);
          back[i] = (back[i] as number) + slope * (weights[w] as number);
        }
    }
  }

  step(n: number, rate: number): void {
    const [usual, strong] = [1 - 0.9 ** n, 1 - 0.999 ** n];
    const { weights, slopes, mean, power } = this;
    for (let i = 0; i < weights.length; i++) {
      const slope = (slopes[i] as number) / BATCH;
      const m = (mean[i] = 0.9 * (mean[i] as number) + 0.1 * slope);
      const p = (power[i] = 0.999 * (power[i] as number) + 0.001 * slope * slope);
      const value = weights[i] as number;
      const shrinks = i % (this.from + 1) === 0 ? 0 : DECAY * value;
      weights[i] = value - rate * (m / usual / (Math.sqrt(p / strong) + 1e-8) + shrinks);
    }
    slopes.fill(0);
  }

  rows(): NetLayer {
    return Array.from({ length: this.to }, (_, j) =>
      Array.from(this.weights.subarray(j * (this.from + 1), (j + 1) * (this.from + 1)), (x) => Math.round(x / UNIT)),
    );
  }
}

/** Fits a net. The same lesson and shape give the same net. @param onStep told of every thousandth */
export function fitNet<T>(
  { examples, valuesOf, slope }: Lesson<T>,
  { sizes, steps, noise, seed = 5 }: NetShape,
  onStep: (step: number) => void = () => undefined,
): NetLayer[] {
  const random = randomStream(seed);
  const normal = normalStream(randomStream(seed + 1));
  const layers = sizes.slice(1).map((to, i) => new LearntLayer(sizes[i] as number, to, i < sizes.length - 2, normal));
  const input = new Float64Array(sizes[0] as number);
  const slopes = new Float64Array(sizes.at(-1) as number);
  for (let step = 1; step <= steps; step++) {
    if (step % 1000 === 0) onStep(step);
    for (let b = 0; b < BATCH; b++) {
      const example = examples[Math.floor(random() * examples.length)] as T;
      const values = valuesOf(example);
      // Three even ones together are near enough to normal.
      for (let i = 0; i < input.length; i++)
        input[i] = (values[i] as number) + (noise > 0 ? 2 * noise * (random() + random() + random() - 1.5) : 0);
      const ins: Float64Array[] = [];
      let now: Float64Array = input;
      for (const layer of layers) {
        ins.push(now);
        now = layer.run(now);
      }
      for (let k = 0; k < slopes.length; k++) slopes[k] = slope(example, k, now[k] as number);
      let back: Float64Array = slopes;
      for (let l = layers.length - 1; l >= 0; l--) {
        const layer = layers[l] as LearntLayer;
        layer.learn(ins[l] as Float64Array, back, l === 0);
        back = layer.back;
      }
    }
    const rate = SLOWEST + FASTEST * 0.5 * (1 + Math.cos((Math.PI * step) / steps));
    for (const layer of layers) layer.step(step, rate);
  }
  return layers.map((l) => l.rows());
}
