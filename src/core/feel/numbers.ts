import { mix } from '../random';

/** Numbers from hashes: what draws are made of. */

const TWO_32 = 4294967296;

/** Mixes in a whole number that may be longer than 32 bits. */
export const mixLong = (hash: number, value: number): number => mix(mix(hash, value >>> 0), Math.floor(value / TWO_32));

/** An even draw, 0 to 1 without 1. */
export const evenOf = (hash: number): number => hash / TWO_32;

/** A normal draw of mean 0 and deviation 1 (Box & Muller, Annals of Mathematical Statistics 29, 1958). */
export const normalOf = (hash: number): number =>
  Math.sqrt(-2 * Math.log((hash + 0.5) / TWO_32)) * Math.cos((2 * Math.PI * mix(hash, 0x9e3779b9)) / TWO_32);
