import { voiceNumbers } from '../part/by-voice';
import type { Hit } from '../model/part';
import { hashText, mix } from '../random';
import type { MeterMap } from '../time/meter-map';
import { ticks } from '../units';
import type { HitRange } from './work';
import { mixLong, normalOf } from './numbers';
import { SlowCurve, SPAN_BARS } from './slow-curve';

export { mix };

/**
 * Seeded draws for hits. A draw depends on the seed, the voice, the written tick and the ordinal among equals alone: editing one
 * hit never changes another's, and every place that performs the part draws the same.
 */

export { evenOf, mixLong, normalOf } from './numbers';

/** Which draws are kept apart from each other. */
export const SALT = {
  timing: 1,
  velocity: 2,
  slowTiming: 3,
  slowVelocity: 4,
  jitter: 5,
  spread: 6,
  pan: 7,
  pitch: 8,
  brightness: 9,
  chance: 10,
} as const;

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

/** Draws of unit deviation for each hit: the slow curve's and its own, for time and for velocity. */
export interface HumanValues {
  slowTiming: Float64Array;
  ownTiming: Float64Array;
  slowVelocity: Float64Array;
  ownVelocity: Float64Array;
}

const MOST_SEEDS = 12;
const drawCache = new WeakMap<readonly Hit[], Map<string, { map: MeterMap; draws: HumanValues }>>();

/** How slow curves are read: by their own seed, so many ticks later. */
export interface SlowReading {
  seed: number;
  shift: number;
}

/**
 * The draws of a seed for a list of hits in their bars, the slow curves' means 0 over each `span` of these; kept, since amounts are swept
 * while they stay.
 * @param only draws for these hits alone, which are not kept: rounds of an order draw once each
 */
export function humanValues(
  hits: readonly Hit[],
  map: MeterMap,
  seed: number,
  span: number = SPAN_BARS,
  slow: SlowReading = { seed, shift: 0 },
  only?: HitRange,
): HumanValues {
  if (only) return drawn(hits, map, seed, span, slow, only);
  const key = `${seed}/${span}/${slow.shift}`;
  let bySeed = drawCache.get(hits);
  if (!bySeed) drawCache.set(hits, (bySeed = new Map()));
  const known = bySeed.get(key);
  if (known?.map === map) return known.draws;
  const draws = drawn(hits, map, seed, span, slow, { from: 0, to: hits.length });
  if (bySeed.size >= MOST_SEEDS) bySeed.delete(bySeed.keys().next().value as string);
  bySeed.set(key, { map, draws });
  return draws;
}

function drawn(hits: readonly Hit[], map: MeterMap, seed: number, span: number, slow: SlowReading, { from, to }: HitRange): HumanValues {
  const n = hits.length;
  const draws: HumanValues = {
    slowTiming: new Float64Array(n),
    ownTiming: new Float64Array(n),
    slowVelocity: new Float64Array(n),
    ownVelocity: new Float64Array(n),
  };
  const hashes = hitHashes(hits);
  const timing = new SlowCurve(mix(slow.seed, SALT.slowTiming), map, span);
  const velocity = new SlowCurve(mix(slow.seed, SALT.slowVelocity), map, span);
  const timingSeed = mix(seed, SALT.timing);
  const velocitySeed = mix(seed, SALT.velocity);
  let tick = Number.NaN;
  for (let i = from; i < to; i++) {
    const hit = hits[i] as Hit;
    const hash = hashes[i] as number;
    const same = hit.tick === tick;
    tick = hit.tick;
    draws.slowTiming[i] = same ? (draws.slowTiming[i - 1] as number) : timing.at(ticks(hit.tick + slow.shift));
    draws.slowVelocity[i] = same ? (draws.slowVelocity[i - 1] as number) : velocity.at(ticks(hit.tick + slow.shift));
    draws.ownTiming[i] = normalOf(mix(timingSeed, hash));
    draws.ownVelocity[i] = normalOf(mix(velocitySeed, hash));
  }
  return draws;
}
