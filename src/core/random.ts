/**
 * A seeded stream of numbers from 0 to 1 (without 1): the public-domain generator "mulberry32", enough for sound and dice.
 * @example const next = randomStream(1); next(); next()
 */
export function randomStream(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** Spreads a whole number over all 32 bits: neighbouring numbers give unrelated ones (C. Wellons' "lowbias32", public domain). */
export function scramble(value: number): number {
  let x = value >>> 0;
  x = Math.imul(x ^ (x >>> 16), 0x7feb352d);
  x = Math.imul(x ^ (x >>> 15), 0x846ca68b);
  return (x ^ (x >>> 16)) >>> 0;
}

/** The golden ratio's part of 32 bits: keeps 0 from staying 0, and neighbours apart. */
const GOLDEN = 0x9e3779b1;

/**
 * Mixes one more number into a hash or a seed. What went in before is spread over all bits first, so that mixing 1 into seed 2 has
 * nothing to do with mixing 2 into seed 1.
 */
export const mix = (hash: number, value: number): number => scramble((scramble(hash + GOLDEN) + Math.imul(value, GOLDEN)) | 0);

/** A 32-bit hash of a text (FNV-1a), to make a seed of a name. */
export function hashText(text: string): number {
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
  return hash >>> 0;
}

/** Turns an even stream into a normal one of mean 0 and deviation 1 (Box & Muller, Annals of Mathematical Statistics 29, 1958). */
export function normalStream(even: () => number): () => number {
  let spare: number | null = null;
  return () => {
    if (spare !== null) {
      const kept = spare;
      spare = null;
      return kept;
    }
    const radius = Math.sqrt(-2 * Math.log(1 - even()));
    const angle = 2 * Math.PI * even();
    spare = radius * Math.sin(angle);
    return radius * Math.cos(angle);
  };
}
