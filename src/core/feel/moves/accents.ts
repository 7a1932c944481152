import type { Hit } from '../../part/part';
import { stepOf } from '../../time/grid';
import { clamp, ticks } from '../../units';
import { stepInCycle } from '../cycle';
import { evenOf, hitHashes, mix, SALT } from '../draws';
import type { AccentsMove } from '../feel';
import type { ScopeTest } from '../scope';
import type { ApplyMove } from '../work';

/** The mean written velocity in scope; chokes have none that sounds. */
function meanWritten(hits: readonly Hit[], inScope: ScopeTest): number {
  let sum = 0;
  let n = 0;
  hits.forEach((hit, i) => {
    if (hit.choke || !inScope(i)) return;
    sum += hit.velocity;
    n++;
  });
  return n === 0 ? 64 : sum / n;
}

/** Contrast around a pivot, then levels by place, scale, addition and jitter, then the limits. Chokes are left alone. */
export const applyAccents: ApplyMove<AccentsMove> = (move, { hits, written, range, loudness, map }, inScope, seed) => {
  const { levels, depth, contrast, scale, add, jitter, floor, ceiling } = move;
  const step = stepOf(move.grid);
  const pivot = move.pivot ?? (contrast === 1 ? 64 : meanWritten(hits, inScope));
  const hashes = jitter > 0 ? hitHashes(hits) : null;
  const salted = mix(seed, SALT.jitter);
  for (let i = range.from; i < range.to; i++) {
    if (written.chokes[i] === 1 || !inScope(i)) continue;
    const level = levels.length === 1 ? (levels[0] as number) : (levels[stepInCycle(map, ticks(written.ticks[i] as number), step, levels.length)] as number);
    const contrasted = clamp(((loudness[i] as number) - pivot) * contrast + pivot, 1, 127);
    const draw = hashes ? (2 * evenOf(mix(salted, hashes[i] as number)) - 1) * jitter : 0;
    loudness[i] = clamp(contrasted * scale * (1 + depth * (level - 1)) + add + draw, floor, ceiling);
  }
};
