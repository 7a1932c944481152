import { hasGhosts } from '../voices';
import { indicesByVoice } from './by-voice';
import type { Hit } from './part';

const SOFTEST_MAIN = 45;

/** The value at or above which a share of a list lies, by nearest rank (the smallest value with at least that share at or under it). */
export function percentile(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.max(0, Math.ceil(share * sorted.length) - 1)] ?? 0;
}

/** Flags the ghosts of kick, snare and toms: velocity at most 45 and at most half of the voice's 90th percentile. */
export function markGhosts(hits: readonly Hit[]): Hit[] {
  const marked = [...hits];
  for (const [voice, indices] of indicesByVoice(hits)) {
    if (!hasGhosts(voice)) continue;
    const limit = Math.min(SOFTEST_MAIN, percentile(indices.map((i) => (hits[i] as Hit).velocity), 0.9) / 2);
    for (const i of indices) {
      const hit = hits[i] as Hit;
      if (hit.velocity <= limit) marked[i] = { ...hit, ghost: true };
    }
  }
  return marked;
}
