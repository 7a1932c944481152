import { MAX_QUARTERS } from '../limits';
import type { Hit } from '../model/part';
import { MOST_STROKES, ORNAMENT_LIMITS, type Roll } from '../model/ornament';
import { indicesByVoice } from '../part/by-voice';
import { meterMapOf } from '../part/part-time';
import { stepOf } from '../time/grid';
import { ticks, TICKS_PER_QUARTER, type Ticks } from '../units';
import { isGrid, optional, strokeOf, wholeWithin, within, type Ornamented, type OrnamentSpec, type Stroke } from './ornament-spec';

/** The length of a hit's roll: its own, or up to the voice's next written hit, at most the beat that the hit lies in. */
export function rollLength(part: Ornamented, index: number): Ticks {
  const hit = part.hits[index] as Hit;
  if (hit.ornament?.kind === 'roll' && hit.ornament.length !== undefined) return hit.ornament.length;
  const map = meterMapOf(part);
  const beat = map.beatAt(map.barAt(hit.tick), hit.tick).length;
  const own = indicesByVoice(part.hits).get(hit.voice) ?? [];
  for (let k = placeIn(own, index) + 1; k < own.length; k++) {
    const gap = (part.hits[own[k] as number] as Hit).tick - hit.tick;
    if (gap > 0) return ticks(Math.min(gap, beat));
  }
  return ticks(beat);
}

/** Where a number stands in a rising list that has it. */
function placeIn(list: readonly number[], wanted: number): number {
  let low = 0;
  let high = list.length - 1;
  while (low < high) {
    const mid = (low + high) >> 1;
    if ((list[mid] as number) < wanted) low = mid + 1;
    else high = mid;
  }
  return low;
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

/** The ramp's factor at a part x of its way, 0 at the first stroke and 1 at the last. */
export const rollLevel = ({ to, bend }: Pick<Roll, 'to' | 'bend'>, x: number): number => 1 + (to - 1) * x ** (4 ** bend);

function rollStrokes(roll: Roll, length: number, main: Stroke): Stroke[] {
  const n = rollCount(roll, length);
  // On a grid the last stroke need not be a whole step from the end.
  const span = typeof roll.strokes === 'number' ? length : n * stepOf(roll.strokes);
  const place = (k: number): number => main.tick + span * rollPlace(k / n, roll.speed);
  const strokes: Stroke[] = [];
  let tick = main.tick;
  for (let k = 0; k < n; k++) {
    const next = place(k + 1);
    strokes.push(strokeOf(main, tick, main.velocity * rollLevel(roll, n === 1 ? 0 : k / (n - 1)), next - tick));
    tick = next;
  }
  return strokes;
}

const L = ORNAMENT_LIMITS;

export const rollSpec: OrnamentSpec<Roll> = {
  kind: 'roll',
  members: {
    strokes: (v) => isGrid(v) || wholeWithin(L.strokes)(v),
    length: optional(wholeWithin([1, MAX_QUARTERS * TICKS_PER_QUARTER])),
    speed: within(L.speed),
    to: within(L.to),
    bend: within(L.bend),
  },
  ready: [{ word: 'roll', ornament: { kind: 'roll', strokes: '1/32', speed: 0, to: 0.7, bend: 0 } }],
  word: () => 'roll',
  count: (part, index, roll) => (typeof roll.strokes === 'number' ? roll.strokes : rollCount(roll, rollLength(part, index))),
  strokes: (part, index, roll, main) => rollStrokes(roll, rollLength(part, index), main),
};
