import { solveBanded } from './banded';
import { DRUM_GROUPS, type StrokeTable } from './strokes';

const ROUNDS = 4;
/** Strokes lie so far around their line; so far off they count half; so sure is one of them of its line; in seconds. */
const SPREAD = 0.024;
const FAR = 0.03;
const SURE = 0.015;
/** How much the beat changes from one to the next, as a share. */
const STEADY = 0.004;
/** How a group's mean lean is removed: strokes within this many seconds count, at most this many seconds are removed, above this weight. */
const LEAN = { within: 0.05, most: 0.02, over: 3, share: 0.8 } as const;
/** Lines a stroke may be meant for, with what each costs. */
const LINES = [
  [0, 0],
  [1, 0],
  [1 / 2, 0.35],
  [1 / 4, 1],
  [3 / 4, 1],
  [1 / 3, 1.2],
  [2 / 3, 1.2],
] as const;

/** The place of a moment between beats: the index of the beat before it. Moments outside are counted by the first or last beat. */
export function beatBefore(beats: Float64Array, at: number, hint: number): number {
  let i = Math.min(Math.max(0, hint), beats.length - 2);
  while (i > 0 && (beats[i] as number) > at) i--;
  while (i < beats.length - 2 && (beats[i + 1] as number) <= at) i++;
  return i;
}

/**
 * Moves beats to where the strokes say they are, and evens out what no stroke asks for: weighted least squares over all beat times, with
 * what lies far off and sudden changes of tempo counting less.
 * @param beats seconds, rising
 */
export function smoothBeats({ count, at, group, weight }: StrokeTable, beats: Float64Array): Float64Array {
  let now = Float64Array.from(beats);
  const n = now.length;
  if (n < 3) return now;
  const leans = new Float64Array(DRUM_GROUPS.length);
  for (let round = 0; round < ROUNDS; round++) {
    const [middle, first, second, right] = [new Float64Array(n), new Float64Array(n), new Float64Array(n), new Float64Array(n)];
    const sums = new Float64Array(DRUM_GROUPS.length);
    const weights = new Float64Array(DRUM_GROUPS.length);
    let hint = 0;
    for (let s = 0; s < count; s++) {
      const g = group[s] as number;
      const moment = (at[s] as number) - (leans[g] as number);
      const i = (hint = beatBefore(now, moment, hint));
      const [from, to] = [now[i] as number, now[i + 1] as number];
      let [line, least, off] = [0, Infinity, 0];
      for (const [place, cost] of LINES) {
        const away = moment - from - place * (to - from);
        const score = (away * away) / (2 * SPREAD * SPREAD) + cost;
        if (score < least) [line, least, off] = [place, score, away];
      }
      const w = (weight[s] as number) / (1 + (off / FAR) ** 2) / SURE ** 2;
      const [a, b] = [1 - line, line];
      middle[i]! += w * a * a;
      middle[i + 1]! += w * b * b;
      first[i]! += w * a * b;
      right[i]! += w * a * moment;
      right[i + 1]! += w * b * moment;
      if (Math.abs(off) < LEAN.within) {
        sums[g]! += (weight[s] as number) * off;
        weights[g]! += weight[s] as number;
      }
    }
    for (let i = 1; i < n - 1; i++) {
      const [x, y, z] = [now[i - 1] as number, now[i] as number, now[i + 1] as number];
      const scale = STEADY * Math.max(0.05, (z - x) / 2);
      const bend = (x - 2 * y + z) / scale;
      const w = (round > 0 ? 1 / (1 + (bend / 3) ** 2) : 1) / scale ** 2;
      middle[i - 1]! += w;
      middle[i]! += 4 * w;
      middle[i + 1]! += w;
      first[i - 1]! -= 2 * w;
      first[i]! -= 2 * w;
      second[i - 1]! += w;
    }
    for (let i = 0; i < n; i++) middle[i]! += 1e-6;
    for (let i = 0; i < n; i++) right[i]! += 1e-6 * (now[i] as number);
    solveBanded(middle, first, second, right);
    // Beats never cross: what would is left as it was.
    if (right.every((b, i) => i === 0 || b > (right[i - 1] as number) + 0.05)) now = right;
    for (let g = 0; g < leans.length; g++)
      if ((weights[g] as number) > LEAN.over)
        leans[g] = Math.max(
          -LEAN.most,
          Math.min(LEAN.most, (leans[g] as number) + (LEAN.share * (sums[g] as number)) / (weights[g] as number)),
        );
  }
  return now;
}
