import { hasGhosts } from '../voices';
import type { Hit } from './part';

const SOFTEST_MAIN = 45;

/** The value at or under which a share of velocities lies, by nearest rank; counted, since there are only 127 of them. */
export function percentileOfVelocities(hits: readonly Pick<Hit, 'velocity'>[], share: number): number {
  const counts = new Uint32Array(128);
  for (const hit of hits) counts[hit.velocity]!++;
  let left = Math.max(1, Math.ceil(share * hits.length));
  for (let v = 0; v < 128; v++) {
    left -= counts[v] as number;
    if (left <= 0) return v;
  }
  return 0;
}

/** Flags the ghosts of kick, snare and toms: velocity at most 45 and at most half of the voice's 90th percentile. */
export function markGhosts(hits: readonly Hit[]): Hit[] {
  const byVoice = new Map<string, Hit[]>();
  for (const hit of hits) {
    const list = byVoice.get(hit.voice);
    if (list) list.push(hit);
    else byVoice.set(hit.voice, [hit]);
  }
  const limits = new Map<string, number>();
  for (const [voice, list] of byVoice) if (hasGhosts(voice)) limits.set(voice, Math.min(SOFTEST_MAIN, percentileOfVelocities(list, 0.9) / 2));
  return hits.map((hit) => (hit.velocity <= SOFTEST_MAIN && hit.velocity <= (limits.get(hit.voice) ?? 0) ? { ...hit, ghost: true } : hit));
}
