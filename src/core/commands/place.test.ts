import fc from 'fast-check';
import { newIds, partArbitrary, smallPart } from '@tests/support/arbitraries';
import { homesOf } from '../homes/homes';
import { GRIDS } from '../time/grid';
import { ticks, TICKS_PER_QUARTER } from '../units';
import { compareHits, type Part } from '../model/part';
import { endOfPart } from '../part/part-time';
import { rangeOfBars, hitsInRange } from '../homes/ticks-range';
import { copyHits, duplicateHits, pasteClip, pasteOnRow, pasteOverBars, repeatIntoNextBars, spanOf } from './copy';
import { invertSteps, linesOf, moveHits, setVoice, shiftHits } from './place';

const quarters = (part: Part, voice?: string): number[] =>
  part.hits.filter((h) => !voice || h.voice === voice).map((h) => h.tick / TICKS_PER_QUARTER);
const allOf = (part: Part): Set<string> => new Set(part.hits.map((h) => h.id));
const bar = { start: ticks(0), end: ticks(4 * TICKS_PER_QUARTER) };

test('a shift wraps by home: an early hit on the next bar line comes round with its line', () => {
  const part = smallPart(
    [
      ['kick', 0, 100],
      ['kick', 3.75, 90],
      ['kick', 1, 80],
    ],
    { bars: 2 },
  );
  expect(quarters(shiftHits(part, allOf(part), 1, '1/16', bar))).toEqual([0, 0.25, 1.25]);
  expect(quarters(shiftHits(part, allOf(part), -1, '1/8', bar))).toEqual([0.5, 3.25, 3.5]);
  const early = smallPart([['kick', 0.98, 100]]);
  expect(quarters(shiftHits(early, allOf(early), -4, '1/16', bar))[0]).toBeCloseTo(-0.02, 4);
});

test('shifting back and forth, or once around, changes nothing', () => {
  fc.assert(
    fc.property(partArbitrary, fc.integer({ min: -40, max: 40 }), fc.constantFrom(...GRIDS), (part, steps, grid) => {
      const range = rangeOfBars(part, 0, part.bars);
      // Homes may be fitted anew where hits moved off their grid: pinned ones stay.
      const homes = homesOf(part);
      const pinned = { ...part, hits: part.hits.map((h, i) => ({ ...h, home: ticks(homes.ticks[i] as number) })) };
      const ids = hitsInRange(pinned, range);
      const there = shiftHits(pinned, ids, steps, grid, range);
      expect(shiftHits(there, ids, -steps, grid, range).hits).toEqual(pinned.hits);
      expect([...there.hits].sort(compareHits)).toEqual(there.hits);
    }),
  );
});

test('moving stops at the part’s edges and keeps the distances', () => {
  const part = smallPart([
    ['kick', 0.5, 100],
    ['snare', 3, 90],
  ]);
  expect(quarters(moveHits(part, allOf(part), -TICKS_PER_QUARTER))).toEqual([0, 2.5]);
  const late = moveHits(part, allOf(part), 9 * TICKS_PER_QUARTER);
  expect((late.hits[1]?.tick ?? 0) + 1).toBe(endOfPart(part));
  expect((late.hits[1]?.tick ?? 0) - (late.hits[0]?.tick ?? 0)).toBe(2.5 * TICKS_PER_QUARTER);
});

test('another voice brings its key, and its row where there is none', () => {
  const part = smallPart([
    ['kick', 0, 100],
    ['snare', 1, 90],
  ]);
  const moved = setVoice(part, new Set(['h0']), () => 'clap');
  expect(moved.hits.map((h) => [h.voice, h.key])).toEqual([
    ['clap', 39],
    ['snare', 38],
  ]);
  expect(moved.rows.map((r) => r.voice)).toEqual(['snare', 'clap', 'kick']);
});

test('inverted twice, the steps of a straight row are what they were', () => {
  const part = smallPart([
    ['hat-closed', 0, 80],
    ['hat-closed', 1, 80],
    ['hat-closed', 2.5, 80],
    ['kick', 0, 100],
  ]);
  const of = (p: Part) =>
    invertSteps(p, {
      voice: 'hat-closed',
      grid: '1/8',
      range: bar,
      velocity: 80,
      removable: new Set(p.hits.filter((h) => h.voice === 'hat-closed').map((h) => h.id)),
      newId: newIds(),
    });
  expect(quarters(of(part), 'hat-closed')).toEqual([0.5, 1.5, 2, 3, 3.5]);
  expect(quarters(of(of(part)), 'hat-closed')).toEqual([0, 1, 2.5]);
  expect(quarters(of(part), 'kick')).toEqual([0]);
});

