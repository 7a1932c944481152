import type { StrokeTable } from './strokes';

/** Distances of strokes that are looked at, in seconds; finer ones are flams, wider ones bars. */
const [NEAREST, FURTHEST] = [0.08, 2.9];
/** A bin is so much wider than the one before. */
const RATIO = 1.015;
const BINS = Math.ceil(Math.log(FURTHEST / NEAREST) / Math.log(RATIO)) + 1;
/** A stroke is compared with so many that follow at most: dense takes stay linear. */
const MOST_PAIRS = 64;
/** Beats that are tracked, in seconds. */
const [SHORTEST, LONGEST] = [0.29, 0.72];
const MOST_PERIODS = 4;
const APART = 1.07;
/** What other distances say of a period: its double, triple, fourfold and half. */
const COMB = [
  [1, 1],
  [2, 0.8],
  [3, 0.5],
  [4, 0.6],
  [0.5, 0.3],
] as const;

const binOf = (seconds: number): number => Math.log(seconds / NEAREST) / Math.log(RATIO);

/** How much of the weight lies at each distance between two strokes, smoothed, per second. */
function distances({ count, at, group, weight }: StrokeTable): Float64Array {
  const raw = new Float64Array(BINS);
  for (let i = 0; i < count; i++) {
    for (let j = i + 1; j < Math.min(count, i + 1 + MOST_PAIRS); j++) {
      const gap = (at[j] as number) - (at[i] as number);
      if (gap > FURTHEST) break;
      if (gap < NEAREST) continue;
      raw[Math.round(binOf(gap))]! += (weight[i] as number) * (weight[j] as number) * (group[i] === group[j] ? 1 : 0.5);
    }
  }
  const smooth = new Float64Array(BINS);
  for (let b = 0; b < BINS; b++) {
    let sum = 0;
    for (let k = -3; k <= 3; k++) sum += (raw[b + k] ?? 0) * Math.exp((-k * k) / 4.5);
    smooth[b] = sum / (NEAREST * RATIO ** b);
  }
  return smooth;
}

/** The likeliest lengths of a beat, in seconds, the likeliest first: at most four, none near another. */
export function periodsOf(table: StrokeTable): number[] {
  const found = distances(table);
  const at = (seconds: number): number => {
    const bin = binOf(seconds);
    const low = Math.floor(bin);
    return bin < 0 || bin > BINS - 1 ? 0 : (found[low] as number) * (1 - bin + low) + (found[low + 1] ?? 0) * (bin - low);
  };
  const steps: { period: number; score: number }[] = [];
  for (let period = SHORTEST; period <= LONGEST; period *= 1.004)
    steps.push({ period, score: COMB.reduce((sum, [times, share]) => sum + share * at(period * times), 0) });
  const peaks = steps
    .filter(({ score }, i) => score > 0 && score >= (steps[i - 1]?.score ?? 0) && score >= (steps[i + 1]?.score ?? 0))
    .sort((a, b) => b.score - a.score);
  const chosen: number[] = [];
  for (const { period } of peaks) {
    if (chosen.length === MOST_PERIODS) break;
    if (chosen.every((p) => Math.max(p / period, period / p) > APART)) chosen.push(period);
  }
  return chosen;
}
