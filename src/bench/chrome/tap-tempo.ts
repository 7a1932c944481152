/** Taps further apart than this start a new count. */
const LONGEST_GAP_MS = 2500;
const MOST_TAPS = 12;
const FEWEST_TAPS = 3;

/**
 * Adds a tap and gives the tempo of the taps so far: the mean of the gaps, which evens out a shaky hand.
 * @example tapTempo([0, 500], 1000) // { taps: [0, 500, 1000], bpm: 120 }
 */
export function tapTempo(taps: readonly number[], now: number): { taps: number[]; bpm: number | null } {
  const last = taps[taps.length - 1];
  const kept = last !== undefined && now - last <= LONGEST_GAP_MS ? [...taps.slice(-MOST_TAPS + 1), now] : [now];
  const first = kept[0] as number;
  return { taps: kept, bpm: kept.length < FEWEST_TAPS ? null : 60000 / ((now - first) / (kept.length - 1)) };
}
