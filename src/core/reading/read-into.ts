import { withReadings, type HomeReading } from '../homes/readings';
import type { Hit, HitId, Part } from '../model/part';
import { roundHalfUp, ticks, type Ticks } from '../units';
import { readHomes, isSettled } from './read';

/** Digits that a probability is kept with. */
const DIGITS = 1e3;

/**
 * Reads the homes of hits. Hits that were decided, placed or locked, and hits that were not asked for, keep their homes and help to read
 * the others.
 * @param isAsked hits whose homes are read
 * @returns what was read of each, and where the hit stood
 */
export function readingsOf(part: Part, isAsked: (hit: Hit) => boolean = () => true): Map<HitId, HomeReading & { was: Ticks }> {
  const isFixed = (hit: Hit): boolean => isSettled(hit) || hit.locked === true || !isAsked(hit);
  if (part.hits.every(isFixed)) return new Map();
  const { homes, sure, others } = readHomes(part, isFixed);
  return new Map(
    part.hits.flatMap((hit, i) => {
      if (isFixed(hit)) return [];
      const p = Math.round((sure[i] as number) * DIGITS) / DIGITS;
      const other = others[i] as number;
      const reading: HomeReading & { was: Ticks } = { was: hit.tick, home: ticks(roundHalfUp(homes[i] as number)) };
      if (p < 1) reading.sure = p;
      if (p < 1 && !Number.isNaN(other)) reading.other = ticks(roundHalfUp(other));
      return [[hit.id, reading] as const];
    }),
  );
}

/** A part with its homes read. */
export const withHomesRead = (part: Part, isAsked?: (hit: Hit) => boolean): Part => withReadings(part, readingsOf(part, isAsked));
