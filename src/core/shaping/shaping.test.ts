import fc from 'fast-check';
import { partArbitrary, smallPart } from '@tests/support/arbitraries';
import type { Part } from '../model/part';
import { randomStream } from '../random';
import { milliseconds } from '../units';
import { setQuality, keptValue, QUALITIES, QUALITY, readQuality } from './qualities';
import { countsOf, shapeHits, type Shape } from './shape-hits';
import * as shapes from './shapes';

const values = fc.array(fc.integer({ min: 1, max: 127 }), { minLength: 2, maxLength: 40 });

const shapeArbitrary: fc.Arbitrary<Shape> = fc.oneof(
  fc.integer({ min: -200, max: 200 }).map((value): Shape => ({ kind: 'set', value })),
  fc.integer({ min: -200, max: 200 }).map((by): Shape => ({ kind: 'add', by })),
  fc.integer({ min: 0, max: 400 }).map((percent): Shape => ({ kind: 'scale', percent })),
  fc.record({ kind: fc.constant('stretch' as const), percent: fc.integer({ min: 0, max: 300 }), pivot: fc.integer({ min: 1, max: 127 }) }),
  fc.record({ kind: fc.constant('limit' as const), low: fc.integer({ min: 1, max: 127 }), high: fc.integer({ min: 1, max: 127 }) }),
  fc.record({ kind: fc.constant('scatter' as const), range: fc.integer({ min: 0, max: 60 }), seed: fc.nat(), keepMean: fc.boolean() }),
  fc.record({
    kind: fc.constant('between' as const),
    from: fc.integer({ min: 1, max: 127 }),
    to: fc.integer({ min: 1, max: 127 }),
    seed: fc.nat(),
    of: fc.integer({ min: 1, max: 9 }),
    apart: fc.boolean(),
  }),
  fc.record({
    kind: fc.constant('crescendo' as const),
    from: fc.integer({ min: 0, max: 200 }),
    to: fc.integer({ min: 0, max: 200 }),
    bend: fc.constant(0.5),
  }),
  fc.array(fc.integer({ min: 1, max: 127 }), { maxLength: 5 }).map((levels): Shape => ({ kind: 'alternate', levels })),
  fc.record({
    kind: fc.constant('ramp' as const),
    from: fc.integer({ min: 1, max: 127 }),
    to: fc.integer({ min: 1, max: 127 }),
    bend: fc.double({ min: -1, max: 1, noNaN: true }),
  }),
  fc.record({
    kind: fc.constant('accents' as const),
    grid: fc.constantFrom('1/8' as const, '1/16' as const),
    levels: fc.array(fc.double({ min: 0, max: 2, noNaN: true }), { maxLength: 8 }),
    depth: fc.double({ min: 0, max: 1, noNaN: true }),
  }),
  fc.record({ kind: fc.constant('reshape' as const), mean: fc.integer({ min: 1, max: 127 }), deviation: fc.integer({ min: 0, max: 40 }) }),
  fc.record({
    kind: fc.constant('reroll' as const),
    mean: fc.integer({ min: 1, max: 127 }),
    deviation: fc.integer({ min: 0, max: 40 }),
    seed: fc.nat(),
  }),
);

test('examples by hand', () => {
  expect(shapes.stretch([60, 100], 80, 0.5)).toEqual([70, 90]);
  expect(shapes.limit([10, 64, 120], 90, 30)).toEqual([30, 64, 90]);
  expect(shapes.alternate([0, 1, 1, 2, 3], [100, 60])).toEqual([100, 60, 60, 100, 60]);
  expect(shapes.ramp([0, 1, 2, 4], 40, 80, 0)).toEqual([40, 50, 60, 80]);
  // A full bend is the fourth power: halfway it has risen by a 16th.
  expect(shapes.ramp([0, 1, 2], 0, 16, 1)).toEqual([0, 1, 16]);
  expect(shapes.ramp([3], 10, 90, 0)).toEqual([90]);
  expect(shapes.accents([100, 100, 80], [0, 1, 2], [1.5, 0.5], 0.5)).toEqual([125, 75, 100]);
  expect(shapes.reshape([60, 80, 100], 90, 0)).toEqual([90, 90, 90]);
  expect(shapes.momentsOf([2, 4, 4, 4, 5, 5, 7, 9])).toEqual({ mean: 5, deviation: 2 });
  expect(countsOf([1, 2, 126, 127], 1, 127, 2)).toEqual([2, 2]);
});

