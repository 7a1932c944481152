import { MOST_ENTRIES } from '../limits';
import type { Hit } from '../model/part';
import { GRIDS, stepOf } from '../time/grid';
import { clamp, ticks } from '../units';
import { stepInCycle } from '../time/cycle';
import { evenOf, hitHashes, mix, SALT } from '../feel/random-values';
import type { AccentsMove } from '../model/feel';
import type { ScopeTest } from '../feel/scope';
import { choice, number, optional, type ApplyMove, type MoveSpec } from '../feel/move-spec';

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
const applyAccents: ApplyMove<AccentsMove> = (move, { hits, written, range, loudness, map }, inScope, seed) => {
  const { levels, depth, contrast, scale, add, jitter, floor, ceiling } = move;
  const step = stepOf(move.grid);
  const pivot = move.pivot ?? (contrast === 1 ? 64 : meanWritten(hits, inScope));
  const hashes = jitter > 0 ? hitHashes(hits) : null;
  const salted = mix(seed, SALT.jitter);
  for (let i = range.from; i < range.to; i++) {
    if (written.chokes[i] === 1 || !inScope(i)) continue;
    const level =
      levels.length === 1
        ? (levels[0] as number)
        : (levels[stepInCycle(map, ticks(written.ticks[i] as number), step, levels.length)] as number);
    const contrasted = clamp(((loudness[i] as number) - pivot) * contrast + pivot, 1, 127);
    const draw = hashes ? (2 * evenOf(mix(salted, hashes[i] as number)) - 1) * jitter : 0;
    loudness[i] = clamp(contrasted * scale * (1 + depth * (level - 1)) + add + draw, floor, ceiling);
  }
};

export const accentsMove: MoveSpec<AccentsMove> = {
  kind: 'accents',
  members: {
    grid: choice(GRIDS),
    levels: { is: 'levels', min: 0, max: 2, most: MOST_ENTRIES },
    depth: number(0, 1),
    pivot: optional(number(1, 127)),
    contrast: number(0, 3),
    scale: number(0, 2),
    add: number(-127, 127),
    jitter: number(0, 40),
    floor: number(1, 127),
    ceiling: number(1, 127),
  },
  plain: { kind: 'accents', grid: '1/16', levels: [1], depth: 1, contrast: 1, scale: 1, add: 0, jitter: 0, floor: 1, ceiling: 127 },
  first: () => ({ levels: [1.15, 0.74, 0.92, 0.74] }),
  problem: ({ floor, ceiling }) => (floor > ceiling ? 'floor: is over ceiling' : null),
  salt: 'accents',
  draws: true,
  apply: applyAccents,
};
