import fc from 'fast-check';
import { performPart, writtenPerformance } from '@/core/perform/perform';
import type { Part } from '@/core/model/part';
import { milliseconds, ticks, TICKS_PER_QUARTER } from '@/core/units';
import { partArbitrary, smallPart } from '@tests/support/arbitraries';
import { countName, describeHits, hitText, leanText, placeText } from '../../words/describe';
import { axisOf, detailOf, LEFT_MARGIN, tickOf, xOf } from './axis';
import { layoutRows, mostRowScroll, rowAt, RULER_HEIGHT } from './rows';
import { heightOf, layoutStems, stemAt, type Stem, type StemScene } from './stems';

const Q = TICKS_PER_QUARTER;
const axis = axisOf({ scroll: ticks(0), pixelsPerQuarter: 160 });
const row = { voice: 'snare', top: 44, height: 100, baseline: 135, tallest: 82 };

const stemsOf = (part: Part, more: Partial<StemScene> = {}): Stem[] =>
  layoutStems({ part, performance: performPart(part), axis, reach: 20, ...more }, row, 900);

test('places and pixels lead back and forth', () => {
  fc.assert(
    fc.property(fc.integer({ min: -1e6, max: 1e7 }), fc.integer({ min: 2, max: 640 }), (tick, pixelsPerQuarter) => {
      const a = axisOf({ scroll: ticks(5000), pixelsPerQuarter });
      expect(tickOf(a, xOf(a, tick))).toBeCloseTo(tick, 3);
    }),
  );
  expect([40, 16, 15.9, 8, 7.9, 3, 2.9].map(detailOf)).toEqual(['full', 'full', 'small', 'small', 'ribbon', 'ribbon', 'band']);
});

test('rows fill the height, the focused one opens tall, and what does not fit can be scrolled', () => {
  const rows = ['ride', 'snare', 'kick'].map((voice) => ({ voice }));
  const boxes = layoutRows(rows, 300, 'snare', 0);
  expect(boxes[0]?.top).toBe(RULER_HEIGHT);
  expect(boxes[1]!.height).toBe(150);
  expect(rowAt(boxes, boxes[1]!.top + 5)?.voice).toBe('snare');
  expect(rowAt(boxes, 10)).toBeUndefined();
  expect(mostRowScroll(rows, 300, null)).toBe(0);
  const many = Array.from({ length: 20 }, (_, i) => ({ voice: `key-${i}` }));
  expect(mostRowScroll(many, 300, null)).toBe(RULER_HEIGHT + 20 * 46 - 300);
});

test('a straight hit stands upright; velocity 1 is 10 px high, 127 the tallest', () => {
  const [a, b] = stemsOf(
    smallPart([
      ['snare', 0, 1],
      ['snare', 1, 127],
    ]),
  );
  expect([a!.footX, a!.headX, a!.footY - a!.headY]).toEqual([LEFT_MARGIN, LEFT_MARGIN, 10]);
  expect([b!.footX, b!.footY - b!.headY]).toEqual([LEFT_MARGIN + 160, 82]);
  expect(heightOf(row, 64)).toBe(46);
});

test('10 ms of 20 are half of full lean, 30 ms are broken at full lean', () => {
  const lean = (ms: number): Stem => {
    const part = smallPart([['snare', 1, 100]]);
    return stemsOf({ ...part, hits: part.hits.map((h) => ({ ...h, nudge: { ms: milliseconds(ms), velocity: 0 } })) })[0]!;
  };
  // A sixteenth is 40 px: full lean is 18.
  expect(lean(10).headX - lean(10).footX).toBeCloseTo(9, 6);
  expect(lean(-10).headX - lean(-10).footX).toBeCloseTo(-9, 6);
  expect([lean(30).headX - lean(30).footX, lean(30).broken]).toEqual([expect.closeTo(18, 6), true]);
  expect([lean(20).broken, lean(10).broken]).toEqual([false, false]);
});

test('no stem leans further than 45 degrees', () => {
  const part = smallPart([['snare', 1, 1]]);
  const [s] = stemsOf({ ...part, hits: part.hits.map((h) => ({ ...h, nudge: { ms: milliseconds(20), velocity: 0 } })) });
  // Within the lens's reach nothing is drawn broken, however short the stem is.
  expect([s!.headX - s!.footX, s!.broken]).toEqual([10, false]);
});

