import fc from 'fast-check';
import { partArbitrary, smallPart } from '@tests/support/arbitraries';
import { bpm, milliseconds, ticks, TICKS_PER_QUARTER } from '../units';
import { addHit, addNudge, addVelocity, duplicatesIn, removeHits, setNudges, setVelocities } from '../commands/hits';
import { setGhost } from '../commands/marks';
import { addMove, changeMove, removeMove } from '../commands/moves';
import { setOrigin, setRow, setSway, setTempo, startTempo } from '../commands/settings';
import { applyDiff, diffParts, invertDiff } from '../part/diff';
import { ghostLimits, isGhost, percentileOf } from '../ghosts/imported';
import { compareHits, type Hit, type Part } from './part';

/** Random commands with random arguments, as a user would mix them. */
const commandArbitrary: fc.Arbitrary<(part: Part) => Part> = fc.oneof(
  fc.tuple(fc.nat(), fc.integer({ min: -140, max: 140 })).map(
    ([n, d]) =>
      (p: Part) =>
        addVelocity(p, some(p, n), d),
  ),
  fc.tuple(fc.nat(), fc.integer({ min: -300, max: 300 })).map(
    ([n, d]) =>
      (p: Part) =>
        addNudge(p, some(p, n), milliseconds(d)),
  ),
  fc.nat().map((n) => (p: Part) => removeHits(p, some(p, n))),
  fc.tuple(fc.integer({ min: 0, max: 200000 }), fc.constantFrom('kick', 'rim')).map(
    ([t, voice]) =>
      (p: Part) =>
        addHit(p, { id: `new${t}${voice}${p.hits.length}`, voice, tick: ticks(t), velocity: 90 }),
  ),
  fc.nat().map((n) => (p: Part) => setGhost(p, some(p, n), n % 2 === 0)),
  fc.integer({ min: 10, max: 400 }).map((b) => (p: Part) => setTempo(p, bpm(b))),
  fc
    .integer({ min: 20, max: 90 })
    .map(
      (percent) => (p: Part) =>
        p.feel.moves[0]?.kind === 'swing' ? changeMove(p, 0, { percent }) : addMove(p, { kind: 'swing', division: '1/16', percent }),
    ),
  fc.double({ min: -1, max: 2, noNaN: true }).map((s) => (p: Part) => setSway(p, s)),
  fc.integer({ min: -5000, max: 5000 }).map((o) => (p: Part) => setOrigin(p, ticks(o))),
  fc.constant((p: Part) => removeMove(p, 0)),
  fc.constant((p: Part) => setRow(p, p.rows[0]?.voice ?? 'kick', { muted: true })),
);

/** Every hit whose index divides. */
const some = (p: Part, n: number): Set<string> => new Set(p.hits.filter((_, i) => i % ((n % 5) + 1) === 0).map((h) => h.id));

test('a diff leads from one state to the other, its inverse back, also after JSON as the store keeps it', () => {
  fc.assert(
    fc.property(partArbitrary, fc.array(commandArbitrary, { maxLength: 6 }), (part, commands) => {
      const after = commands.reduce((p, command) => command(p), part);
      const diff = diffParts(part, after);
      if (!diff) return expect(after).toEqual(part);
      expect(applyDiff(part, diff)).toEqual(after);
      expect(applyDiff(after, invertDiff(diff))).toEqual(part);
      expect(applyDiff(part, JSON.parse(JSON.stringify(diff)))).toEqual(after);
    }),
  );
});

test('commands never change the part they are given, and keep hits sorted and in range', () => {
  fc.assert(
    fc.property(partArbitrary, fc.array(commandArbitrary, { minLength: 1, maxLength: 6 }), (part, commands) => {
      const before = JSON.stringify(part);
      const after = commands.reduce((p, command) => command(p), part);
      expect(JSON.stringify(part)).toBe(before);
      expect([...after.hits].sort(compareHits)).toEqual(after.hits);
      for (const h of after.hits) {
        expect(h.velocity >= 1 && h.velocity <= 127 && Number.isInteger(h.velocity)).toBe(true);
        expect(Math.abs(h.nudge?.ms ?? 0)).toBeLessThanOrEqual(250);
      }
      expect(startTempo(after)).toBeGreaterThan(0);
    }),
  );
});

