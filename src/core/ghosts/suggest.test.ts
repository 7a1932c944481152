import fc from 'fast-check';
import { newIds, partArbitrary, smallPart } from '@tests/support/arbitraries';
import { addHits, removeHits } from '../commands/hits';
import type { Part } from '../model/part';
import { importPart } from '../smf/import-part';
import { exportPart } from '../smf/export-part';
import { drumLanes, listLanes } from '../smf/lanes';
import { readSmf } from '../smf/read';
import { stepOf } from '../time/grid';
import { ticks, TICKS_PER_QUARTER } from '../units';
import { GHOST_PLACINGS, ghostsToThin, suggestGhosts, type GhostRequest } from './suggest';

const Q = TICKS_PER_QUARTER;
const meter = (numerator: number, denominator: number): Pick<Part, 'meter'> => ({ meter: [{ tick: ticks(0), numerator, denominator }] });
type Line = [string, number, number];
const row = (voice: string, velocity: number, ...quarters: number[]): Line[] => quarters.map((q) => [voice, q, velocity]);
const hats = (count: number, step: number): Line[] => row('hat-closed', 80, ...Array.from({ length: count }, (_, i) => i * step));

/** Ten grooves: straight, half-time, crowded, bare, compound, odd, with ghosts already, with chokes. */
const GROOVES: readonly Part[] = [
  smallPart([...row('kick', 110, 0, 2), ...row('snare', 112, 1, 3), ...hats(8, 0.5)]),
  smallPart([...row('kick', 110, 0, 0.75, 2.5), ...row('snare', 112, 2), ...hats(16, 0.25)]),
  smallPart([...row('kick', 110, 0, 1, 2, 3), ...row('snare', 100, 1, 3), ...row('clap', 90, 1, 3)]),
  smallPart(row('snare', 100, ...Array.from({ length: 16 }, (_, i) => i / 4))),
  smallPart([...row('kick', 110, 0, 1.5), ...row('snare', 100, 1.5, 2.75), ...hats(6, 0.5)], meter(6, 8)),
  smallPart([...row('kick', 110, 0), ...row('snare', 100, 1, 2), ...hats(6, 0.5)], meter(3, 4)),
  smallPart([...row('kick', 110, 0, 2), ...row('snare', 100, 1, 2.5), ...hats(7, 0.5)], meter(7, 8)),
  smallPart([...row('kick', 110, 0, 2.25), ...row('snare', 100, 0.98, 3.03)], { bars: 2 }),
  smallPart([...row('kick', 60, 0.75), ...row('kick', 120, 0, 1, 2), ...row('snare', 90, 3)], { origin: ticks(Q / 8), bars: 2 }),
  smallPart([...row('snare', 110, 1, 3), ...row('snare', 20, 1.75, 2.25), ...row('tom-floor', 80, 3.5)]),
];
const requests = (part: Part): GhostRequest[] =>
  GHOST_PLACINGS.flatMap((placing) =>
    (['1/16', '1/16T', '1/8T'] as const).map((grid) => ({
      voice: placing === 'around' ? 'snare' : 'kick',
      placing,
      from: 0,
      to: part.bars,
      grid,
      density: 0.6,
      low: 12,
      high: 38,
      seed: 3,
    })),
  );

test.each(GROOVES.map((part, i) => [i, part] as const))(
  'groove %i: never on a hit of the voice, velocities in range, more with density, the same for a seed',
  (_, part) => {
    for (const request of requests(part)) {
      const own = part.hits.filter((h) => h.voice === request.voice);
      let before: readonly number[] = [];
      for (const density of [0, 0.2, 0.5, 0.8, 1]) {
        const ghosts = suggestGhosts(part, { ...request, density });
        for (const g of ghosts) {
          expect(g.velocity).toBeGreaterThanOrEqual(12);
          expect(g.velocity).toBeLessThanOrEqual(38);
          for (const h of own) expect(Math.abs(h.tick - g.tick)).toBeGreaterThanOrEqual(Math.min(stepOf(request.grid), stepOf('1/16')) / 2);
          expect((g.tick - part.origin) % stepOf(request.grid)).toBe(0);
        }
        const places = ghosts.map((g) => g.tick as number);
        expect(places).toEqual(expect.arrayContaining([...before]));
        expect(places.length).toBeGreaterThanOrEqual(before.length);
        before = places;
        expect(suggestGhosts(part, { ...request, density })).toEqual(ghosts);
      }
    }
  },
);