test('a drawn line changes what lies under it alone, also where it was drawn in many points', () => {
  const line = [
    { place: 10, value: 40 },
    { place: 20, value: 60 },
    { place: 20, value: 90 },
    { place: 30, value: 100 },
  ];
  expect(shapes.alongLine([0, 10, 15, 25, 30, 31], [1, 2, 3, 4, 5, 6], line)).toEqual([1, 40, 50, 95, 100, 6]);
  expect(shapes.alongLine([5], [7], [])).toEqual([7]);
  expect(shapes.alongLine([5], [7], [{ place: 5, value: 9 }])).toEqual([9]);
});

test('scattering around a kept mean keeps it, and never goes further than twice its range', () => {
  fc.assert(
    fc.property(values, fc.integer({ min: 0, max: 50 }), fc.nat(), (list, range, seed) => {
      const out = shapes.scatter(list, range, randomStream(seed), true);
      expect(shapes.momentsOf(out).mean).toBeCloseTo(shapes.momentsOf(list).mean, 6);
      out.forEach((v, i) => expect(Math.abs(v - (list[i] as number))).toBeLessThanOrEqual(2 * range + 1e-9));
      expect(shapes.scatter(list, range, randomStream(seed), true)).toEqual(out);
    }),
  );
});

test('a distribution takes on any mean and spread; the order of its values stays', () => {
  fc.assert(
    fc.property(values, fc.integer({ min: 20, max: 100 }), fc.integer({ min: 1, max: 30 }), fc.nat(), (list, mean, deviation, seed) => {
      fc.pre(new Set(list).size > 1);
      for (const out of [shapes.reshape(list, mean, deviation), shapes.reroll(list, mean, deviation, randomStream(seed))]) {
        const m = shapes.momentsOf(out);
        expect(m.mean).toBeCloseTo(mean, 6);
        expect(m.deviation).toBeCloseTo(deviation, 6);
      }
      const shaped = shapes.reshape(list, mean, deviation);
      for (let i = 1; i < list.length; i++)
        expect(Math.sign((shaped[i] as number) - (shaped[i - 1] as number))).toBe(Math.sign((list[i] as number) - (list[i - 1] as number)));
    }),
  );
});

test('whatever the shape, only the chosen hits change, and every value stays in its range', () => {
  fc.assert(
    fc.property(partArbitrary, shapeArbitrary, fc.constantFrom(...QUALITIES), fc.nat(), (part, shape, quality, n) => {
      const ids = new Set(part.hits.filter((_, i) => i % ((n % 4) + 1) === 0).map((h) => h.id));
      const shaped = shapeHits(part, ids, quality, shape);
      shaped.hits.forEach((hit, i) => {
        const before = part.hits[i]!;
        if (!ids.has(hit.id)) expect(hit).toBe(before);
        const value = readQuality(hit, quality);
        expect(value).toBeGreaterThanOrEqual(QUALITY[quality].min);
        expect(value).toBeLessThanOrEqual(QUALITY[quality].max);
        // Lengths are whole ticks.
        expect(Math.abs(keptValue(quality, value) - value)).toBeLessThan(quality === 'length' ? 0.001 : 1e-12);
        const member = quality === 'timing' ? 'nudge' : quality;
        expect({ ...hit, [member]: undefined }).toEqual({ ...before, [member]: undefined });
        expect(hit.nudge?.velocity ?? 0).toBe(before.nudge?.velocity ?? 0);
      });
      // The same shape again from the same base: nothing is drawn that was not seeded.
      expect(shapeHits(part, ids, quality, shape)).toEqual(shaped);
    }),
  );
});

test('accents go by the place in the bar, a crescendo by time', () => {
  const part = smallPart([
    ['snare', 3, 90],
    ['snare', 3.25, 90],
    ['snare', 3.5, 90],
    ['snare', 3.75, 90],
    ['kick', 0, 100],
  ]);
  const snares = new Set(['h0', 'h1', 'h2', 'h3']);
  const velocities = (shape: Shape) =>
    shapeHits(part, snares, 'velocity', shape)
      .hits.filter((h) => h.voice === 'snare')
      .map((h) => h.velocity);
  expect(velocities({ kind: 'ramp', from: 40, to: 100, bend: 0 })).toEqual([40, 60, 80, 100]);
  expect(velocities({ kind: 'accents', grid: '1/8', levels: [1, 0.5], depth: 1 })).toEqual([90, 45, 45, 90]);
});

test('a value at rest is not kept; pitch keeps two digits', () => {
  const part = smallPart([['snare', 0, 90]]);
  const ids = new Set(['h0']);
  const panned = setQuality(part, ids, 'pan', () => -140);
  expect(panned.hits[0]?.pan).toBe(-100);
  expect(setQuality(panned, ids, 'pan', () => 0.2).hits[0]).not.toHaveProperty('pan');
  expect(setQuality(part, ids, 'pitch', () => 1.239).hits[0]?.pitch).toBe(1.24);
});

