/** Taps further apart than this start anew. */
const LONGEST_GAP_MS = 1500;

/**
 * Adds a tap; after two whole pairs (five taps) the swing of them all is known.
 * @example tapPair([0, 300, 500, 800], 1000) // percent 60
 */
export function tapPair(taps: readonly number[], now: number): { taps: number[]; percent: number | null } {
  const last = taps[taps.length - 1];
  const kept = last !== undefined && now - last <= LONGEST_GAP_MS ? [...taps, now] : [now];
  const pairs = Math.floor((kept.length - 1) / 2);
  if (pairs < 2) return { taps: kept, percent: null };
  let long = 0;
  let whole = 0;
  for (let p = 0; p < pairs; p++) {
    long += (kept[2 * p + 1] as number) - (kept[2 * p] as number);
    whole += (kept[2 * p + 2] as number) - (kept[2 * p] as number);
  }
  return { taps: kept, percent: Math.round(Math.min(80, Math.max(25, (long / whole) * 100)) * 10) / 10 };
}
