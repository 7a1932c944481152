import { compareHits, type Hit, type Part } from '../model/part';
import type { Ornament } from '../model/ornament';
import { tempoMapOf } from '../part/part-time';
import { TempoMap, type TempoChange } from '../time/tempo-map';
import { seconds, ticks, type Ticks } from '../units';

/** A hit at another tick; its line stays where `home` says. */
export function placed(hit: Hit, tick: Ticks, length: Ticks, ornament: Ornament | undefined): Hit {
  const { ornament: _ornament, ...rest } = hit;
  return { ...rest, tick, length, ...(ornament ? { ornament } : {}) };
}

/** Lengths in ticks that last as long by another tempo. A length of nothing stays one. */
export function lengthsBetween(from: TempoMap, to: TempoMap): (wasAt: Ticks, isAt: Ticks, length: Ticks) => Ticks {
  return (wasAt, isAt, length) => {
    if (length <= 0) return length;
    const ms = from.between(wasAt, ticks(wasAt + length));
    return ticks(Math.max(1, Math.round(to.shift(isAt, ms) - isAt)));
  };
}

/** A roll's length goes by the clock as the hit's own does. */
export const ornamentBy = (ornament: Ornament | undefined, lengthOf: (length: Ticks) => Ticks): Ornament | undefined =>
  ornament?.kind === 'roll' && ornament.length !== undefined ? { ...ornament, length: lengthOf(ornament.length) } : ornament;

/**
 * Another tempo under the same lines: each hit keeps its line, and how far it leans from it in milliseconds.
 * @param tempo changes by tick, the first at 0
 * @example a hit 10 ms after its line at 90 BPM is 10 ms after it at 96
 */
export function withTempoUnderLines(part: Part, tempo: readonly TempoChange[]): Part {
  const [was, now] = [tempoMapOf(part), new TempoMap(tempo)];
  const lengthBy = lengthsBetween(was, now);
  const hits = part.hits.map((hit): Hit => {
    const tick = ticks(Math.round(now.shift(hit.home, was.between(hit.home, hit.tick))));
    const lengthOf = (length: Ticks) => lengthBy(hit.tick, tick, length);
    return placed(hit, tick, lengthOf(hit.length), ornamentBy(hit.ornament, lengthOf));
  });
  return { ...part, tempo, hits: hits.sort(compareHits) };
}

/**
 * Another tempo under the same times: each hit sounds when it did, and keeps the line that it has, wherever that is now.
 * @param tempo changes by tick, the first at 0
 */
export function withTempoUnderTimes(part: Part, tempo: readonly TempoChange[]): Part {
  const [was, now] = [tempoMapOf(part), new TempoMap(tempo)];
  const lengthBy = lengthsBetween(was, now);
  const hits = part.hits.map((hit): Hit => {
    const tick = ticks(Math.round(now.toTicks(seconds(was.toSeconds(hit.tick)))));
    if (tick === hit.tick) return hit;
    const lengthOf = (length: Ticks) => lengthBy(hit.tick, tick, length);
    return placed(hit, tick, lengthOf(hit.length), ornamentBy(hit.ornament, lengthOf));
  });
  return { ...part, tempo, hits: hits.sort(compareHits) };
}
