import { smallPart } from '@tests/support/arbitraries';
import { reportPart } from './report';
import { performPart } from '../perform/perform';
import { ticks, TICKS_PER_QUARTER } from '../units';
import { newOrnament } from '../ornament/all';
import { deviation, mean, median } from '../statistics';
import { letterOf, phraseOf } from './phrase';
import { foundSwings } from '../homes/swings';

const Q = TICKS_PER_QUARTER;

test('mean, population deviation, median', () => {
  expect(mean([1, 2, 6])).toBe(3);
  expect(deviation([2, 4, 4, 4, 5, 5, 7, 9])).toBe(2);
  expect([median([3, 1, 2]), median([4, 1, 2, 3])]).toEqual([2, 2.5]);
});

test('similar bars share a shape although their velocities differ a little; a louder or a longer bar has its own', () => {
  const bar = (start: number, velocity: number, extra = false): [string, number, number][] => [
    ['kick', start, velocity],
    ['snare', start + 1, 90],
    ...(extra ? ([['kick', start + 3, 80]] as [string, number, number][]) : []),
  ];
  const part = smallPart([...bar(0, 100), ...bar(4, 110), ...bar(8, 60), ...bar(12, 100, true), ...bar(20, 99)], { bars: 6 });
  const phrase = phraseOf(part, performPart(part));
  expect(phrase.map((b) => letterOf(b.shape))).toEqual(['A', 'A', 'B', 'C', '', 'A']);
  expect(phrase.map((b) => b.hits)).toEqual([2, 2, 2, 3, 0, 2]);
  expect(letterOf(27)).toBe('B2');
});

test('bars that differ by an ornament alone are different bars', () => {
  const part = smallPart(
    [
      ['snare', 1, 90],
      ['snare', 5, 90],
      ['snare', 9, 90],
    ],
    { bars: 3 },
  );
  const rolled = { ...part, hits: part.hits.map((h, i) => (i === 1 ? { ...h, ornament: newOrnament('roll') } : h)) };
  expect(phraseOf(part, performPart(part)).map((b) => b.shape)).toEqual([0, 0, 0]);
  expect(phraseOf(rolled, performPart(rolled)).map((b) => b.shape)).toEqual([0, 1, 0]);
});

test('a straight 3-3-2 kick has no swing; bars that swing unlike each other are told apart', () => {
  // Sixteenths 0, 3 and 6 of each half bar: at 75 and 50 % of their pairs of eighths.
  const kicks = Array.from({ length: 8 }, (_, half) =>
    [0, 0.75, 1.5].map((at): [string, number, number] => ['kick', 2 * half + at, 100]),
  ).flat();
  expect(reportPart(smallPart(kicks, { bars: 4 })).voices[0]!.swing).toBeNull();
  const hats = Array.from({ length: 32 }, (_, i): [string, number, number] => [
    'hat-closed',
    Math.floor(i / 2) * 0.5 + (i % 2 === 0 ? 0 : i < 16 ? 0.3 : 0.35),
    90,
  ]);
  const played = smallPart(hats, { bars: 4 });
  const part = { ...played, hits: played.hits.map((h, i) => ({ ...h, home: ticks((i * Q) / 4) })) };
  expect(reportPart(part).voices[0]!.swing).toMatchObject({ division: '1/16', percent: expect.closeTo(65, 3) as number, n: 16 });
  expect(foundSwings(part)!.bars.map((b) => [b.fromBar, b.toBar, Math.round(b.percent), b.n])).toEqual([
    [1, 1, 60, 8],
    [2, 2, 70, 8],
  ]);
});

test('swing by hand: the row’s own lean is taken off, one stroke a line counts, an incomplete pair does not', () => {
  // Eighths at two thirds, all 0.02 late; a soft grace stroke before the first of them.
  const hats = Array.from({ length: 8 }, (_, i): [string, number, number] => [
    'hat-closed',
    Math.floor(i / 2) + (i % 2) * (2 / 3) + 0.02,
    90,
  ]);
  const part = smallPart([...hats, ['hat-closed', 2 / 3 - 0.03, 30]], { bars: 2 });
  const swung = { ...part, hits: part.hits.map((h) => ({ ...h, home: ticks(Math.round((h.tick / Q) * 2 - 0.17) * (Q / 2)) })) };
  expect(foundSwings(swung)!.whole).toEqual({ percent: expect.closeTo(66.667, 2), n: 4, sd: expect.closeTo(0, 2) });
  // In 7/8 the last eighth has no partner.
  const seven = {
    ...smallPart([0, 0.6, 1, 1.6, 2, 2.6, 3].map((at): [string, number, number] => ['hat-closed', at, 90])),
    meter: [{ tick: ticks(0), numerator: 7, denominator: 8 }],
  };
  expect(foundSwings(seven)).toBeNull();
});
