import { smallPart } from '@tests/support/arbitraries';
import type { Part } from '../model/part';
import { TICKS_PER_QUARTER } from '../units';
import { EMPTY_FEEL, type QuantizeMove } from '../model/feel';
import { DEFAULT_MOVES } from '../moves/all';
import { doubtfulForMove } from './doubtful';
import { performPart } from './perform';

const STEP = 0.25;
const tightened = (hits: readonly (readonly [string, number, number])[], move: Partial<QuantizeMove> = {}): Part =>
  smallPart(hits, { bars: 3, feel: { ...EMPTY_FEEL, moves: [{ ...DEFAULT_MOVES.quantize, strength: 1, outer: 1, ...move }] } });
const eighths = (skip: number) =>
  Array.from({ length: 16 }, (_, i) => ['hat-closed', i * 2 * STEP, 80] as const).filter((_, i) => i !== skip);

test('a hit between two lines is listed with both, what speaks for each, and which is taken', () => {
  // The hat of step 14 in the second bar, played at 14.54.
  const part = tightened([...eighths(15), ['hat-closed', 16 * STEP + 14.54 * STEP, 80]]);
  const [found, ...more] = doubtfulForMove(part, 0);
  expect(more).toEqual([]);
  expect(found).toMatchObject({ taken: 'later', why: 'between', share: expect.closeTo(0.54, 2), elsewhere: { earlier: 1, later: 0 } });
  expect([found!.earlier, found!.later].map((t) => t / TICKS_PER_QUARTER / STEP)).toEqual([30, 31]);
});

test('pulled or not: a weak move lists the same hits; one that is decided is no more listed', () => {
  const hits = [...eighths(15), ['hat-closed', 16 * STEP + 14.54 * STEP, 80]] as const;
  expect(doubtfulForMove(tightened(hits, { strength: 0, outer: 0.1 }), 0)).toHaveLength(1);
  const part = tightened(hits);
  const pinned = {
    ...part,
    hits: part.hits.map((h) =>
      h.tick > 28 * STEP * TICKS_PER_QUARTER ? { ...h, home: doubtfulForMove(part, 0)[0]!.earlier, decided: true } : h,
    ),
  };
  expect(doubtfulForMove(pinned, 0)).toEqual([]);
  expect(performPart(pinned).ticks.at(-1)! / TICKS_PER_QUARTER / STEP).toBeCloseTo(30, 6);
});

test('a home whose line is another than the nearest is listed', () => {
  // On sixteenths, pulled to eighths: both that lie between are between lines; a triplet's home is on neither.
  const part = tightened(
    [
      ['snare', 0, 90],
      ['snare', 0.25, 90],
      ['snare', 0.5, 90],
    ],
    { grid: '1/8' },
  );
  expect(doubtfulForMove(part, 0).map((d) => [d.index, d.why])).toEqual([[1, 'between']]);
});

test('nothing doubtful where every hit is near its line', () => {
  expect(doubtfulForMove(tightened(eighths(0)), 0)).toEqual([]);
});
