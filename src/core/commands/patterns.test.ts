import fc from 'fast-check';
import { partArbitrary, smallPart } from '@tests/support/arbitraries';
import { parsePattern, readPatternFile, writePatternFile } from '@/formats/pattern-format';
import { EMPTY_FEEL } from '../model/feel';
import type { Hit, Part } from '../model/part';
import { milliseconds, ticks, TICKS_PER_QUARTER } from '../units';
import { homesOf } from '../homes/homes';
import { meterMapOf } from '../part/part-time';
import { patternOf, putPattern } from './patterns';

const Q = TICKS_PER_QUARTER;
let n = 0;
const newId = (): string => `new ${n++}`;
const all = (part: Part): Set<string> => new Set(part.hits.map((h) => h.id));
const places = (part: Part, ids: readonly string[]): string =>
  part.hits
    .filter((h) => ids.includes(h.id))
    .map((h) => `${h.voice} ${h.tick / Q} ${h.velocity}`)
    .join(', ');
const empty: Part = { ...smallPart([]), bars: 4, tempo: [{ tick: ticks(0), microsecondsPerQuarter: 750_000 }] };

test('a pattern starts at its bar line and takes along all that a hit has', () => {
  const base = smallPart([
    ['hat-closed', 4.5, 70],
    ['hat-closed', 5, 40],
    ['kick', 4, 100],
  ]);
  const part: Part = {
    ...base,
    bars: 2,
    hits: base.hits.map((h): Hit =>
      h.velocity === 70
        ? {
            ...h,
            pan: 20,
            pitch: -1,
            brightness: 10,
            nudge: { ms: milliseconds(-7), velocity: 4 },
            ornament: { kind: 'flam', strokes: 1, spacingMs: 25, level: 0.5, slope: 0 },
          }
        : h,
    ),
  };
  const hats = patternOf(part, new Set(part.hits.filter((h) => h.voice === 'hat-closed').map((h) => h.id)), 'Hats')!;
  expect([hats.length / Q, hats.meter, hats.hits.map((h) => h.tick / Q), hats.rows]).toEqual([
    4,
    [4, 4],
    [0.5, 1],
    { 'hat-closed': 'Closed hat' },
  ]);
  const put = putPattern(empty, hats, { bar: 2, way: 'beside' }, newId);
  expect(places(put.part, put.ids)).toBe('hat-closed 8.5 70, hat-closed 9 40');
  expect(put.part.hits[0]).toMatchObject({
    pan: 20,
    pitch: -1,
    brightness: 10,
    nudge: { ms: -7, velocity: 4 },
    ornament: { kind: 'flam' },
  });
});

test('beside, what is there stays and no step gets two hits; instead, the pattern’s rows are emptied in its bars alone', () => {
  const there: Part = {
    ...smallPart([
      ['rim', 0, 20],
      ['rim', 1, 30],
      ['kick', 0, 90],
      ['rim', 4, 50],
    ]),
    bars: 2,
  };
  const source = smallPart([
    ['rim', 0, 100],
    ['rim', 2, 110],
  ]);
  const rims = patternOf(source, all(source), 'Rims')!;
  const beside = putPattern(there, rims, { bar: 0, way: 'beside' }, newId);
  expect(beside.part.hits.filter((h) => h.voice === 'rim').map((h) => `${h.tick / Q}:${h.velocity}`)).toEqual([
    '0:20',
    '1:30',
    '2:110',
    '4:50',
  ]);
  expect([beside.cleared, beside.replaced, beside.leftOut, beside.ids.length]).toEqual([0, 0, 1, 1]);
  const instead = putPattern(there, rims, { bar: 0, way: 'instead' }, newId);
  expect(instead.part.hits.filter((h) => h.voice === 'rim').map((h) => `${h.tick / Q}:${h.velocity}`)).toEqual(['0:100', '2:110', '4:50']);
  expect([instead.cleared, instead.leftOut]).toEqual([2, 0]);
  expect(instead.part.hits.some((h) => h.voice === 'kick')).toBe(true);
  // Locked hits stay, and what would stand on them is counted.
  const locked = { ...there, hits: there.hits.map((h) => (h.tick === 0 && h.voice === 'rim' ? { ...h, locked: true } : h)) };
  const kept = putPattern(locked, rims, { bar: 0, way: 'instead' }, newId);
  expect([kept.cleared, kept.leftOut, kept.part.hits.filter((h) => h.voice === 'rim').length]).toEqual([1, 1, 3]);
});

test('one of a single row goes onto another row; in another meter strokes keep their distance in beats; the part grows for it', () => {
  const source = {
    ...smallPart([
      ['rim', 0, 100],
      ['rim', 3.5, 110],
    ]),
  };
  const rims = patternOf(source, all(source), 'Rims')!;
  const waltz: Part = { ...empty, bars: 1, meter: [{ tick: ticks(0), numerator: 3, denominator: 4 }] };
  const put = putPattern(waltz, rims, { bar: 0, way: 'beside', row: 'cowbell' }, newId);
  expect([places(put.part, put.ids), put.part.bars]).toEqual(['cowbell 0 100, cowbell 3.5 110', 2]);
  expect(put.part.hits.map((h) => h.key)).toEqual([56, 56]);
});

test('put back where it came from, instead, a pattern gives the same hits; files keep it whole', () => {
  fc.assert(
    fc.property(partArbitrary, (random) => {
      const part = { ...random, feel: EMPTY_FEEL, hits: random.hits.filter((h) => !h.locked && h.tick >= random.origin) };
      const pattern = patternOf(part, all(part), 'All');
      if (!pattern) return;
      expect(readPatternFile(writePatternFile(pattern))).toEqual(JSON.parse(JSON.stringify(pattern)));
      const homes = homesOf(part).ticks;
      const bar = meterMapOf(part).barAt(ticks(Math.min(...homes))).index;
      const put = putPattern(part, pattern, { bar, way: 'instead' }, newId);
      const told = (p: Part): string[] =>
        p.hits.map(({ id: _id, lane: _lane, alone: _alone, ...h }) => JSON.stringify(Object.entries(h).sort())).sort();
      expect([put.cleared, put.leftOut]).toEqual([part.hits.length, 0]);
      expect(told(put.part)).toEqual(told(part));
    }),
    { numRuns: 60 },
  );
});

test('a pattern file that is none is refused by name', () => {
  const good = {
    format: 'nod-sway/pattern@2',
    name: 'P',
    meter: [4, 4],
    length: 4 * Q,
    rows: { rim: 'Rim' },
    hits: [{ voice: 'rim', key: 37, tick: 0, home: 0, length: 10, velocity: 90 }],
  };
  expect(parsePattern(good).name).toBe('P');
  for (const change of [{ hits: [] }, { meter: [4, 3] }, { length: 0 }, { hits: [{ ...good.hits[0], velocity: 0 }] }, { extra: 1 }])
    expect(() => parsePattern({ ...good, ...change })).toThrow(/pattern/);
  expect(() => parsePattern({ ...good, format: 'nod-sway/pattern@7' })).toThrow(/newer version/);
});
