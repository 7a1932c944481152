/**
 * Engines keep objects that got their members in the same order in one layout, and read lists of those many times faster than lists where
 * nearly every object has a layout of its own, as spreading a hit and adding a member leaves them. Hits that stay are therefore made here.
 */
import { HIT_FIELDS, namesOf } from './fields';
import type { Hit, Part } from './part';

const REQUIRED = new Set<keyof Hit>(['id', 'voice', 'key', 'tick', 'home', 'length', 'velocity']);
const OPTIONAL = namesOf(HIT_FIELDS).filter((name) => !REQUIRED.has(name));

/** The same hit with its members in one order, and some of them changed; a member that is changed to undefined is left out. */
export function shapedHit(hit: Hit, change: { readonly [K in keyof Hit]?: Hit[K] | undefined } = {}): Hit {
  const { id, voice, key, tick, home, length, velocity } = { ...hit, ...change } as Hit;
  const copy: Hit = { id, voice, key, tick, home, length, velocity };
  for (const name of OPTIONAL) {
    const value = name in change ? change[name] : hit[name];
    if (value !== undefined) (copy as unknown as Record<string, unknown>)[name] = value;
  }
  return copy;
}

/** A copy under another id. It gets alternates of the sound for itself, also where its original sounds like another stroke. */
export const copyOfHit = (hit: Hit, id: string): Hit => shapedHit(hit, { id, variation: undefined });

/** A part whose hits that `before` does not have are in shape. */
export function withShapedHits(before: Pick<Part, 'hits'>, after: Part): Part {
  if (before.hits === after.hits) return after;
  const known = new Set(before.hits);
  let changed = false;
  const hits = after.hits.map((hit) => {
    if (known.has(hit)) return hit;
    changed = true;
    return shapedHit(hit);
  });
  return changed ? { ...after, hits } : after;
}
