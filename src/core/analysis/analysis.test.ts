import { smallPart } from '@tests/support/arbitraries';
import { reportPart } from './report';
import { performPart } from '../perform/perform';
import { meterMapOf } from '../part/part-time';
import { ticks, TICKS_PER_QUARTER } from '../units';
import { newOrnament } from '../ornament/all';
import { deviation, mean, median } from '../statistics';
import { letterOf, phraseOf } from './phrase';
import { measureSwing } from './swing-of-hits';

const Q = TICKS_PER_QUARTER;

test('mean, population deviation, median', () => {
  expect(mean([1, 2, 6])).toBe(3);
  expect(deviation([2, 4, 4, 4, 5, 5, 7, 9])).toBe(2);
  expect([median([3, 1, 2]), median([4, 1, 2, 3])]).toEqual([2, 2.5]);
});

test('bars alike share a shape although their velocities differ a little; a louder or a longer bar has its own', () => {
  const bar = (start: number, velocity: number, extra = false): [string, number, number][] => [['kick', start, velocity], ['snare', start + 1, 90], ...(extra ? ([['kick', start + 3, 80]] as [string, number, number][]) : [])];
  const part = smallPart([...bar(0, 100), ...bar(4, 110), ...bar(8, 60), ...bar(12, 100, true), ...bar(20, 99)], { bars: 6 });
  const phrase = phraseOf(part, performPart(part));
  expect(phrase.map((b) => letterOf(b.shape))).toEqual(['A', 'A', 'B', 'C', '', 'A']);
  expect(phrase.map((b) => b.hits)).toEqual([2, 2, 2, 3, 0, 2]);
  expect(letterOf(27)).toBe('B2');
});

test('bars that differ by an ornament alone are different bars', () => {
  const part = smallPart([['snare', 1, 90], ['snare', 5, 90], ['snare', 9, 90]], { bars: 3 });
  const rolled = { ...part, hits: part.hits.map((h, i) => (i === 1 ? { ...h, ornament: newOrnament('roll') } : h)) };
  expect(phraseOf(part, performPart(part)).map((b) => b.shape)).toEqual([0, 0, 0]);
  expect(phraseOf(rolled, performPart(rolled)).map((b) => b.shape)).toEqual([0, 1, 0]);
});

describe('measured swing', () => {
  const map = meterMapOf(smallPart([]));
  const at = (quarters: number[]) => quarters.map((q) => ticks(q * Q));
  test('the median place of second hits, on the division that has more of them', () => {
    expect(measureSwing(map, at([0, 0.3, 0.5, 0.8, 1, 1.31, 1.5, 1.8]))).toEqual({ division: '1/16', percent: expect.closeTo(60, 9), n: 4 });
    expect(measureSwing(map, at([0, 2 / 3, 1, 5 / 3, 2, 8 / 3, 3, 11 / 3]))).toEqual({ division: '1/8', percent: expect.closeTo(66.667, 3), n: 4 });
  });
  test('under four there is none, and the last incomplete pair of a bar is left out', () => {
    expect(measureSwing(map, at([0.3, 0.8, 1.3]))).toBeNull();
    const seven = meterMapOf({ meter: [{ tick: ticks(0), numerator: 7, denominator: 8 }], origin: ticks(0) });
    expect(measureSwing(seven, at([0.6, 1.6, 2.6, 3.3]))).toBeNull();
  });
});

test('a straight 3-3-2 kick has no swing, nor have bars that swing unlike each other', () => {
  // Sixteenths 0, 3 and 6 of each half bar: at 75 and 50 % of their pairs of eighths.
  const kicks = Array.from({ length: 8 }, (_, half) => [0, 0.75, 1.5].map((at): [string, number, number] => ['kick', 2 * half + at, 100])).flat();
  const row = reportPart(smallPart(kicks, { bars: 4 })).voices[0]!;
  expect(row.swing === null || row.swing.percent === 50).toBe(true);
  const hats = Array.from({ length: 32 }, (_, i): [string, number, number] => ['hat-closed', Math.floor(i / 2) * 0.5 + (i % 2 === 0 ? 0 : i % 8 < 4 ? 0.29 : 0.36), 90]);
  expect(reportPart(smallPart(hats, { bars: 2 })).voices[0]!.swing).toBeNull();
  const even = Array.from({ length: 32 }, (_, i): [string, number, number] => ['hat-closed', Math.floor(i / 2) * 0.5 + (i % 2 === 0 ? 0 : 0.3), 90]);
  expect(reportPart(smallPart(even, { bars: 2 })).voices[0]!.swing).toMatchObject({ division: '1/16', percent: expect.closeTo(60, 6) as number });
});
