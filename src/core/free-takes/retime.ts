import { compareHits, type Hit, type Part } from '../model/part';
import type { Ornament } from '../model/ornament';
import { tempoMapOf } from '../part/part-time';
import { TempoMap, type TempoChange } from '../time/tempo-map';
import { seconds, ticks, type Ticks } from '../units';

/** Moves a hit to another tick; its home stays. */
export function placed(hit: Hit, tick: Ticks, length: Ticks, ornament: Ornament | undefined): Hit {
  const { ornament: _ornament, ...rest } = hit;
  return { ...rest, tick, length, ...(ornament ? { ornament } : {}) };
}

/** Converts lengths so that they keep their duration under another tempo; zero stays zero. */
export function lengthsBetween(from: TempoMap, to: TempoMap): (wasAt: Ticks, isAt: Ticks, length: Ticks) => Ticks {
  return (wasAt, isAt, length) => {
    if (length <= 0) return length;
    const ms = from.between(wasAt, ticks(wasAt + length));
    return ticks(Math.max(1, Math.round(to.shift(isAt, ms) - isAt)));
  };
}

/** Keeps a roll's length in seconds. */
export const ornamentBy = (ornament: Ornament | undefined, lengthOf: (length: Ticks) => Ticks): Ornament | undefined =>
  ornament?.kind === 'roll' && ornament.length !== undefined ? { ...ornament, length: lengthOf(ornament.length) } : ornament;

/**
 * Changes the tempo; each hit keeps its line and its lean in ms.
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
 * Changes the tempo; each hit keeps its time in seconds and its line in ticks.
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
