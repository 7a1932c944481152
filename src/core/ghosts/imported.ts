import type { VoiceName } from '../row-names';
import { hasGhosts } from '../voices';
import type { Hit } from '../model/part';

const SOFTEST_MAIN = 45;

/** How many hits there are of each velocity, 0 to 127. */
export type VelocityCounts = Uint32Array;

/** The value at or under which a share of velocities lies, by nearest rank. */
export function percentileOf(counts: VelocityCounts, share: number): number {
  const total = counts.reduce((sum, n) => sum + n, 0);
  let left = Math.max(1, Math.ceil(share * total));
  for (let v = 0; v < counts.length; v++) {
    left -= counts[v] as number;
    if (left <= 0) return v;
  }
  return 0;
}

/** The highest velocity of a ghost by voice: 45, or half of the voice's 90th percentile. Voices without ghosts are not in it. */
export type GhostLimits = ReadonlyMap<VoiceName, number>;

export function ghostLimits(hits: readonly Hit[]): GhostLimits {
  const counts = new Map<VoiceName, VelocityCounts>();
  for (const hit of hits) {
    let own = counts.get(hit.voice);
    if (!own) counts.set(hit.voice, (own = new Uint32Array(128)));
    own[hit.velocity]!++;
  }
  const limits = new Map<VoiceName, number>();
  for (const [voice, own] of counts) if (hasGhosts(voice)) limits.set(voice, Math.min(SOFTEST_MAIN, percentileOf(own, 0.9) / 2));
  return limits;
}

/** Whether a stroke counts as a ghost at import: velocity at most 45 and at most half of the voice's 90th percentile. */
export const isGhost = (hit: Hit, limits: GhostLimits): boolean =>
  hit.velocity <= SOFTEST_MAIN && hit.velocity <= (limits.get(hit.voice) ?? 0);