test('lines restart at each bar line', () => {
  const seven = smallPart([], { meter: [{ tick: ticks(0), numerator: 7, denominator: 8 }], bars: 2 });
  expect(linesOf(seven, '1/4', rangeOfBars(seven, 0, 2)).map((t) => t / TICKS_PER_QUARTER)).toEqual([0, 1, 2, 3, 3.5, 4.5, 5.5, 6.5]);
});

test('a clip keeps its shape wherever it is put, and one voice may go to another row', () => {
  const part = smallPart([
    ['snare', 1, 90],
    ['snare', 1.5, 60],
    ['kick', 0, 100],
  ]);
  const clip = copyHits(part, new Set(['h0', 'h1']))!;
  const pasted = pasteClip(part, clip, ticks(6 * TICKS_PER_QUARTER), newIds(), { row: 'clap', onto: 'replace' });
  expect(
    pasted.part.hits.filter((h) => pasted.ids.includes(h.id)).map((h) => [h.voice, h.key, h.tick / TICKS_PER_QUARTER, h.velocity]),
  ).toEqual([
    ['clap', 39, 6, 90],
    ['clap', 39, 6.5, 60],
  ]);
  expect(pasted.part.bars).toBe(2);
  expect(copyHits(part, new Set())).toBeNull();
});

test('copies count from the home of the first: an early hit is early in its new place too', () => {
  const part = smallPart([['snare', 0.98, 90]]);
  const pasted = pasteClip(part, copyHits(part, allOf(part))!, ticks(3 * TICKS_PER_QUARTER), newIds(), { onto: 'replace' });
  expect(quarters(pasted.part)[1]).toBeCloseTo(2.98, 4);
});

test('a duplicate goes behind its beats, or its bars where it is longer than one', () => {
  const part = smallPart(
    [
      ['kick', 0, 100],
      ['snare', 1.5, 90],
    ],
    { bars: 1 },
  );
  expect(spanOf(part, allOf(part)) / TICKS_PER_QUARTER).toBe(2);
  expect(quarters(duplicateHits(part, allOf(part), newIds(), 'replace').part)).toEqual([0, 1.5, 2, 3.5]);
  const long = smallPart(
    [
      ['kick', 1, 100],
      ['snare', 6, 90],
    ],
    { bars: 2 },
  );
  const twice = duplicateHits(long, allOf(long), newIds(), 'replace');
  expect(quarters(twice.part)).toEqual([1, 6, 9, 14]);
  expect(twice.part.bars).toBe(4);
});

describe('copies on to steps that have a hit', () => {
  const beats = smallPart([
    ['kick', 0, 100],
    ['hat-closed', 0, 90],
    ['hat-closed', 1, 40],
    ['snare', 1, 80],
  ]);
  const first = new Set(['h0', 'h1']);
  const seen = (p: Part): [string, number, number][] => p.hits.map((h) => [h.voice, h.tick / TICKS_PER_QUARTER, h.velocity]);

  test('replace: the copy stands alone on its step, and how many went is told', () => {
    const made = duplicateHits(beats, first, newIds(), 'replace');
    expect([made.replaced, made.leftOut, made.ids.length]).toEqual([1, 0, 2]);
    expect(
      seen(made.part)
        .filter((h) => h[1] === 1)
        .sort(),
    ).toEqual([
      ['hat-closed', 1, 90],
      ['kick', 1, 100],
      ['snare', 1, 80],
    ]);
  });

  test('join: what is there stays, and only free steps are filled', () => {
    const made = duplicateHits(beats, first, newIds(), 'join');
    expect([made.replaced, made.leftOut, made.ids.length]).toEqual([0, 1, 1]);
    expect(
      seen(made.part)
        .filter((h) => h[1] === 1)
        .sort(),
    ).toEqual([
      ['hat-closed', 1, 40],
      ['kick', 1, 100],
      ['snare', 1, 80],
    ]);
  });

  test('a hit a little off the same step is in the way too; a locked one stays in both', () => {
    const late = smallPart([
      ['hat-closed', 0, 90],
      ['hat-closed', 1.02, 40],
    ]);
    expect(duplicateHits(late, new Set(['h0']), newIds(), 'replace').part.hits.map((h) => h.velocity)).toEqual([90, 90]);
    const locked = { ...late, hits: late.hits.map((h, i) => (i === 1 ? { ...h, locked: true as const } : h)) };
    expect(duplicateHits(locked, new Set(['h0']), newIds(), 'replace')).toMatchObject({ replaced: 0, leftOut: 1, ids: [] });
  });

  test('pasted on to itself, no place has two hits of a row', () => {
    const clip = copyHits(beats, allOf(beats))!;
    const pasted = pasteClip(beats, clip, ticks(0), newIds(), { onto: 'replace' }).part;
    expect(seen(pasted).sort()).toEqual(seen(beats).sort());
  });
});

