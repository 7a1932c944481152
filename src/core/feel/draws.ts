import { hashText } from '../random';
import { voiceNumbers } from '../part/by-voice';
import type { Hit } from '../part/part';
import { TICKS_PER_QUARTER } from '../units';

/**
 * Seeded draws for hits. A draw depends on the seed, the voice, the written tick and the ordinal among equals alone: editing one
 * hit never changes another's, and every place that performs the part draws the same.
 */

const TWO_32 = 4294967296;

/** Mixes one more number into a hash (the finalizer of MurmurHash3, public domain). */
export function mix(hash: number, value: number): number {
  let h = Math.imul((hash ^ value) >>> 0, 0x85ebca6b);
  h = Math.imul((h ^ (h >>> 13)) >>> 0, 0xc2b2ae35);
  return (h ^ (h >>> 16)) >>> 0;
}

/** Mixes in a whole number that may be longer than 32 bits. */
export const mixLong = (hash: number, value: number): number => mix(mix(hash, value >>> 0), Math.floor(value / TWO_32));

/** An even draw, 0 to 1 without 1. */
export const evenOf = (hash: number): number => hash / TWO_32;

/** A normal draw of mean 0 and deviation 1 (Box & Muller, Annals of Mathematical Statistics 29, 1958). */
export const normalOf = (hash: number): number => Math.sqrt(-2 * Math.log((hash + 0.5) / TWO_32)) * Math.cos((2 * Math.PI * mix(hash, 0x9e3779b9)) / TWO_32);

/** Which draws are kept apart from each other. */
export const SALT = { timing: 1, velocity: 2, slowTiming: 3, slowVelocity: 4, jitter: 5, spread: 6 } as const;

const placeHashes = new WeakMap<readonly Hit[], Uint32Array>();

/** A hash of voice, written tick and ordinal among equals for each hit; made once a list of hits. */
export function hitHashes(hits: readonly Hit[]): Uint32Array {
  let hashes = placeHashes.get(hits);
  if (hashes) return hashes;
  hashes = new Uint32Array(hits.length);
  const { numbers, count } = voiceNumbers(hits);
  const voiceHash = new Uint32Array(count);
  const lastTick = new Float64Array(count).fill(Number.NaN);
  const ordinal = new Uint32Array(count);
  hits.forEach((hit, i) => {
    const v = numbers[i] as number;
    if (Number.isNaN(lastTick[v] as number)) voiceHash[v] = hashText(hit.voice);
    ordinal[v] = lastTick[v] === hit.tick ? (ordinal[v] as number) + 1 : 0;
    lastTick[v] = hit.tick;
    hashes![i] = mix(mixLong(voiceHash[v] as number, hit.tick), ordinal[v] as number);
  });
  placeHashes.set(hits, hashes);
  return hashes;
}

/** Octaves of the slow curve: from a sixteenth to 32 bars of 4/4. */
const OCTAVES = 10;
const FINEST = TICKS_PER_QUARTER / 4;

/**
 * One slow curve of unit deviation whose power falls as 1/f, as timing and loudness of drummers do (H. Hennig et al., "The Nature and
 * Properties of Human Rhythms and their Fluctuations", PLoS ONE 6(10), 2011; E. Räsänen et al., "Fluctuations of Hi-Hat Timing and
 * Dynamics in a Virtuoso Drum Track", PLoS ONE 10(6), 2015). It is a sum of octaves of equal deviation, each a row of normal draws
 * joined by straight lines (after R. Voss's algorithm, in M. Gardner, Scientific American 238(4), 1978). The value at a tick depends
 * on seed and tick alone. Ask for rising ticks: neighbouring draws are kept.
 */
export class SlowCurve {
  private readonly cells = new Float64Array(OCTAVES).fill(Number.NaN);
  private readonly left = new Float64Array(OCTAVES);
  private readonly right = new Float64Array(OCTAVES);

  constructor(private readonly seed: number) {}

  private draw = (octave: number, cell: number): number => normalOf(mixLong(mix(this.seed, octave), cell + 2 ** 40));

  at(tick: number): number {
    let sum = 0;
    for (let k = 0; k < OCTAVES; k++) {
      // Octaves are shifted against each other, so that their corners do not fall together on bar lines.
      const place = tick / (FINEST * 2 ** k) + k * 0.37;
      const cell = Math.floor(place);
      if (cell !== this.cells[k]) {
        this.left[k] = cell === (this.cells[k] as number) + 1 ? (this.right[k] as number) : this.draw(k, cell);
        this.right[k] = this.draw(k, cell + 1);
        this.cells[k] = cell;
      }
      const share = place - cell;
      // Between two draws the deviation sinks: divided by it, the curve has the same everywhere.
      sum += ((this.left[k] as number) * (1 - share) + (this.right[k] as number) * share) / Math.sqrt(share * share + (1 - share) * (1 - share));
    }
    return sum / Math.sqrt(OCTAVES);
  }
}

/** Draws of unit deviation for each hit: the slow curve's and its own, for time and for velocity. */
export interface HumanDraws {
  slowTiming: Float64Array;
  ownTiming: Float64Array;
  slowVelocity: Float64Array;
  ownVelocity: Float64Array;
}

const MOST_SEEDS = 12;
const drawCache = new WeakMap<readonly Hit[], Map<number, HumanDraws>>();

/** The draws of a seed for a list of hits; kept, since amounts are swept while they stay. */
export function humanDraws(hits: readonly Hit[], seed: number): HumanDraws {
  let bySeed = drawCache.get(hits);
  if (!bySeed) drawCache.set(hits, (bySeed = new Map()));
  let draws = bySeed.get(seed);
  if (draws) return draws;
  const n = hits.length;
  draws = { slowTiming: new Float64Array(n), ownTiming: new Float64Array(n), slowVelocity: new Float64Array(n), ownVelocity: new Float64Array(n) };
  const hashes = hitHashes(hits);
  const timing = new SlowCurve(mix(seed, SALT.slowTiming));
  const velocity = new SlowCurve(mix(seed, SALT.slowVelocity));
  const timingSeed = mix(seed, SALT.timing);
  const velocitySeed = mix(seed, SALT.velocity);
  let tick = Number.NaN;
  for (let i = 0; i < n; i++) {
    const hit = hits[i] as Hit;
    const hash = hashes[i] as number;
    const same = hit.tick === tick;
    tick = hit.tick;
    draws.slowTiming[i] = same ? (draws.slowTiming[i - 1] as number) : timing.at(tick);
    draws.slowVelocity[i] = same ? (draws.slowVelocity[i - 1] as number) : velocity.at(tick);
    draws.ownTiming[i] = normalOf(mix(timingSeed, hash));
    draws.ownVelocity[i] = normalOf(mix(velocitySeed, hash));
  }
  if (bySeed.size >= MOST_SEEDS) bySeed.delete(bySeed.keys().next().value as number);
  bySeed.set(seed, draws);
  return draws;
}