test('a few of some: as many as asked for, no neighbours, the ends left', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 2, max: 60 }),
      fc.integer({ min: 1, max: 30 }),
      fc.boolean(),
      fc.boolean(),
      fc.integer(),
      (count, of, apart, keepEnds, seed) => {
        const taken = shapes.fewOf(
          Array.from({ length: count }, (_, i) => i),
          { of, apart, keepEnds },
          randomStream(seed),
        );
        const n = taken.filter(Boolean).length;
        expect(n).toBeLessThanOrEqual(of);
        if (!apart) expect(n).toBe(Math.min(of, count - (keepEnds ? 2 : 0)));
        if (apart) taken.forEach((is, i) => is && expect(taken[i + 1] ?? false).toBe(false));
        if (keepEnds) expect([taken[0], taken[count - 1]]).toEqual([false, false]);
      },
    ),
  );
  expect(
    shapes
      .fewOf(
        Array.from({ length: 24 }, (_, i) => i),
        { of: 6, apart: true },
        randomStream(3),
      )
      .filter(Boolean),
  ).toHaveLength(6);
});

test('a few go by moments: rows that are struck together are no neighbours, and all of the first and last moment stay', () => {
  // Kick and hat on each of eight beats, a snare on every second: hits of rows, as the selection has them.
  const places = [...Array.from({ length: 8 }, (_, i) => i), ...Array.from({ length: 8 }, (_, i) => i), 1, 3, 5, 7];
  fc.assert(
    fc.property(fc.integer(), (seed) => {
      const taken = shapes.fewOf(places, { apart: true, keepEnds: true }, randomStream(seed));
      const moments = new Set(places.filter((_, i) => taken[i]));
      for (const moment of moments) expect([moments.has(moment + 1), moment > 0 && moment < 7]).toEqual([false, true]);
      expect(moments.size).toBeGreaterThanOrEqual(2);
    }),
  );
});

test('a mean that was typed is the mean that is there, in whole numbers too', () => {
  const part = smallPart(
    [0, 1, 2, 3, 4].map((b) => ['snare', b, 90] as const),
    { bars: 2 },
  );
  const panned = { ...part, hits: part.hits.map((h, i) => ({ ...h, pan: [-7, 12, 3, 30, -22][i] as number })) };
  const ids = new Set(part.hits.map((h) => h.id));
  const mean = (p: Part) => p.hits.reduce((sum, h) => sum + (h.pan ?? 0), 0) / 5;
  for (const wanted of [0, 10, -3])
    expect(mean(shapeHits(panned, ids, 'pan', { kind: 'reshape', mean: wanted, deviation: 9 }))).toBeCloseTo(wanted, 0.9);
  expect(Math.abs(mean(shapeHits(panned, ids, 'pan', { kind: 'reshape', mean: 0, deviation: 18.2 })))).toBeLessThan(0.05);
});

test('drawn between limits nothing is beyond; a swell keeps what is louder louder', () => {
  const drawn = shapes.between(new Array<number>(500).fill(60), 70, 120, randomStream(5));
  expect(Math.min(...drawn)).toBeGreaterThanOrEqual(70);
  expect(Math.max(...drawn)).toBeLessThanOrEqual(120);
  expect(Math.max(...drawn) - Math.min(...drawn)).toBeGreaterThan(45);
  expect(shapes.crescendo([0, 1, 2], [100, 60, 100], 50, 100, 0)).toEqual([50, 45, 100]);
});

test('timing is the nudge of the hand: its mean is kept, velocities stay', () => {
  const part = smallPart([0, 1, 2, 3].map((b) => ['snare', b, 90] as const));
  const nudged = { ...part, hits: part.hits.map((h, i) => ({ ...h, nudge: { ms: milliseconds(i), velocity: 5 } })) };
  const ids = new Set(part.hits.map((h) => h.id));
  const shaped = shapeHits(nudged, ids, 'timing', { kind: 'scatter', range: 8, seed: 3, keepMean: true });
  const mean = (p: Part) => p.hits.reduce((sum, h) => sum + (h.nudge?.ms ?? 0), 0) / 4;
  expect(Math.abs(mean(shaped) - 1.5)).toBeLessThan(0.06);
  expect(shaped.hits.every((h) => h.nudge?.velocity === 5 && h.velocity === 90)).toBe(true);
  expect(shapeHits(part, ids, 'timing', { kind: 'set', value: 0 })).toBe(part);
  const ends = shapeHits(nudged, ids, 'timing', { kind: 'scatter', range: 8, seed: 3, keepMean: false, keepEnds: true });
  expect([ends.hits[0]!.nudge, ends.hits[3]!.nudge]).toEqual([nudged.hits[0]!.nudge, nudged.hits[3]!.nudge]);
});
