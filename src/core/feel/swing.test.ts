import fc from 'fast-check';
import { percentOfRatio, ratioOfPercent, swingMilliseconds, swingShift, swingTick, unswingShift, wordOfPercent } from './swing';
import { MeterMap } from '../time/meter-map';
import { ticks, TICKS_PER_QUARTER } from '../units';

const PAIR = 40320;
const percents = fc.double({ min: 25, max: 80, noNaN: true });
const places = fc.double({ min: 0, max: PAIR, noNaN: true });

test('a triplet swing puts the off-beat at two thirds of its pair', () => {
  // 66.67 % of 40,320 is 26,881.3 (26,880 would be the exact third).
  expect(PAIR / 2 + swingShift(PAIR / 2, PAIR, 66.67)).toBeCloseTo(26881.344, 3);
});

test('hand-computed places of 60 % on a pair of 1600: full shift 160 from 700 to 900, half of it at 400 and 1200', () => {
  const at = (p: number) => swingShift(p, 1600, 60);
  expect([0, 50, 100, 400, 700, 800, 900, 1200, 1500, 1599].map(at)).toEqual(
    [0, 0, 0, 80, 160, 160, 160, 80, 0, 0].map((v) => expect.closeTo(v, 9)),
  );
});

test('leans around both lines are kept exactly', () => {
  fc.assert(
    fc.property(percents, fc.double({ min: -PAIR / 16, max: PAIR / 16, noNaN: true }), (percent, lean) => {
      expect(swingShift(PAIR / 2 + lean, PAIR, percent)).toBeCloseTo((percent / 100 - 0.5) * PAIR, 6);
      expect(swingShift(Math.abs(lean), PAIR, percent)).toBeCloseTo(0, 9);
    }),
  );
});

test('order is kept', () => {
  fc.assert(
    fc.property(percents, places, places, (percent, a, b) => {
      fc.pre(a < b);
      expect(a + swingShift(a, PAIR, percent)).toBeLessThanOrEqual(b + swingShift(b, PAIR, percent));
    }),
  );
});

test('the inverse is exact', () => {
  fc.assert(
    fc.property(percents, places, (percent, p) => {
      const swung = p + swingShift(p, PAIR, percent);
      expect(swung + unswingShift(swung, PAIR, percent)).toBeCloseTo(p, 6);
    }),
  );
});

test('the last incomplete pair of a bar stays straight', () => {
  // 7/8 has seven eighths: pairs of two eighths leave one over.
  const map = new MeterMap([{ tick: ticks(0), numerator: 7, denominator: 8 }]);
  const bar = map.barAt(ticks(0));
  const eighth = TICKS_PER_QUARTER / 2;
  const move = { kind: 'swing', division: '1/8', percent: 75 } as const;
  expect(swingTick(eighth, bar, move)).toBe(eighth + 0.25 * 2 * eighth);
  expect(swingTick(6.5 * eighth, bar, move)).toBe(6.5 * eighth);
});

test('ratio, word and milliseconds say the same', () => {
  expect(percentOfRatio('2:1')).toBe(66.67);
  expect(percentOfRatio('4:3')).toBe(57.14);
  expect(ratioOfPercent(60)).toBe('3:2');
  expect(ratioOfPercent(58)).toBe('1.38:1');
  expect([50, 57, 66.67, 75].map(wordOfPercent)).toEqual(['straight', 'light', 'triplet', 'dotted']);
  // At 120 a pair of sixteenths lasts 250 ms; 60 % is a tenth of it late.
  expect(swingMilliseconds(60, '1/16', 120)).toBeCloseTo(25, 9);
});
