import fc from 'fast-check';
import { partArbitrary, smallPart } from '@tests/support/arbitraries';
import type { Part } from '../model/part';
import { TICKS_PER_QUARTER } from '../units';
import { applyVariations, mainHits, varied, VARY_KINDS, type Variation } from './vary';

const Q = TICKS_PER_QUARTER;
const bar = (b: number): [string, number, number][] => [
  ...Array.from({ length: 8 }, (_, i): [string, number, number] => ['hat-closed', b * 4 + i / 2, i % 2 ? 60 : 90]),
  ['kick', b * 4, 110],
  ['kick', b * 4 + 2.5, 95],
  ['snare', b * 4 + 1, 105],
  ['snare', b * 4 + 3, 105],
  ['snare', b * 4 + 1.75, 30],
];
const base = smallPart([0, 1, 2, 3].flatMap(bar));
const part: Part = { ...base, bars: 4, rows: [{ voice: 'hat-open' }, ...base.rows] };
const request = { bars: [3], amount: 15, kinds: VARY_KINDS, grid: '1/16', seed: 1 } as const;
const told = (list: readonly Variation[]): string[] =>
  list.map(({ kind, hit, to }) => `${kind} ${hit?.id ?? ''} ${to ? `${to.voice} ${to.tick / Q} ${to.velocity}` : ''}`);
let n = 0;
const newId = (): string => `new ${n++}`;

test('the backbeat and the first kick of a bar are its main strokes', () => {
  expect(part.hits.filter((h) => mainHits(part, [3]).has(h.id)).map((h) => `${h.voice} ${h.tick / Q}`)).toEqual([
    'kick 12',
    'snare 13',
    'snare 15',
  ]);
});

test('15 % of a bar changes a seventh of its strokes, elsewhere nothing; the same seed gives the same', () => {
  const list = varied(part, request);
  // 13 strokes in the bar.
  expect(list.length).toBe(2);
  expect(told(varied(part, request))).toEqual(told(list));
  const after = applyVariations(part, list, newId);
  const before12 = (p: Part): string => JSON.stringify(p.hits.filter((h) => h.tick < 12 * Q));
  expect(before12(after)).toBe(before12(part));
  expect(new Set(Array.from({ length: 20 }, (_, seed) => told(varied(part, { ...request, seed })).join())).size).toBeGreaterThan(15);
});

test('a larger amount only adds to what a smaller one proposes; main strokes are spared until much is asked for', () => {
  for (let seed = 0; seed < 30; seed++) {
    let before: string[] = [];
    for (const amount of [5, 15, 30, 60]) {
      const now = told(varied(part, { ...request, amount, seed }));
      expect(now.slice(0, before.length)).toEqual(before);
      before = now;
      const main = mainHits(part, [3]);
      expect(varied(part, { ...request, amount, seed }).some(({ hit }) => hit && main.has(hit.id))).toBe(false);
    }
  }
  const much = Array.from({ length: 20 }, (_, seed) => varied(part, { ...request, amount: 100, seed })).flat();
  expect(much.some(({ hit }) => hit && mainHits(part, [3]).has(hit.id))).toBe(true);
});

test('each kind does what it says, on the rows that it may', () => {
  const of = (kind: Variation['kind'], rows?: string[]): Variation[] =>
    varied(part, { ...request, amount: 60, kinds: [kind], ...(rows ? { rows } : {}) });
  expect(of('leave').every(({ hit, to }) => hit!.velocity < 75 && to === null)).toBe(true);
  expect(of('ghost').every(({ hit, to }) => hit === null && to!.voice === 'snare' && to!.ghost === true && to!.velocity <= 32)).toBe(true);
  expect(of('move').every(({ hit, to }) => Math.abs(to!.tick - hit!.tick) === Q / 4)).toBe(true);
  expect(of('kin').every(({ hit, to }) => hit!.voice === 'hat-closed' && to!.voice === 'hat-open')).toBe(true);
  expect(of('dynamics', ['hat-closed']).every(({ hit, to }) => hit!.voice === 'hat-closed' && to!.tick === hit!.tick)).toBe(true);
  expect(of('add', ['kick']).every(({ to }) => to!.voice === 'kick' && to!.tick >= 12 * Q)).toBe(true);
});

test('nothing is doubled, nothing locked is touched, in any part', () => {
  fc.assert(
    fc.property(partArbitrary, fc.integer({ min: 1, max: 100 }), fc.nat(1000), (random, amount, seed) => {
      const list = varied(random, { bars: [0, 1], amount, kinds: VARY_KINDS, grid: '1/16', seed });
      expect(list.some(({ hit }) => hit?.locked)).toBe(false);
      const ids = list.flatMap(({ hit }) => (hit ? [hit.id] : []));
      expect(new Set(ids).size).toBe(ids.length);
      const after = applyVariations(random, list, newId);
      const gone = list.filter(({ to }) => to === null).length;
      const come = list.filter(({ hit }) => hit === null).length;
      expect(after.hits.length).toBe(random.hits.length - gone + come);
      expect(new Set(after.hits.map((h) => h.id)).size).toBe(after.hits.length);
    }),
    { numRuns: 60 },
  );
});
