import fc from 'fast-check';
import { newIds, partArbitrary, smallPart } from '@tests/support/arbitraries';
import { straysOf } from '../analysis/strays';
import { cellHits, CELLS } from '../cells/cells';
import { evenSpread } from '../cells/even-spread';
import { performPart } from '../perform/perform';
import { addHits, setNudges } from '../commands/hits';
import { setLocked } from '../commands/marks';
import type { Part } from '../model/part';
import { GRIDS } from '../time/grid';
import { ticks, TICKS_PER_QUARTER } from '../units';
import { combine, hitsByRule, selectByRule, type Rule } from './rules';

/** A bar of eighth hats, backbeat and kick: h0 to h7 hats, h8 h9 snares, h10 kick. */
const beat: Part = smallPart([
  ...Array.from({ length: 8 }, (_, i) => ['hat-closed', i / 2, 60 + i] as const),
  ['snare', 1, 100],
  ['snare', 3, 30],
  ['kick', 0, 110],
]);
const pick = (rule: Rule, part: Part = beat): string[] => [...hitsByRule(part, performPart(part), rule)].sort();

test('each rule by an example', () => {
  expect(pick({ kind: 'on-beats' })).toEqual(['h0', 'h10', 'h2', 'h4', 'h6', 'h8', 'h9']);
  expect(pick({ kind: 'off-beats' })).toEqual(['h1', 'h3', 'h5', 'h7']);
  expect(pick({ kind: 'positions', grid: '1/8', of: 4, at: [2] })).toEqual(['h2', 'h6', 'h8', 'h9']);
  expect(pick({ kind: 'every', n: 3, first: 2 })).toEqual(['h1', 'h4', 'h7', 'h9']);
  expect(pick({ kind: 'velocities', low: 61, high: 63 })).toEqual(['h1', 'h2', 'h3']);
  expect(pick({ kind: 'row', voice: 'snare' })).toEqual(['h8', 'h9']);
  expect(pick({ kind: 'bars', from: 1, to: 2 })).toEqual([]);
  expect(pick({ kind: 'all' })).toHaveLength(11);
  expect(pick({ kind: 'ghosts' }, { ...beat, hits: beat.hits.map((h) => (h.id === 'h9' ? { ...h, ghost: true } : h)) })).toEqual(['h9']);
  expect(pick({ kind: 'locked' }, setLocked(beat, new Set(['h4']), true))).toEqual(['h4']);
  const nudged = setNudges(beat, new Set(['h1', 'h2']), (h) => (h.id === 'h1' ? -8 : 8));
  expect(pick({ kind: 'early', ms: 5 }, nudged)).toEqual(['h1']);
  expect(pick({ kind: 'late', ms: 5 }, nudged)).toEqual(['h2']);
  expect(pick({ kind: 'late', ms: 8.5 }, nudged)).toEqual([]);
  const timbre: Record<string, object> = {
    h1: { pan: -30 },
    h2: { pan: 40, pitch: -2 },
    h3: { pitch: 0.5, brightness: -20 },
    h4: { pan: 0 },
  };
  const coloured = { ...beat, hits: beat.hits.map((h) => ({ ...h, ...timbre[h.id] })) };
  expect(pick({ kind: 'panned', side: 'left' }, coloured)).toEqual(['h1']);
  expect(pick({ kind: 'panned', side: 'right' }, coloured)).toEqual(['h2']);
  expect(pick({ kind: 'pitched' }, coloured)).toEqual(['h2', 'h3']);
  expect(pick({ kind: 'timbre', of: 'pan', low: -30, high: -1 }, coloured)).toEqual(['h1']);
  expect(pick({ kind: 'timbre', of: 'brightness', low: -20, high: -20 }, coloured)).toEqual(['h3']);
  expect(pick({ kind: 'timbre', of: 'pitch', low: -0.1, high: 0.4 }, coloured)).toHaveLength(9);
  expect(
    pick(
      { kind: 'doubtful' },
      smallPart([
        ['snare', 1.08, 90],
        ['snare', 1.25, 90],
        ['snare', 1.5, 90],
        ['snare', 1.75, 90],
      ]),
    ),
  ).toEqual(['h0']);
});

test('what a rule narrows is what it counts', () => {
  // Of the off-beat eighths every second: h3 and h7 of h1 h3 h5 h7.
  const offBeats = new Set(pick({ kind: 'off-beats' }));
  expect([...selectByRule(beat, performPart(beat), offBeats, { kind: 'every', n: 2, first: 2 }, 'narrow')].sort()).toEqual(['h3', 'h7']);
  expect([...hitsByRule(beat, performPart(beat), { kind: 'every', n: 2, first: 1 }, offBeats)].sort()).toEqual(['h1', 'h5']);
});

test('the same place in every bar, for the voices that were chosen', () => {
  const two = {
    ...beat,
    bars: 2,
    hits: [...beat.hits, ...beat.hits.map((h) => ({ ...h, id: `b${h.id}`, tick: ticks(h.tick + 4 * TICKS_PER_QUARTER) }))],
  };
  expect(pick({ kind: 'same-place', ids: new Set(['h8']) }, two)).toEqual(['bh8', 'h8']);
});

test('in six eighths the off-beat is the last eighth of each beat', () => {
  const six = smallPart(
    Array.from({ length: 6 }, (_, i) => ['ride', i / 2, 80] as const),
    { meter: [{ tick: ticks(0), numerator: 6, denominator: 8 }] },
  );
  expect(pick({ kind: 'off-beats' }, six)).toEqual(['h2', 'h5']);
  expect(pick({ kind: 'on-beats' }, six)).toEqual(['h0', 'h3']);
});