test('swing moves the feet: lean 0, a mark where the straight line was, the written stem pale', () => {
  const base = smallPart([
    ['snare', 0, 90],
    ['snare', 0.25, 90],
  ]);
  const part: Part = { ...base, feel: { ...base.feel, moves: [{ kind: 'swing', division: '1/16', percent: 75 }] } };
  const [straight, swung] = stemsOf(part, { written: writtenPerformance(part) });
  expect([straight!.pale, straight!.straightX]).toEqual([null, null]);
  expect(swung!.footX).toBeCloseTo(LEFT_MARGIN + 60, 6);
  expect(swung!.headX).toBeCloseTo(swung!.footX, 6);
  expect(swung!.straightX).toBeCloseTo(LEFT_MARGIN + 40, 6);
  expect(swung!.pale!.footX).toBeCloseTo(LEFT_MARGIN + 40, 6);
});

test('strokes within 45 ms share the foot of the loudest, fanned in time order', () => {
  // A flam: a soft stroke 30 ms (0.06 of a quarter) before the main one.
  const stems = stemsOf(
    smallPart([
      ['snare', 0.94, 40],
      ['snare', 1, 110],
    ]),
  );
  expect(new Set(stems.map((s) => s.footX))).toEqual(new Set([LEFT_MARGIN + 160]));
  expect(stems[0]!.headX).toBeLessThan(stems[1]!.headX);
  expect(stems[0]!.lean).toBeCloseTo(-30, 1);
});

test('an exact duplicate is marked', () => {
  const part = smallPart([
    ['snare', 1, 90],
    ['snare', 1, 80],
    ['snare', 2, 80],
  ]);
  expect(stemsOf(part).map((s) => s.duplicate)).toEqual([true, true, false]);
});

test('heads of a row never cross, whatever the part, the lens and the zoom', () => {
  fc.assert(
    fc.property(
      partArbitrary,
      fc.constantFrom(10, 20, 40) as fc.Arbitrary<10 | 20 | 40>,
      fc.integer({ min: 32, max: 400 }),
      (part, reach, pixelsPerQuarter) => {
        const a = axisOf({ scroll: part.origin, pixelsPerQuarter });
        for (const voice of part.rows.map((r) => r.voice)) {
          const stems = layoutStems({ part, performance: performPart(part), axis: a, reach }, { ...row, voice }, 4000);
          for (let i = 1; i < stems.length; i++) expect(stems[i]!.headX).toBeGreaterThanOrEqual(stems[i - 1]!.headX - 1e-6);
        }
      },
    ),
    { numRuns: 300 },
  );
});

test('a pointer in a stem’s column finds it, also beside its head; between columns it finds nothing', () => {
  const stems = stemsOf(
    smallPart([
      ['snare', 1, 90],
      ['snare', 2, 90],
    ]),
  );
  expect(stemAt(stems, stems[0]!.footX + 12, 60, axis)?.index).toBe(stems[0]!.index);
  expect(stemAt(stems, stems[0]!.footX + 80, 60, axis)).toBeUndefined();
});

test('hits, places and leans in words', () => {
  const part = smallPart([
    ['snare', 1.5, 96],
    ['snare', 2, 20],
    ['kick', 0, 90],
  ]);
  expect(describeHits(part, new Set(part.hits.map((h) => h.id)))).toBe('all 3 hits');
  expect(describeHits(part, new Set(['h0']))).toBe('one snare hit');
  expect([14.2, -9.96, 0.3, -0.6].map(leanText)).toEqual(['14 ms late', '10 ms early', 'on the grid', '0.6 ms early']);
  expect(placeText(part, 6.5 * Q)).toBe('bar 2 · 3 &');
  expect([0, 1, 2, 3, 4].map((s) => countName((s * Q) / 4, 4))).toEqual(['1', '1 e', '1 &', '1 a', '2']);
  expect([0, 1, 2, 3].map((s) => countName((s * Q) / 4, 8))).toEqual(['1', '1 &', '2', '2 &']);
  // Thirty-seconds and sixty-fourths by the sixteenth before them, never by the one after; triplets by their number.
  expect([7, 15, 31].map((n) => countName((n * Q) / 8, 4))).toEqual(['1 a + 1/32', '2 a + 1/32', '4 a + 1/32']);
  expect([countName(Q / 16, 4), countName((3 * Q) / 16, 4), countName(Q / 8, 8)]).toEqual(['1 + 1/64', '1 + 3/64', '1 + 1/32']);
  expect([Q / 3, (2 * Q) / 3, Q + Q / 6].map((t) => countName(t, 4))).toEqual(['1 triplet 2', '1 triplet 3', '2 1/16 triplet 2']);
  expect(
    hitText(
      part,
      part.hits.find((h) => h.id === 'h0')!,
      1.5 * Q,
      96,
      14,
    ),
  ).toBe('Snare, bar 1 · 2 &, velocity 96, 14 ms late');
});
