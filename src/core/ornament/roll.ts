import { MAX_QUARTERS } from '../limits';
import { ORNAMENT_LIMITS, type Roll } from '../model/ornament';
import { rollCount, rollLength, rollPlace, rollSpan } from '../part/roll-strokes';
import { TICKS_PER_QUARTER } from '../units';
import {
  isFlag,
  isGrid,
  optional,
  strokeOf,
  wholeWithin,
  within,
  type OrnamentSpec,
  type OrnamentStroke,
  type Swung,
} from './ornament-spec';

/** The ramp's factor at a part x of its way, 0 at the first stroke and 1 at the last. */
export const rollLevel = ({ to, bend }: Pick<Roll, 'to' | 'bend'>, x: number): number => 1 + (to - 1) * x ** (4 ** bend);

function rollStrokes(roll: Roll, length: number, main: OrnamentStroke, swung: Swung | null): OrnamentStroke[] {
  const n = rollCount(roll, length);
  const span = rollSpan(roll, length, n);
  // What speeds up or slows down stands on no lines that could swing.
  const follows = swung && roll.followsSwing !== false && roll.speed === 0 ? swung : null;
  const place = (k: number): number => (follows ? follows(span * (k / n)) : main.tick + span * rollPlace(k / n, roll.speed));
  const strokes: OrnamentStroke[] = [];
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
    followsSwing: optional(isFlag),
  },
  ready: [{ word: 'roll', ornament: { kind: 'roll', strokes: '1/32', speed: 0, to: 0.7, bend: 0 } }],
  word: () => 'roll',
  count: (part, index, roll) => (typeof roll.strokes === 'number' ? roll.strokes : rollCount(roll, rollLength(part, index))),
  strokes: (part, index, roll, main, swung) => rollStrokes(roll, rollLength(part, index), main, swung),
};