test('rules add to, take from or narrow the selection', () => {
  const had = new Set(['a', 'b']);
  const found = new Set(['b', 'c']);
  const joined = (how: Parameters<typeof combine>[2]) => [...combine(had, found, how)].sort();
  expect(joined('replace')).toEqual(['b', 'c']);
  expect(joined('add')).toEqual(['a', 'b', 'c']);
  expect(joined('subtract')).toEqual(['a']);
  expect(joined('narrow')).toEqual(['b']);
});

test('on-beats and off-beats never share a hit; every first is all', () => {
  fc.assert(
    fc.property(partArbitrary, (part) => {
      const off = new Set(pick({ kind: 'off-beats' }, part));
      expect(pick({ kind: 'on-beats' }, part).some((id) => off.has(id))).toBe(false);
      expect(pick({ kind: 'every', n: 1, first: 1 }, part)).toEqual(pick({ kind: 'all' }, part));
    }),
  );
});

test('a hit strays when it leaves its own row, not when the row leans as a whole', () => {
  const hats = smallPart([0, 0.25, 0.5, 0.75, 1, 1.25].map((q) => ['hat-closed', q, 80] as const));
  const all = new Set(hats.hits.map((h) => h.id));
  const flags = (p: Part) => [...straysOf(p, performPart(p)).flags];
  // A 1/16 at 120 BPM lasts 125 ms: its fifth is 25 ms.
  expect(flags(setNudges(hats, all, () => 30))).toEqual([0, 0, 0, 0, 0, 0]);
  expect(flags(setNudges(hats, new Set(['h2']), () => 36))).toEqual([0, 0, 1, 0, 0, 0]);
  expect(flags(setNudges(hats, new Set(['h2']), () => 24))).toEqual([0, 0, 0, 0, 0, 0]);
});

test('k hits over n steps', () => {
  expect(evenSpread(3, 8, 0)).toEqual([0, 3, 6]);
  expect(evenSpread(5, 8, 0)).toEqual([0, 2, 4, 5, 7]);
  expect(evenSpread(4, 16, 1)).toEqual([1, 5, 9, 13]);
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 32 }), fc.integer({ min: 0, max: 32 }), fc.integer({ min: -40, max: 40 }), (n, k, rotation) => {
      const steps = evenSpread(k, n, rotation);
      expect(steps).toHaveLength(Math.min(k, n));
      if (steps.length < 2) return;
      const gaps = steps.map((s, i) => (((steps[(i + 1) % steps.length] as number) - s + n - 1) % n) + 1);
      expect(Math.max(...gaps) - Math.min(...gaps)).toBeLessThanOrEqual(1);
    }),
  );
});

const empty = (numerator = 4, denominator = 4): Part => smallPart([], { bars: 2, meter: [{ tick: ticks(0), numerator, denominator }] });
const cell = (part: Part, name: (typeof CELLS)[number], more = {}): [string, number][] =>
  cellHits(part, { cell: name, from: 0, to: 1, grid: '1/16', velocity: 100, ...more }).map((h) => [h.voice, h.tick / TICKS_PER_QUARTER]);

test('cells in the meter they are put in', () => {
  expect(cell(empty(), 'backbeat')).toEqual([
    ['snare', 1],
    ['snare', 3],
  ]);
  expect(cell(empty(3), 'backbeat')).toEqual([
    ['snare', 1],
    ['snare', 2],
  ]);
  expect(cell(empty(6, 8), 'backbeat')).toEqual([['snare', 1.5]]);
  expect(cell(empty(7, 8), 'four-on-the-floor')).toEqual([
    ['kick', 0],
    ['kick', 1],
    ['kick', 2],
  ]);
  expect(cell(empty(), 'half-time')).toEqual([
    ['kick', 0],
    ['snare', 2],
  ]);
  expect(cell(empty(), 'off-beats', { voice: 'hat-open' })).toEqual([0.5, 1.5, 2.5, 3.5].map((q) => ['hat-open', q]));
  expect(cell(empty(6, 8), 'off-beats')).toEqual([
    ['hat-closed', 1],
    ['hat-closed', 2.5],
  ]);
  expect(cell(empty(), '3-3-2', { grid: '1/8' })).toEqual([
    ['kick', 0],
    ['kick', 1.5],
    ['kick', 3],
  ]);
  expect(cell(empty(), 'even-spread', { k: 3, n: 8, rotation: 2, voice: 'rim' })).toEqual(
    [0, 0.5, 1.25, 2, 2.5, 3.25].map((q) => ['rim', q]),
  );
});

test('a cell never doubles a hit, stays in its bars, and put down twice adds nothing', () => {
  fc.assert(
    fc.property(partArbitrary, fc.constantFrom(...CELLS), fc.constantFrom(...GRIDS), (part, name, grid) => {
      const request = { cell: name, from: 1, to: 3, grid, velocity: 90 };
      const found = cellHits(part, request);
      const ids = newIds();
      const taken = addHits(
        part,
        found.map((h) => ({ ...h, id: ids() })),
      );
      expect(cellHits(taken, request)).toEqual([]);
      expect(new Set(taken.hits.map((h) => `${h.voice}${h.tick}`)).size - new Set(part.hits.map((h) => `${h.voice}${h.tick}`)).size).toBe(
        found.length,
      );
    }),
  );
});
