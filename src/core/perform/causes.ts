import type { Move } from '../model/feel';
import type { Performable } from '../feel/work';
import { leanOf, performPart } from './perform';

/** What one thing does to where and how loud a hit is heard. */
export interface Cause {
  /** A move by its place in the feel; how it was written, against its line; or the nudge by hand. */
  of: number | 'written' | 'hand';
  /** Positive = later. */
  ms: number;
  /** Positive = louder; 0 of what was written, which is no change. */
  velocity: number;
}

const LEAST_MS = 0.05;

/**
 * Where a hit's lean and its velocity come from: the differences that each thing makes when one is added after the other, in the order
 * in which they are heard. Their ms add up to the hit's lean, but for the written order of a row, which holds hits back.
 * @param index of the hit in the part
 * @example causesOf(part, 3) // [{ of: 0, ms: 11, velocity: 0 }, { of: 'hand', ms: 6, velocity: 0 }]
 */
export function causesOf(part: Performable, index: number): Cause[] {
  const hit = part.hits[index];
  if (!hit) return [];
  const range = { from: index, to: index + 1 };
  const bare = {
    ...part,
    hits: hit.nudge ? part.hits.map((h, i) => (i === index ? { ...h, nudge: undefined } : h)) : part.hits,
  } as Performable;
  const heardWith = (moves: readonly Move[], of: Performable = bare) => {
    const performance = performPart({ ...of, feel: { ...part.feel, moves } }, range);
    return { lean: leanOf(part, performance, index) as number, velocity: performance.velocities[index] as number };
  };
  let before = heardWith([]);
  const causes: Cause[] = [{ of: 'written', ms: before.lean, velocity: 0 }];
  part.feel.moves.forEach((_, m) => {
    const now = heardWith(part.feel.moves.slice(0, m + 1));
    causes.push({ of: m, ms: now.lean - before.lean, velocity: now.velocity - before.velocity });
    before = now;
  });
  if (hit.nudge) {
    const now = heardWith(part.feel.moves, part);
    causes.push({ of: 'hand', ms: now.lean - before.lean, velocity: now.velocity - before.velocity });
  }
  return causes.filter((c) => Math.abs(c.ms) >= LEAST_MS || c.velocity !== 0);
}
