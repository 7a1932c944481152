import fc from 'fast-check';
import { smallPart, swingArbitrary } from '@tests/support/arbitraries';
import type { Part } from '../model/part';
import { linesOf } from '../commands/place';
import { addHits } from '../commands/hits';
import { GRIDS, isTriplet } from '../time/grid';
import { ticks, TICKS_PER_QUARTER } from '../units';
import { EMPTY_FEEL, type SwingMove } from '../model/feel';
import { placeLines } from './line-places';
import { performPart } from './perform';

const Q = TICKS_PER_QUARTER;
const swung = (swing: SwingMove): Part => smallPart([], { bars: 2, feel: { ...EMPTY_FEEL, moves: [swing] } });

test('lines of all pairs as in feel@2: a triplet line stands where swing 2:1 on eighths puts it', () => {
  // The shift is a sixth of a beat in the middle; at a third it has risen by (1/3 - 1/16) / (6/16) = 0.7222 of that, to 0.4537.
  const part = swung({ kind: 'swing', division: '1/8', percent: 200 / 3, lines: 'all' });
  const places = placeLines(part, 'snare', [ticks(0), ticks(Q / 3), ticks(Q / 2), ticks((Q * 2) / 3)]);
  [0, 1 / 3 + 0.72222 / 6, 2 / 3, 2 / 3 + 0.72222 / 6].forEach((quarters, i) => expect(places[i]! / Q).toBeCloseTo(quarters, 4));
});

test('a beat of thirds is not swung, and a binary line beside one neither', () => {
  const part = swung({ kind: 'swing', division: '1/8', percent: 200 / 3 });
  const lines = [ticks(0), ticks(Q / 3), ticks(Q / 2), ticks((Q * 2) / 3), ticks(1.5 * Q)];
  expect([...placeLines(part, 'snare', lines)].map((t) => t / Q)).toEqual([0, 1 / 3, 2 / 3, 2 / 3, 5 / 3].map((q) => expect.closeTo(q, 6)));
  // A stroke of the row on a third keeps its pair straight, the next one swings.
  const third = addHits(part, [{ id: 'third', voice: 'snare', tick: ticks(Q / 3), velocity: 90 }]);
  expect([...placeLines(third, 'snare', lines)].map((t) => t / Q)).toEqual([0, 1 / 3, 0.5, 2 / 3, 5 / 3].map((q) => expect.closeTo(q, 6)));
  expect([...placeLines(third, 'kick', lines)][2]! / Q).toBeCloseTo(2 / 3, 6);
});

test('in every grid and swing a hit that is placed on a line sounds where the line is drawn', () => {
  fc.assert(
    fc.property(swingArbitrary, fc.constantFrom(...GRIDS), fc.nat(), (swing, grid, pick) => {
      const part = swung(swing);
      const lines = linesOf(part, grid, { start: ticks(0), end: ticks(8 * Q) });
      const places = placeLines(part, 'snare', lines);
      if (!isTriplet(grid)) for (let i = 1; i < places.length; i++) expect(places[i]).toBeGreaterThan(places[i - 1] as number);
      const at = pick % lines.length;
      const placed = addHits(part, [{ id: 'new', voice: 'snare', tick: lines[at]!, velocity: 96 }]);
      expect(performPart(placed).ticks[0]).toBeCloseTo(places[at] as number, 6);
    }),
  );
});
