import fc from 'fast-check';
import { partArbitrary, smallPart } from '@tests/support/arbitraries';
import { homesOf } from '../homes/homes';
import { tempoMapOf } from '../part/part-time';
import { ticks, TICKS_PER_QUARTER } from '../units';
import { alikeBars } from './alike';
import { answeringIn, COMPETING_MS, competingIn, togetherOf } from './between';

/** At 120 BPM a quarter is 500 ms, a sixteenth 125. */
const MS = TICKS_PER_QUARTER / 500;

test('together: how often, how far apart, how evenly, in the order of rows', () => {
  // Kick 2 ms and 6 ms after the hat on beats 1 and 2; a snare alone.
  const part = smallPart([
    ['hat-closed', 0, 90],
    ['kick', 0, 100],
    ['hat-closed', 1, 90],
    ['kick', 1, 100],
    ['snare', 2, 90],
  ]);
  let kicks = 0;
  const late = {
    ...part,
    hits: part.hits.map((h) => (h.voice === 'kick' ? { ...h, tick: ticks(h.tick + (kicks++ === 0 ? 2 : 6) * MS) } : h)),
  };
  expect(togetherOf(late)).toEqual([
    { voices: ['hat-closed', 'kick'], n: 2, meanMs: expect.closeTo(4, 6) as number, sdMs: expect.closeTo(2, 6) as number },
  ]);
});

test('competing: within 35 ms, of different rows and lines; the earlier first', () => {
  const part = smallPart([
    ['snare', 0, 90],
    ['kick', 0.25, 100],
    ['snare', 1, 90],
    ['snare', 2, 90],
  ]);
  const home = TICKS_PER_QUARTER / 4;
  const moved = { ...part, hits: part.hits.map((h) => (h.voice === 'kick' ? { ...h, tick: ticks(30 * MS), home: ticks(home) } : h)) };
  expect(competingIn(moved)).toEqual({
    count: 1,
    list: [{ bar: 0, tick: 0, voices: ['snare', 'kick'], ms: expect.closeTo(30, 6) as number, hits: [0, 1] }],
  });
  const apart = { ...part, hits: part.hits.map((h) => (h.voice === 'kick' ? { ...h, tick: ticks(36 * MS), home: ticks(home) } : h)) };
  expect(competingIn(apart)).toEqual({ count: 0, list: [] });
});

test('competing pairs are those that trying every pair finds', () => {
  fc.assert(
    fc.property(partArbitrary, (part) => {
      const homes = homesOf(part);
      const tempo = tempoMapOf(part);
      let wanted = 0;
      part.hits.forEach((a, i) =>
        part.hits.forEach((b, k) => {
          if (k <= i || a.choke || b.choke || a.voice === b.voice || homes.ticks[i] === homes.ticks[k]) return;
          if (Math.abs(tempo.toSeconds(a.tick) - tempo.toSeconds(b.tick)) * 1000 <= COMPETING_MS + 1e-9) wanted++;
        }),
      );
      const { count, list } = competingIn(part);
      expect([count, list.length]).toEqual([wanted, wanted]);
      for (const { ms } of list) expect(ms).toBeGreaterThanOrEqual(0);
      expect(competingIn(part, undefined, 2)).toEqual({ count: wanted, list: list.slice(0, 2) });
    }),
    { numRuns: 100 },
  );
});

test('many strokes within 35 ms are counted as few are', () => {
  // 2,400 strokes on 600 ticks: three rows, each on two lines. Pairs of unlike rows and lines: 3 x 2 x 400 x 400.
  const rows = ['kick', 'snare', 'hat-closed'];
  const many = {
    ...smallPart([]),
    hits: Array.from({ length: 2400 }, (_, i) => ({
      ...smallPart([['kick', 0, 90]]).hits[0]!,
      id: `h${i}`,
      voice: rows[i % 3]!,
      tick: ticks(Math.floor(i / 4)),
      home: ticks(i % 2 === 0 ? 0 : 20_160),
    })),
  };
  expect(competingIn(many, undefined, 5)).toMatchObject({ count: 3 * 2 * 400 * 400, list: { length: 5 } });
});

test('bars are grouped as comparing each with all of each group does', () => {
  const bars = fc.array(
    fc.array(
      fc.tuple(
        fc.constantFrom('kick', 'snare'),
        fc.integer({ min: 0, max: 3 }),
        fc.integer({ min: -3, max: 3 }),
        fc.integer({ min: 60, max: 100 }),
      ),
      { maxLength: 3 },
    ),
    { minLength: 2, maxLength: 12 },
  );
  fc.assert(
    fc.property(bars, (all) => {
      // A hit's place is a quarter and some hundredths of it: 12 % of a sixteenth are three of them.
      const part = {
        ...smallPart(
          all.flatMap((bar, b) =>
            bar.map(([voice, beat, late, velocity]): [string, number, number] => [voice, 4 * b + beat + 0.2 + late / 100, velocity]),
          ),
        ),
        bars: all.length,
      };
      const homes = homesOf(part);
      const strokes = all.map((_, b) =>
        part.hits
          .filter((__, i) => Math.floor((homes.ticks[i] as number) / (4 * TICKS_PER_QUARTER)) === b)
          .map((h) => ({ ...h, place: h.tick - 4 * b * TICKS_PER_QUARTER })),
      );
      const covers = (a: number, b: number): boolean =>
        strokes[a]!.every((s) =>
          strokes[b]!.some(
            (o) =>
              o.voice === s.voice && Math.abs(o.place - s.place) <= 0.03 * TICKS_PER_QUARTER && Math.abs(o.velocity - s.velocity) <= 12,
          ),
        );
      const groups: number[][] = [];
      all.forEach((_, b) => {
        const found = groups.find((g) => g.every((a) => covers(a, b) && covers(b, a)));
        if (found) found.push(b);
        else groups.push([b]);
      });
      expect(alikeBars(part)).toEqual(groups.filter((g) => g.length > 1));
    }),
    { numRuns: 300 },
  );
  expect(() =>
    alikeBars(
      smallPart(
        [
          ['kick', 0, 90],
          ['kick', 4, 103],
        ],
        { bars: 2 },
      ),
      undefined,
      0,
    ),
  ).toThrow('to compare them all');
});

test('a row answers another where it plays in its gaps by turns', () => {
  const part = smallPart(
    [0, 1, 2, 3].flatMap((b): [string, number, number][] => [
      ['tom-high', b, 90],
      ['cowbell', b + 0.5, 90],
    ]),
  );
  expect(answeringIn(part).map((a) => a.voices)).toEqual([['tom-high', 'cowbell']].map((v) => expect.arrayContaining(v) as string[]));
});

test('bars are alike within 12 % of a sixteenth and 12 velocities', () => {
  const bar = (n: number, shift: number, velocity: number): [string, number, number][] => [
    ['kick', 4 * n, 100],
    ['snare', 4 * n + 1 + shift, velocity],
  ];
  // A sixteenth is a quarter of a beat: 12 % of it are 0.03.
  const part = { ...smallPart([...bar(0, 0, 90), ...bar(1, 0.02, 101), ...bar(2, 0.04, 90), ...bar(3, 0, 103)]), bars: 4 };
  expect(alikeBars(part)).toEqual([[0, 1]]);
  expect(alikeBars({ ...part, hits: part.hits.map((h) => ({ ...h, velocity: part.hits[0]!.velocity })) })).toEqual([[0, 1, 3]]);
});
