import { LOOK_SIZE } from '@/core/onsets/look';
import { runNet, SOUNDS, type SoundKind, type StrokeWeights } from '@/core/onsets/stroke-net';
import { normalStream, randomStream } from '@/core/random';
import type { Example } from './examples';

const HIDDEN = 48;
const COUNT = SOUNDS.length;
const OUT = 3 * COUNT;
const BATCH = 32;
const FASTEST = 0.003;
const SLOWEST = 1e-5;
/** Weights shrink by this share of a step: what is of no use goes. */
const DECAY = 2e-4;
/** Errors in loudness count so much, and beyond so many of their units no more: a wrong label must not bend all. */
const LOUD = { weight: 2, steep: 3 } as const;
const LATE = { weight: 1, steep: 2 } as const;
const UNIT = 0.001;

const limited = (x: number): number => Math.max(-1, Math.min(1, x));

/** Numbers with their moments, for Adam (D. Kingma and J. Ba, 2015). */
class Learnt {
  readonly values: Float64Array;
  readonly slopes: Float64Array;
  private readonly mean: Float64Array;
  private readonly power: Float64Array;

  constructor(
    size: number,
    fill: () => number,
    private readonly decay: number,
  ) {
    this.values = Float64Array.from({ length: size }, fill);
    this.slopes = new Float64Array(size);
    this.mean = new Float64Array(size);
    this.power = new Float64Array(size);
  }

  step(n: number, rate: number): void {
    const [usual, strong] = [1 - 0.9 ** n, 1 - 0.999 ** n];
    for (let i = 0; i < this.values.length; i++) {
      const slope = (this.slopes[i] as number) / BATCH;
      const mean = (this.mean[i] = 0.9 * (this.mean[i] as number) + 0.1 * slope);
      const power = (this.power[i] = 0.999 * (this.power[i] as number) + 0.001 * slope * slope);
      const value = this.values[i] as number;
      this.values[i] = value - rate * (mean / usual / (Math.sqrt(power / strong) + 1e-8) + this.decay * value);
    }
    this.slopes.fill(0);
  }
}

/** Fits a net to examples. The same examples and steps give the same net. @param onStep told of every thousandth */
export function fitNet(examples: readonly Example[], steps: number, onStep: (step: number) => void = () => undefined): StrokeWeights {
  const random = randomStream(5);
  const normal = normalStream(randomStream(1));
  const hiddenWeights = new Learnt(HIDDEN * LOOK_SIZE, () => normal() / Math.sqrt(LOOK_SIZE), DECAY);
  const hiddenBias = new Learnt(HIDDEN, () => 0, 0);
  const outWeights = new Learnt(OUT * HIDDEN, () => normal() / Math.sqrt(HIDDEN), DECAY);
  const outBias = new Learnt(OUT, () => 0, 0);
  const all = [hiddenWeights, hiddenBias, outWeights, outBias];
  const hidden = new Float64Array(HIDDEN);
  const back = new Float64Array(HIDDEN);
  for (let step = 1; step <= steps; step++) {
    if (step % 1000 === 0) onStep(step);
    for (let b = 0; b < BATCH; b++) learnFrom(examples[Math.floor(random() * examples.length)] as Example);
    const rate = SLOWEST + FASTEST * 0.5 * (1 + Math.cos((Math.PI * step) / steps));
    for (const learnt of all) learnt.step(step, rate);
  }
  const whole = (x: number): number => Math.round(x / UNIT);
  const rows = (bias: Learnt, weights: Learnt, width: number): number[][] =>
    Array.from(bias.values, (b, row) => [whole(b), ...Array.from(weights.values.subarray(row * width, (row + 1) * width), whole)]);
  return { unit: UNIT, hidden: rows(hiddenBias, hiddenWeights, LOOK_SIZE), out: rows(outBias, outWeights, HIDDEN) };

  function learnFrom({ values, truth }: Example): void {
    for (let j = 0; j < HIDDEN; j++) {
      let sum = hiddenBias.values[j] as number;
      for (let i = 0; i < LOOK_SIZE; i++) sum += (hiddenWeights.values[j * LOOK_SIZE + i] as number) * (values[i] as number);
      hidden[j] = Math.tanh(sum);
    }
    back.fill(0);
    for (let k = 0; k < OUT; k++) {
      let said = outBias.values[k] as number;
      for (let j = 0; j < HIDDEN; j++) said += (outWeights.values[k * HIDDEN + j] as number) * (hidden[j] as number);
      const slope = slopeOf(k, said, truth);
      if (slope === 0) continue;
      outBias.slopes[k]! += slope;
      for (let j = 0; j < HIDDEN; j++) {
        outWeights.slopes[k * HIDDEN + j]! += slope * (hidden[j] as number);
        back[j]! += slope * (outWeights.values[k * HIDDEN + j] as number);
      }
    }
    for (let j = 0; j < HIDDEN; j++) {
      const slope = (back[j] as number) * (1 - (hidden[j] as number) ** 2);
      hiddenBias.slopes[j]! += slope;
      for (let i = 0; i < LOOK_SIZE; i++) hiddenWeights.slopes[j * LOOK_SIZE + i]! += slope * (values[i] as number);
    }
  }
}

/** How the loss goes with what the net says: cross entropy for likely, limited errors for loud and late of what was struck. */
function slopeOf(k: number, said: number, truth: Example['truth']): number {
  const own = truth[k % COUNT];
  if (k < COUNT) return 1 / (1 + Math.exp(-said)) - (own ? 1 : 0);
  if (!own) return 0;
  return k < 2 * COUNT ? LOUD.weight * limited((said - own.loud) * LOUD.steep) : LATE.weight * limited((said - own.late) * LATE.steep);
}

/** By sound: F of what is struck, and errors of how loud and how late, the median and those of four fifths. */
export function scoreNet(
  net: StrokeWeights,
  examples: readonly Example[],
): { sound: SoundKind; f: number; loud: readonly [number, number]; late: readonly [number, number] }[] {
  const said = examples.map((e) => runNet(net, e.values));
  const upTo = (errors: number[], share: number): number => errors.sort((a, b) => a - b)[Math.floor(errors.length * share)] ?? NaN;
  return SOUNDS.map((sound, k) => {
    const isSaid = examples.map((_, i) => ((said[i] as Float64Array)[k] as number) > 0);
    const right = examples.flatMap((e, i) => (isSaid[i] && e.truth[k] ? [{ said: said[i] as Float64Array, ...e.truth[k] }] : []));
    const count = isSaid.filter(Boolean).length + examples.filter((e) => e.truth[k]).length;
    const loud = right.map((r) => Math.abs((r.said[COUNT + k] as number) - r.loud));
    const late = right.map((r) => Math.abs((r.said[2 * COUNT + k] as number) - r.late));
    return { sound, f: (2 * right.length) / count, loud: [upTo(loud, 0.5), upTo(loud, 0.8)], late: [upTo(late, 0.5), upTo(late, 0.8)] };
  });
}
