import fc from 'fast-check';
import { freshBreak } from '@/core/breaks/edit';
import type { BreakStroke } from '@/core/breaks/strokes';
import { seconds, ticks, TICKS_PER_QUARTER } from '@/core/units';
import { smallPart } from '@tests/support/arbitraries';
import { drawnOn, of as those, PALETTE } from '@tests/support/canvas';
import { LEFT_MARGIN, type Axis } from '../stems/geometry/axis';
import { drawBreak } from './draw-break';
import {
  FLAGS,
  FOOT,
  heightOf,
  kindWords,
  momentAtX,
  PICTURE_HEIGHT,
  sensitivityAt,
  snapped,
  thresholdHeight,
  toMicrosecond,
  xOfMoment,
} from './geometry';

const Q = TICKS_PER_QUARTER;
/** A quarter is 50 pixels, the first bar line stands at 0. */
const AXIS: Axis = { scroll: ticks((LEFT_MARGIN / 50) * Q), pixelsPerTick: 50 / Q };
const part = smallPart([], { bars: 4 });
/** Two bars of 2 and 2.5 seconds, from the part's second bar on. */
const loop = {
  ...freshBreak({ id: 'b', name: 'Loop', sample: 's', seconds: seconds(5) }),
  lines: [0.5, 2.5, 5].map(seconds),
  bar: 1,
  sensitivity: 0.5,
};
const stroke = (at: number, rest: Partial<BreakStroke> = {}): BreakStroke => ({
  id: `n${at}`,
  at: seconds(at),
  over: 2,
  level: 0.1,
  kind: 'snare',
  sure: 0.9,
  byHand: false,
  belowThreshold: false,
  ...rest,
});

test('moments stand by the bar lines on either side: a slower bar is drawn as wide as any', () => {
  const x = (at: number) => xOfMoment(part, loop, AXIS, at);
  // Bars of 200 pixels from 200 on.
  expect([0.5, 1.5, 2.5, 3.75, 5].map((at) => Math.round(x(at)))).toEqual([200, 300, 400, 500, 600]);
  expect([200, 300, 400, 500, 600].map((at) => momentAtX(part, loop, AXIS, at))).toEqual(
    [0.5, 1.5, 2.5, 3.75, 5].map((at) => expect.closeTo(at, 6)),
  );
});

test('a moment from its place is the moment itself, to the pixel', () => {
  fc.assert(
    fc.property(fc.double({ min: 0.5, max: 4.99, noNaN: true }), (at) => {
      const there = xOfMoment(part, loop, AXIS, at);
      expect(Math.abs(xOfMoment(part, loop, AXIS, momentAtX(part, loop, AXIS, there)) - there)).toBeLessThan(0.01);
    }),
  );
});

test('strokes stand higher the more they stand out, within the picture; the threshold is where its sensitivity finds them', () => {
  const room = FOOT - FLAGS - 8;
  expect([heightOf(30), heightOf(100)]).toEqual([room, room]);
  expect(heightOf(0.01)).toBeCloseTo(0.03 * room, 6);
  expect(heightOf(2)).toBeGreaterThan(heightOf(1));
  expect(thresholdHeight(0.5)).toBeCloseTo(heightOf(1), 9);
  expect(thresholdHeight(0.8)).toBeLessThan(thresholdHeight(0.2));
});

test('dragged to a height, the threshold is at the sensitivity of that height', () => {
  fc.assert(
    fc.property(fc.double({ min: 0.15, max: 0.85, noNaN: true }), (sensitivity) => {
      expect(sensitivityAt(thresholdHeight(sensitivity))).toBeCloseTo(sensitivity, 6);
    }),
  );
  expect([sensitivityAt(-50), sensitivityAt(500)]).toEqual([1, 0]);
});

test('a drag is taken to the nearest place within 14 pixels, unless it is free', () => {
  const places = [1, 1.1, 2];
  expect(snapped(1.04, places, 100, false)).toBe(1);
  expect(snapped(1.06, places, 100, false)).toBe(1.1);
  expect(snapped(1.14, places, 100, false)).toBe(1.1);
  expect(snapped(1.25, places, 100, false)).toBe(1.25);
  expect(snapped(1.04, places, 100, true)).toBe(1.04);
  expect(toMicrosecond(1.23456789)).toBe(1.234568);
});

test('a guess that is not sure ends in a question mark', () => {
  expect(kindWords({ kind: 'kick', sure: 0.6 })).toBe('kick');
  expect(kindWords({ kind: 'kick', sure: 0.59 })).toBe('kick?');
  expect(kindWords({ kind: 'kick', also: 'hat', sure: 1 })).toBe('kick+hat');
});

describe('the picture', () => {
  const drawn = (strokes: readonly BreakStroke[], chosen: string | null = null) =>
    drawnOn((g) => drawBreak(g, PALETTE, { part, of: loop, placed: loop, strokes, outline: null, axis: AXIS, chosen } as never, 800));

  test('a stem at each stroke; those under the threshold or outside of the bars are pale and have no word', () => {
    const list = drawn([stroke(0.2), stroke(0.5), stroke(1.5, { belowThreshold: true }), stroke(3.75)]);
    expect(those(list, 'dot').map((d) => [d.colour, Math.round(d.at[0]!)])).toEqual([
      ['pale', 170],
      ['ink', 200],
      ['pale', 300],
      ['ink', 500],
    ]);
    expect(those(list, 'text').map((d) => [d.text, Math.round(d.at[0]!)])).toEqual([
      ['snare', 200],
      ['snare', 500],
    ]);
  });

  test('a word that would run into the one before is left out, or says the main thing alone', () => {
    const close = drawn([stroke(0.5, { kind: 'kick' }), stroke(0.85, { kind: 'snare', also: 'hat' }), stroke(0.9, { kind: 'hat' })]);
    // At 200, 235 and 240: six pixels a letter, six between words.
    expect(those(close, 'text').map((d) => d.text)).toEqual(['kick', 'snare']);
  });

  test('unsure words are in the colour of late text; the chosen stroke and those of the hand are marked', () => {
    const list = drawn([stroke(0.5, { sure: 0.4 }), stroke(3.75, { byHand: true })], 'n3.75');
    expect(those(list, 'text').map((d) => [d.text, d.colour])).toEqual([
      ['snare?', 'lateText'],
      ['snare', 'faint'],
    ]);
    expect(those(list, 'dot', 'accent').map((d) => d.at[2])).toEqual([6]);
    expect(those(list, 'rect').map((d) => d.at)).toContainEqual([496, FOOT, 8, 2]);
  });

  test('bar and beat lines stand where the stems have them, the threshold over its own ground', () => {
    const list = drawn([]);
    const bars = those(list, 'rect', 'strong').filter((d) => d.at[2] === 1 && d.at[1] === FLAGS);
    expect(bars.map((d) => d.at[0])).toEqual([0, 200, 400, 600, 800]);
    const ground = those(list, 'rect', 'early');
    expect(ground).toHaveLength(1);
    expect(ground[0]!.at[1]! + ground[0]!.at[3]!).toBeCloseTo(FOOT, 1);
    expect(ground[0]!.at[3]).toBeCloseTo(thresholdHeight(0.5), 1);
    expect(PICTURE_HEIGHT).toBeGreaterThan(FOOT);
  });
});
