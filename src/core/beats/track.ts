import type { StrokeTable } from './strokes';

/** Beats are looked for at multiples of this, in seconds. */
const FRAME = 0.01;
/** How far the beat may wander from where it began, and from one beat to the next, as shares of it. */
const WANDER = 0.16;
const STEP = 0.07;
/** One standard deviation from a beat to the next, as a share. */
const STEADY = 0.022;
/** Strokes lie so far around their line, in seconds. */
const SPREAD = 0.024;
/** What a stroke far from every line is worth. */
const FLOOR = 0.03;
/** Lines of a beat, with how likely a stroke is on them. */
const LINES = [
  [0, 1],
  [1, 1],
  [1 / 2, 0.7],
  [1 / 4, 0.35],
  [3 / 4, 0.35],
  [1 / 3, 0.3],
  [2 / 3, 0.3],
] as const;
/** Times of strokes are told apart to a millisecond. */
const MILLI = 1000;

/** A chain of beats through a take. */
export interface BeatTrack {
  /** Seconds, rising; the first stroke lies behind the first, the last before the last. */
  beats: Float64Array;
  /** How much better than strokes spread evenly. */
  score: number;
}

/** What a stroke adds at each millisecond of a beat, against one at a place drawn by chance. */
function gains(period: number): Float64Array {
  const length = Math.round(period * MILLI);
  const table = new Float64Array(length + 1);
  for (let ms = 0; ms <= length; ms++) {
    let sum = FLOOR;
    for (const [place, share] of LINES) {
      const away = (ms / MILLI - place * period) / SPREAD;
      sum += share * Math.exp((-away * away) / 2);
    }
    table[ms] = Math.log(sum);
  }
  const mean = table.reduce((a, b) => a + b, 0) / table.length;
  return table.map((g) => g - mean);
}

/**
 * Follows a beat of about this length through a take: dynamic programming over where beats fall and how long the last one was. Linear in
 * the length of the take.
 * @param period seconds
 * @param onProgress 0 to 1; false ends it
 */
export function trackBeats(
  { count, at, weight }: StrokeTable,
  period: number,
  onProgress: (done: number) => boolean = () => true,
): BeatTrack | null {
  const start = (at[0] as number) - 2 * FRAME;
  const frames = Math.ceil(((at[count - 1] as number) - start) / FRAME) + 1;
  const low = Math.max(2, Math.floor((period * (1 - WANDER)) / FRAME));
  const high = Math.ceil((period * (1 + WANDER)) / FRAME);
  const widths = high - low + 1;
  const total = frames + high;
  const reach = Math.max(1, Math.round((period * STEP) / FRAME));
  const tables = Array.from({ length: widths }, (_, w) => gains((low + w) * FRAME));
  const costs = Array.from({ length: widths }, (_, w) =>
    Array.from({ length: widths }, (_, v) => {
      const x = (v - w) / (STEADY * (low + w));
      return Math.min((x * x) / 2, 4 + 0.1 * Math.abs(x));
    }),
  );
  const best = new Float32Array((total + 1) * widths);
  /** The width of the beat before, from 1; 0: the chain begins here. */
  const from = new Uint8Array((total + 1) * widths);
  /** Milliseconds from the first frame. */
  const millis = Int32Array.from(at, (moment) => Math.round((moment - start) * MILLI));
  const frame = FRAME * MILLI;
  /** Strokes before each frame. */
  const before = new Uint32Array(total + 2);
  for (let t = 0, i = 0; t <= total + 1; t++) {
    while (i < count && (millis[i] as number) < t * frame) i++;
    before[t] = i;
  }
  // A chain begins up to two frames behind the first stroke.
  const free = 4;
  for (let t = 0; t <= total; t++) {
    if ((t & 0xfff) === 0 && !onProgress(t / total)) return null;
    for (let w = 0; w < widths; w++) {
      const length = low + w;
      const began = t - length;
      let value = t <= free ? 0 : -Infinity;
      let chosen = 0;
      if (began >= 0) {
        const costsOf = costs[w] as number[];
        for (let v = Math.max(0, w - reach); v <= Math.min(widths - 1, w + reach); v++) {
          const candidate = (best[began * widths + v] as number) - (costsOf[v] as number);
          if (candidate > value) [value, chosen] = [candidate, v + 1];
        }
        if (chosen > 0) {
          const gain = tables[w] as Float64Array;
          const origin = began * frame;
          for (let i = before[began] as number; i < (before[t] as number); i++)
            value += (weight[i] as number) * (gain[(millis[i] as number) - origin] as number);
        }
      }
      best[t * widths + w] = value;
      from[t * widths + w] = chosen;
    }
  }
  let [end, width] = [total, 0];
  for (let t = frames; t <= total; t++)
    for (let w = 0; w < widths; w++) if ((best[t * widths + w] as number) > (best[end * widths + width] as number)) [end, width] = [t, w];
  const score = best[end * widths + width] as number;
  if (!Number.isFinite(score)) return null;
  const beats: number[] = [];
  for (let t = end, w = width; ;) {
    beats.push(start + t * FRAME);
    const next = from[t * widths + w] as number;
    if (next === 0) break;
    t -= low + w;
    w = next - 1;
  }
  return beats.length < 2 ? null : { beats: Float64Array.from(beats.reverse()), score };
}