test('a repeat into the next bar leaves what is there, and grows the part', () => {
  const part = smallPart(
    [
      ['kick', 0, 100],
      ['kick', 1, 70],
      ['kick', 4, 55],
    ],
    { bars: 2 },
  );
  const repeated = repeatIntoNextBars(part, new Set(['h0', 'h1']), newIds(), 'join');
  expect(repeated.part.hits.map((h) => [h.tick / TICKS_PER_QUARTER, h.velocity])).toEqual([
    [0, 100],
    [1, 70],
    [4, 55],
    [5, 70],
  ]);
  expect(repeatIntoNextBars(part, new Set(['h2']), newIds(), 'join').part.bars).toBe(3);
});

test('a clip goes over several bars, once in each, at its place in the bar; one of two bars in every second', () => {
  const part = smallPart(
    [
      ['snare', 1, 90],
      ['snare', 1.5, 60],
    ],
    { bars: 5 },
  );
  const clip = copyHits(part, allOf(part))!;
  const over = (c: typeof clip, from: number, to: number) =>
    quarters(pasteOverBars(part, c, { from, to }, newIds(), { onto: 'replace' }).part);
  expect(over(clip, 1, 4)).toEqual([1, 1.5, 5, 5.5, 9, 9.5, 13, 13.5]);
  const two = smallPart(
    [
      ['snare', 1, 90],
      ['snare', 6, 60],
    ],
    { bars: 5 },
  );
  // Bars 2 and 3 as one, and of the next two only the first is in the range.
  expect(over(copyHits(two, allOf(two))!, 1, 4)).toEqual([1, 1.5, 5, 10, 13]);
  // In 3/4 the fourth beat is the next bar's first: it is left out there.
  const shorter: Part = {
    ...smallPart(
      [
        ['snare', 2, 90],
        ['snare', 3, 60],
      ],
      { bars: 3 },
    ),
    meter: [
      { tick: ticks(0), numerator: 4, denominator: 4 },
      { tick: ticks(4 * TICKS_PER_QUARTER), numerator: 3, denominator: 4 },
    ],
  };
  expect(quarters(pasteOverBars(shorter, copyHits(shorter, allOf(shorter))!, { from: 1, to: 2 }, newIds(), { onto: 'join' }).part)).toEqual(
    [2, 3, 6],
  );
  // On the first bar it replaces what is there.
  expect(pasteOverBars(part, clip, { from: 0, to: 1 }, newIds(), { onto: 'replace' })).toMatchObject({ replaced: 2, leftOut: 0 });
});

test('a clip goes to the same places on another row, of two hits at one place the louder', () => {
  const part = smallPart([
    ['snare', 1, 90],
    ['rim', 1, 110],
    ['snare', 2, 50],
    ['clap', 3, 40],
  ]);
  const clip = copyHits(part, new Set(part.hits.filter((h) => h.voice !== 'clap').map((h) => h.id)))!;
  const { part: pasted, ids } = pasteOnRow(part, clip, 'clap', newIds(), 'replace');
  expect(pasted.hits.filter((h) => ids.includes(h.id)).map((h) => [h.voice, h.key, h.tick / TICKS_PER_QUARTER, h.velocity])).toEqual([
    ['clap', 39, 1, 110],
    ['clap', 39, 2, 50],
  ]);
});
