import { deviation, median } from '../statistics';
import { milliseconds, type Bpm, type Milliseconds, type Seconds } from '../units';

/** What a tap-along measurement found. */
export interface LatencyFinding {
  /** Median distance of taps from their clicks: how late the device comes. */
  latencyMs: Milliseconds;
  /** Deviation of the distances. */
  spreadMs: Milliseconds;
  /** Taps that belonged to a click. */
  taps: number;
}

/** A measurement's clicks: how many, and how far apart. */
export const MEASURED_CLICKS = 16;
export const MEASURED_BPM = 120 as Bpm;
export const MEASURED_GAP = (60 / MEASURED_BPM) as Seconds;

/** Fewer taps tell nothing. */
const LEAST_TAPS = 6;

/**
 * Compares taps with the clicks that were heard: each click takes the nearest tap within half a click's distance that no other click is
 * nearer to; clicks without a tap are left out.
 * @param clicks when each click was heard, ascending, on the same clock as the taps
 * @returns null with fewer than six taps
 */
export function measureLatency(clicks: readonly Seconds[], taps: readonly Seconds[]): LatencyFinding | null {
  const distances: number[] = [];
  const gap = clicks.length > 1 ? ((clicks[clicks.length - 1] as number) - (clicks[0] as number)) / (clicks.length - 1) : 0.5;
  const used = new Set<number>();
  for (const click of clicks) {
    let best = -1;
    taps.forEach((tap, i) => {
      if (used.has(i)) return;
      const d = Math.abs(tap - click);
      if (d < gap / 2 && (best < 0 || d < Math.abs((taps[best] as number) - click))) best = i;
    });
    if (best < 0) continue;
    used.add(best);
    distances.push(((taps[best] as number) - click) * 1000);
  }
  if (distances.length < LEAST_TAPS) return null;
  return { latencyMs: milliseconds(median(distances)), spreadMs: milliseconds(deviation(distances)), taps: distances.length };
}
