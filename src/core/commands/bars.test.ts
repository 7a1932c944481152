import fc from 'fast-check';
import { newIds, partArbitrary, smallPart } from '@tests/support/arbitraries';
import { bpm, ticks, TICKS_PER_QUARTER } from '../units';
import { microsecondsOf } from '../time/tempo-map';
import { compareHits, type Part } from '../model/part';
import { meterMapOf, tempoMapOf } from '../part/part-time';
import { deleteBars, doublePart, hitsBehind, insertBars, meterOfLength, moveBars, repeatBars, setLength } from './bars';
import { pickupOf, hitsBeyondMeter, setMeter, setPickup } from './meter';

const quarters = (part: Part): number[] => part.hits.map((h) => h.tick / TICKS_PER_QUARTER);
const q = (n: number) => ticks(n * TICKS_PER_QUARTER);
const threeBars = smallPart(
  [
    ['kick', 0, 100],
    ['snare', 5, 90],
    ['clap', 10, 80],
  ],
  { bars: 3 },
);

test('double, repeat, insert, delete, move: hits go with their bars', () => {
  expect(quarters(doublePart(threeBars, newIds()))).toEqual([0, 5, 10, 12, 17, 22]);
  expect(quarters(repeatBars(threeBars, 1, 2, newIds()))).toEqual([0, 5, 9, 14]);
  expect(quarters(insertBars(threeBars, 1, 2, newIds()))).toEqual([0, 13, 18]);
  expect(quarters(deleteBars(threeBars, 1, 2, newIds()))).toEqual([0, 6]);
  expect(quarters(moveBars(threeBars, 0, 1, 2, newIds()))).toEqual([1, 6, 8]);
  expect(deleteBars(threeBars, 0, 3, newIds())).toMatchObject({ bars: 1, hits: [] });
  expect(insertBars(threeBars, 3, 1, newIds())).toMatchObject({ bars: 4, hits: threeBars.hits });
});

test('a hit ahead of its bar line goes with the bar that it belongs to', () => {
  const part = smallPart(
    [
      ['kick', 3.98, 100],
      ['snare', 1, 90],
    ],
    { bars: 2 },
  );
  expect(deleteBars(part, 0, 1, newIds()).hits.map((h) => [h.voice, h.tick])).toEqual([['kick', Math.round(-0.02 * TICKS_PER_QUARTER)]]);
});

test('meters and tempos go along, cut bars keep their length', () => {
  const part = smallPart(
    [
      ['kick', 4, 100],
      ['kick', 7, 90],
    ],
    {
      bars: 3,
      meter: [
        { tick: q(0), numerator: 4, denominator: 4 },
        { tick: q(4), numerator: 3, denominator: 4 },
        { tick: q(7), numerator: 4, denominator: 4 },
      ],
      tempo: [
        { tick: q(0), microsecondsPerQuarter: 500_000 },
        { tick: q(5), microsecondsPerQuarter: 400_000 },
      ],
    },
  );
  const turned = moveBars(part, 1, 2, 0, newIds());
  expect(turned.meter.map((m) => [m.tick / TICKS_PER_QUARTER, m.numerator])).toEqual([
    [0, 3],
    [3, 4],
  ]);
  expect(turned.tempo.map((t) => [t.tick / TICKS_PER_QUARTER, t.microsecondsPerQuarter])).toEqual([
    [0, 500_000],
    [1, 400_000],
    [3, 500_000],
    [7, 400_000],
  ]);
  expect(quarters(turned)).toEqual([0, 7]);
});

test('inserted bars have the meter of the bar that they push away, at the end that of the last', () => {
  const part = smallPart([], {
    bars: 3,
    meter: [
      { tick: q(0), numerator: 4, denominator: 4 },
      { tick: q(4), numerator: 3, denominator: 4 },
      { tick: q(7), numerator: 5, denominator: 4 },
    ],
  });
  const beats = (of: Part): number[] => Array.from({ length: of.bars }, (_, b) => meterMapOf(of).barOf(b).meter.numerator);
  expect(beats(insertBars(part, 0, 1, newIds()))).toEqual([4, 4, 3, 5]);
  expect(beats(insertBars(part, 1, 2, newIds()))).toEqual([4, 3, 3, 3, 5]);
  expect(beats(insertBars(part, 2, 1, newIds()))).toEqual([4, 3, 5, 5]);
  expect(beats(insertBars(part, 3, 1, newIds()))).toEqual([4, 3, 5, 5]);
});

test('put together as it was, any part is the same to every hit, bar line and second', () => {
  fc.assert(
    fc.property(partArbitrary, fc.integer({ min: 0, max: 4 }), (part, at) => {
      const there = insertBars(part, at, 1, newIds());
      const back = deleteBars(there, at, at + 1, newIds());
      expect(back.hits).toEqual(part.hits);
      expect(back.bars).toBe(part.bars);
      for (let b = 0; b <= part.bars; b++) {
        expect(meterMapOf(back).barOf(b).start).toBe(meterMapOf(part).barOf(b).start);
        const start = meterMapOf(part).barOf(b).start;
        if (start >= 0 && b < part.bars) expect(tempoMapOf(back).toSeconds(start)).toBeCloseTo(tempoMapOf(part).toSeconds(start), 6);
      }
      const twice = doublePart(part, newIds());
      expect(twice.bars).toBe(2 * part.bars);
      expect(new Set(twice.hits.map((h) => h.id)).size).toBe(twice.hits.length);
      expect([...twice.hits].sort(compareHits)).toEqual(twice.hits);
    }),
  );
});

