import { bisectRight } from 'd3-array';
import { MOST_STROKES, type Roll } from '../model/ornament';
import type { Hit, Part } from '../model/part';
import { stepOf } from '../time/grid';
import { ticks, type Ticks } from '../units';
import { indicesByVoice } from './by-voice';
import { meterMapOf } from './part-time';

/** Where the strokes of rolls are written. */

/** The length of a hit's roll: its own, or up to the voice's next written hit, at most the beat that the hit lies in. */
export function rollLength(part: Pick<Part, 'hits' | 'meter' | 'origin'>, index: number): Ticks {
  const hit = part.hits[index] as Hit;
  if (hit.ornament?.kind === 'roll' && hit.ornament.length !== undefined) return hit.ornament.length;
  const map = meterMapOf(part);
  const beat = map.beatAt(map.barAt(hit.tick), hit.tick).length;
  const own = indicesByVoice(part.hits).get(hit.voice) ?? [];
  for (let k = bisectRight(own, index); k < own.length; k++) {
    const gap = (part.hits[own[k] as number] as Hit).tick - hit.tick;
    if (gap > 0) return ticks(Math.min(gap, beat));
  }
  return ticks(beat);
}

/** How many strokes a roll of this length has, itself included. @example rollCount({ strokes: '1/32', ... }, TICKS_PER_QUARTER) // 8 */
export function rollCount(roll: Pick<Roll, 'strokes'>, length: number): number {
  if (typeof roll.strokes === 'number') return roll.strokes;
  return Math.max(1, Math.min(MOST_STROKES, Math.ceil(length / stepOf(roll.strokes) - 1e-6)));
}

/** How strongly a roll can accelerate: at speed 1 its first gap is nine times its last, in the limit of many strokes. */
const MOST_SPEED = 0.8;

/** Where stroke k of n stands, as a part of the roll's length. Even at speed 0. */
export const rollPlace = (x: number, speed: number): number => x + MOST_SPEED * speed * x * (1 - x);

/** How long all strokes of a roll are together: on a grid the last stroke need not be a whole step from the end. */
export const rollSpan = (roll: Pick<Roll, 'strokes'>, length: number, count: number): number =>
  typeof roll.strokes === 'number' ? length : count * stepOf(roll.strokes);
