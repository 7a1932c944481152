import fc from 'fast-check';
import { milliseconds, seconds, ticks, TICKS_PER_QUARTER } from '../units';
import { nearestLine, stepOf } from './grid';
import { defaultGroups, MeterMap } from './meter-map';
import { TempoMap } from './tempo-map';

const Q = TICKS_PER_QUARTER;
const tempo = (tick: number, us: number) => ({ tick: ticks(tick), microsecondsPerQuarter: us });
const meter = (tick: number, numerator: number, denominator: number) => ({ tick: ticks(tick), numerator, denominator });

test('seconds follow the tempo map: two quarters at 120, then 60 BPM', () => {
  const map = new TempoMap([tempo(0, 500_000), tempo(2 * Q, 1_000_000)]);
  expect([0, Q, 2 * Q, 3 * Q, -Q].map((t) => map.toSeconds(ticks(t)))).toEqual([0, 0.5, 1, 2, -0.5]);
  expect(map.bpmAt(ticks(3 * Q))).toBeCloseTo(60, 9);
  expect(map.between(ticks(Q), ticks(3 * Q))).toBeCloseTo(1500, 9);
});

test('ticks to seconds and back is the same place, and shift agrees with both', () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.integer({ min: 0, max: 1e6 }), fc.integer({ min: 100_000, max: 3_000_000 })), { maxLength: 5 }),
      fc.integer({ min: -1e5, max: 2e6 }),
      fc.integer({ min: -200, max: 200 }),
      (list, tick, ms) => {
        const map = new TempoMap([...list].sort((a, b) => a[0] - b[0]).map(([t, us]) => tempo(t, us)));
        expect(map.toTicks(map.toSeconds(ticks(tick)))).toBeCloseTo(tick, 4);
        const shifted = map.shift(ticks(tick), milliseconds(ms));
        expect(map.toSeconds(shifted)).toBeCloseTo(seconds(map.toSeconds(ticks(tick)) + ms / 1000), 8);
      },
    ),
  );
});

test('beats are groups: 6/8 has two, 7/8 is 2 + 2 + 3, 3/8 is one', () => {
  expect([defaultGroups(6, 8), defaultGroups(7, 8), defaultGroups(3, 8), defaultGroups(5, 8), defaultGroups(4, 4)]).toEqual([
    [3, 3],
    [2, 2, 3],
    [3],
    [3, 2],
    [1, 1, 1, 1],
  ]);
  const map = new MeterMap([meter(0, 7, 8)]);
  expect(map.beatsOf(map.barOf(1)).map((b) => b.start / (Q / 2))).toEqual([7, 9, 11]);
});

test('a meter change off a bar line cuts the bar; a repeated equal one is ignored', () => {
  const map = new MeterMap([meter(0, 4, 4), meter(4 * Q, 4, 4), meter(6 * Q, 3, 4)]);
  expect([0, 1, 2, 3].map((i) => map.barOf(i).start / Q)).toEqual([0, 4, 6, 9]);
  expect(map.barOf(1).length).toBe(2 * Q);
  expect(map.barAt(ticks(7 * Q)).index).toBe(2);
});

test('the origin moves every bar line; bars before it count backwards', () => {
  const map = new MeterMap([meter(0, 4, 4), meter(8 * Q, 3, 4)], ticks(1000));
  expect([map.barOf(0).start, map.barOf(2).start, map.barOf(3).start]).toEqual([1000, 8 * Q + 1000, 11 * Q + 1000]);
  expect(map.barAt(ticks(0)).index).toBe(-1);
});

test('every tick lies in the bar found for it, and bar numbers rise by one', () => {
  const map = new MeterMap([meter(0, 4, 4), meter(5 * Q, 7, 8), meter(20 * Q, 3, 4)]);
  fc.assert(
    fc.property(fc.integer({ min: -5 * Q, max: 60 * Q }), (t) => {
      const bar = map.barAt(ticks(t));
      expect(t >= bar.start && t < bar.start + bar.length).toBe(true);
      expect(map.barOf(bar.index).start).toBe(bar.start);
      expect(map.barOf(bar.index + 1).start).toBe(bar.start + bar.length);
    }),
  );
});

test('the nearest line: ties go to the later, the end of a bar is the next bar’s step 0', () => {
  const map = new MeterMap([meter(0, 7, 8)]);
  const step = stepOf('1/16');
  expect(nearestLine(map, ticks(step / 2), step)).toEqual({ tick: step, bar: 0, step: 1 });
  expect(nearestLine(map, ticks(3.5 * Q - 1), step)).toEqual({ tick: 3.5 * Q, bar: 1, step: 0 });
  // 1/8T does not divide 7/8: the last incomplete step still ends at the bar line.
  expect(nearestLine(map, ticks(3.5 * Q - 1000), stepOf('1/8T')).tick).toBe(3.5 * Q);
});