test('a command that changes nothing gives the same part back', () => {
  const part = smallPart([['kick', 0, 100]]);
  const ids = new Set(['h0']);
  expect(setVelocities(part, ids, () => 100)).toBe(part);
  expect(setNudges(part, ids, () => 0)).toBe(part);
  expect(removeHits(part, new Set(['nobody']))).toBe(part);
  expect(setTempo(part, bpm(120))).toBe(part);
  expect(diffParts(part, { ...part })).toBeNull();
});

test('minus zero is kept as zero, as the store would give it back', () => {
  const part = smallPart([['kick', 0, 100]]);
  expect(Object.is(setSway({ ...part, feel: { ...part.feel, sway: 0.5 } }, -0).feel.sway, 0)).toBe(true);
  const nudged = addNudge(
    { ...part, hits: part.hits.map((h) => ({ ...h, nudge: { ms: milliseconds(1), velocity: 4 } })) },
    new Set(['h0']),
    milliseconds(-1.001),
  );
  expect(Object.is(nudged.hits[0]?.nudge?.ms, 0)).toBe(true);
});

test('a nudge of nothing is removed', () => {
  const part = addNudge(smallPart([['kick', 0, 100]]), new Set(['h0']), milliseconds(12.345));
  expect(part.hits[0]?.nudge).toEqual({ ms: 12.35, velocity: 0 });
  expect(addNudge(part, new Set(['h0']), milliseconds(-12.35)).hits[0]).not.toHaveProperty('nudge');
});

test('a new hit takes the key of its voice’s other hits, and adds its row where it is missing', () => {
  const part = addHit(smallPart([['snare', 0, 100]]), { id: 'new', voice: 'crash', tick: ticks(TICKS_PER_QUARTER), velocity: 101.6 });
  expect(part.hits[1]).toMatchObject({ key: 49, velocity: 102, length: TICKS_PER_QUARTER / 4 });
  expect(part.rows.map((r) => r.voice)).toEqual(['crash', 'snare']);
});

test('a tempo set on a map of several keeps their proportion', () => {
  const part = smallPart([], {
    tempo: [
      { tick: ticks(0), microsecondsPerQuarter: 500_000 },
      { tick: ticks(9), microsecondsPerQuarter: 1_000_000 },
    ],
  });
  expect(setTempo(part, bpm(60)).tempo.map((t) => t.microsecondsPerQuarter)).toEqual([1_000_000, 2_000_000]);
});

test('moving the origin keeps the hits, and grows the part where the last one would fall outside', () => {
  const part = smallPart([['kick', 3.99, 100]]);
  const moved = setOrigin(part, ticks(-TICKS_PER_QUARTER));
  expect(moved.hits).toBe(part.hits);
  expect(moved.bars).toBe(2);
});

test('ghosts: at most 45 and at most half of the voice’s 90th percentile; hats have none', () => {
  expect(
    percentileOf(
      Uint32Array.from({ length: 128 }, (_, v) => (v > 0 && v <= 100 && v % 10 === 0 ? 1 : 0)),
      0.9,
    ),
  ).toBe(90);
  const ghosts = (list: readonly Hit[]): boolean[] => list.map((h) => isGhost(h, ghostLimits(list)));
  const velocities = [100, 100, 100, 44, 46, 30];
  const hits = [...smallPart(velocities.map((v, i) => ['snare', i / 4, v] as const)).hits, ...smallPart([['hat-closed', 0, 10]]).hits];
  expect(ghosts(hits)).toEqual([false, false, false, true, false, true, false]);
  // A quiet voice: half of 60 is 30.
  expect(
    ghosts(
      smallPart([
        ['kick', 0, 60],
        ['kick', 1, 31],
        ['kick', 2, 30],
      ]).hits,
    ),
  ).toEqual([false, false, true]);
});

test('of hits at one place all but the loudest are duplicates', () => {
  const part = smallPart([
    ['snare', 1, 90],
    ['snare', 1, 100],
    ['snare', 1, 100],
    ['kick', 1, 80],
    ['snare', 2, 80],
  ]);
  const all = new Set(part.hits.map((h) => h.id));
  expect([...duplicatesIn(part, all)].sort()).toEqual(['h0', 'h2']);
  expect(
    removeHits(part, duplicatesIn(part, all))
      .hits.map((h) => h.id)
      .sort(),
  ).toEqual(['h1', 'h3', 'h4']);
});