test('around a backbeat: first right behind and before it, never on the beat, not where the kick plays', () => {
  const places = (density: number) =>
    suggestGhosts(GROOVES[0]!, {
      voice: 'snare',
      placing: 'around',
      from: 0,
      to: 1,
      grid: '1/16',
      density,
      low: 20,
      high: 20,
      seed: 1,
    }).map((g) => g.tick / Q);
  expect(places(1).filter((q) => Number.isInteger(q))).toEqual([]);
  // Of twelve places that would do a third are those beside 2 and 4.
  for (const q of places(0.3)) expect([0.75, 1.25, 2.75, 3.25]).toContain(q);
  const withKick = smallPart([...row('kick', 110, 1.25), ...row('snare', 112, 1)]);
  const ranked = suggestGhosts(withKick, {
    voice: 'snare',
    placing: 'around',
    from: 0,
    to: 1,
    grid: '1/16',
    density: 0.2,
    low: 20,
    high: 20,
    seed: 1,
  });
  expect(ranked.map((g) => g.tick / Q)).not.toContain(1.25);
});

test('lead-in doubles stand a step before strong kicks alone', () => {
  const part = smallPart([...row('kick', 120, 1, 3), ...row('kick', 60, 2)]);
  const ghosts = suggestGhosts(part, {
    voice: 'kick',
    placing: 'lead-in',
    from: 0,
    to: 1,
    grid: '1/16',
    density: 1,
    low: 30,
    high: 30,
    seed: 1,
  });
  expect(ghosts).toEqual([0.75, 2.75].map((q) => ({ voice: 'kick', tick: q * Q, velocity: 30 })));
});

test('another seed moves them', () => {
  const of = (seed: number) =>
    suggestGhosts(GROOVES[1]!, { voice: 'snare', placing: 'around', from: 0, to: 1, grid: '1/16', density: 0.4, low: 10, high: 40, seed });
  expect([2, 3, 4, 5].some((seed) => JSON.stringify(of(seed)) !== JSON.stringify(of(1)))).toBe(true);
});

test('in an imported part all are taken; taken back, the part is the same to the byte', () => {
  const file = readSmf(exportPart({ ...GROOVES[1]!, bars: 1 }).bytes);
  const { part } = importPart(file, { name: 'imported', lanes: drumLanes(file, listLanes(file)) });
  const id = newIds();
  const ghosts = suggestGhosts(part, {
    voice: 'snare',
    placing: 'around',
    from: 0,
    to: 1,
    grid: '1/16T',
    density: 1,
    low: 10,
    high: 40,
    seed: 1,
  }).map((g) => ({ ...g, id: id(), ghost: true }));
  expect(ghosts.length).toBeGreaterThan(5);
  const taken = addHits(part, ghosts);
  expect(taken.hits).toHaveLength(part.hits.length + ghosts.length);
  const back = removeHits(taken, new Set(ghosts.map((g) => g.id)));
  expect(JSON.stringify(back)).toBe(JSON.stringify(part));
});

test('thinned out, only ghosts go: as many as asked for, and the same ones first', () => {
  fc.assert(
    fc.property(partArbitrary, fc.double({ min: 0, max: 1, noNaN: true }), fc.nat(99), (part, share, seed) => {
      const all = new Set(part.hits.map((h) => h.id));
      const gone = ghostsToThin(part, all, share, seed);
      const ghosts = part.hits.filter((h) => h.ghost);
      expect(gone).toHaveLength(Math.floor(share * ghosts.length + 0.5));
      for (const id of gone) expect(ghosts.some((h) => h.id === id)).toBe(true);
      expect(ghostsToThin(part, all, 1, seed).slice(0, gone.length)).toEqual(gone);
    }),
  );
});