test('a shorter part names the hits it would lose, and loses just those', () => {
  expect([...hitsBehind(threeBars, 2)]).toEqual(['h2']);
  expect(quarters(setLength(threeBars, 2))).toEqual([0, 5]);
  expect(setLength(threeBars, 5)).toEqual({ ...threeBars, bars: 5 });
  expect(setLength(threeBars, 3)).toBe(threeBars);
});

describe('another meter', () => {
  const starts = (part: Part): number[] =>
    Array.from({ length: part.bars + 1 }, (_, b) => meterMapOf(part).barOf(b).start / TICKS_PER_QUARTER);

  test('its bars become as long as it says; what follows moves along, hits, tempos and all; no bar more, no stub', () => {
    const seven = smallPart(
      [
        ['kick', 0, 100],
        ['kick', 7, 90],
        ['snare', 9, 80],
        ['kick', 10.5, 70],
      ],
      {
        meter: [{ tick: ticks(0), numerator: 7, denominator: 8 }],
        bars: 4,
        tempo: [
          { tick: ticks(0), microsecondsPerQuarter: 500_000 },
          { tick: ticks(q(10.5)), microsecondsPerQuarter: 400_000 },
        ],
      },
    );
    const five = setMeter(seven, { from: 2, to: 3 }, { numerator: 5, denominator: 4 });
    expect(five.bars).toBe(4);
    expect(starts(five)).toEqual([0, 3.5, 7, 12, 15.5]);
    expect(five.meter.map((m) => [m.tick / TICKS_PER_QUARTER, m.numerator, m.denominator])).toEqual([
      [0, 7, 8],
      [7, 5, 4],
      [12, 7, 8],
    ]);
    expect(quarters(five)).toEqual([0, 7, 9, 12]);
    expect(five.tempo.map((t) => t.tick / TICKS_PER_QUARTER)).toEqual([0, 12]);
  });

  test('hits beyond a shorter bar are named first, and are what goes', () => {
    const two = { from: 1, to: 2 };
    const part = smallPart(
      [
        ['kick', 0, 100],
        ['kick', 4, 100],
        ['snare', 6.5, 90],
        ['kick', 8, 80],
      ],
      { bars: 3 },
    );
    expect([...hitsBeyondMeter(part, two, { numerator: 2, denominator: 4 })]).toEqual(['h2']);
    const next = setMeter(part, two, { numerator: 2, denominator: 4 });
    expect([quarters(next), next.bars]).toEqual([[0, 4, 6], 3]);
  });

  test('without an end it holds up to the next change; groups are kept', () => {
    const part = setMeter(threeBars, { from: 2, to: 3 }, { numerator: 3, denominator: 4 });
    expect(starts(setMeter(part, { from: 0 }, { numerator: 2, denominator: 4 }))).toEqual([0, 2, 4, 7]);
    expect(setMeter(threeBars, { from: 0 }, { numerator: 4, denominator: 4, groups: [3, 1] }).meter[0]).toMatchObject({ groups: [3, 1] });
  });

  test('whatever the part, every bar is as long as its meter says and what is named is what is lost', () => {
    fc.assert(
      fc.property(partArbitrary, fc.integer({ min: 0, max: 3 }), fc.constantFrom([3, 4], [7, 8], [4, 4], [5, 16]), (part, from, [n, d]) => {
        const range = { from, to: from + 1 };
        const meter = { numerator: n as number, denominator: d as number };
        const next = setMeter(part, range, meter);
        expect(next.bars).toBe(part.bars);
        const bar = meterMapOf(next).barOf(from);
        expect(bar.length).toBe((meter.numerator * 4 * TICKS_PER_QUARTER) / meter.denominator);
        const gone = hitsBeyondMeter(part, range, meter);
        expect(next.hits.map((h) => h.id).sort()).toEqual(
          part.hits
            .filter((h) => !gone.has(h.id))
            .map((h) => h.id)
            .sort(),
        );
      }),
    );
  });
});

test('a pickup makes the first bar shorter and can be taken back', () => {
  const short = setPickup(threeBars, q(1));
  expect(pickupOf(short)).toBe(q(1));
  expect([0, 1, 2].map((b) => meterMapOf(short).barOf(b).start / TICKS_PER_QUARTER)).toEqual([0, 1, 5]);
  expect(short.bars).toBe(4);
  expect(setPickup(short, q(1.5)).meter.map((m) => [m.tick / TICKS_PER_QUARTER, m.numerator, m.denominator])).toEqual([
    [0, 3, 8],
    [1.5, 4, 4],
  ]);
  expect(setPickup(short, null).meter).toEqual(threeBars.meter);
  expect(setPickup(threeBars, q(4))).toBe(threeBars);
  expect(pickupOf(threeBars)).toBeNull();
});

test('lengths become the simplest meters', () => {
  expect(meterOfLength(3 * TICKS_PER_QUARTER)).toEqual({ numerator: 3, denominator: 4 });
  expect(meterOfLength(2.25 * TICKS_PER_QUARTER)).toEqual({ numerator: 9, denominator: 16 });
  expect(meterOfLength(1001)).toBeNull();
});

test('tempo units: a bar moved to the front brings its tempo to the start', () => {
  const part = smallPart([['kick', 4, 90]], {
    bars: 2,
    tempo: [
      { tick: q(0), microsecondsPerQuarter: microsecondsOf(bpm(100)) },
      { tick: q(4), microsecondsPerQuarter: microsecondsOf(bpm(150)) },
    ],
  });
  expect(moveBars(part, 1, 2, 0, newIds()).tempo.map((t) => Math.round(60e6 / t.microsecondsPerQuarter))).toEqual([150, 100]);
});
