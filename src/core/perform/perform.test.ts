import fc from 'fast-check';
import { partArbitrary, smallPart } from '@tests/support/arbitraries';
import { milliseconds, ticks, TICKS_PER_QUARTER } from '../units';
import { EMPTY_FEEL, type Feel } from '../model/feel';
import type { Part } from '../model/part';
import { cutLengths, leanOf, performPart, writtenPerformance } from './perform';

const Q = TICKS_PER_QUARTER;
const swing = (percent: number, more: object = {}): Feel => ({
  ...EMPTY_FEEL,
  moves: [{ kind: 'swing', division: '1/16', percent, ...more }],
});
const sixteenths = (voice: string): [string, number, number][] => Array.from({ length: 16 }, (_, i) => [voice, i / 4, 100]);

test('sway 0, an empty feel, or every move off performs the written part exactly', () => {
  fc.assert(
    fc.property(partArbitrary, (random) => {
      const part: Part = { ...random, hits: random.hits.map(({ nudge: _n, ...hit }) => hit) };
      const written = writtenPerformance(part);
      for (const feel of [
        { ...part.feel, sway: 0 },
        { ...part.feel, moves: [] },
        { ...part.feel, moves: part.feel.moves.map((m) => ({ ...m, on: false })) },
      ]) {
        const performed = performPart({ ...part, feel });
        expect([...performed.ticks]).toEqual([...written.ticks]);
        expect([...performed.velocities]).toEqual([...written.velocities]);
        expect([...performed.lengths]).toEqual([...written.lengths]);
      }
    }),
  );
});

test('swing 60 % moves every second sixteenth by a tenth of a pair: 4032 ticks', () => {
  const { ticks: times } = performPart(smallPart(sixteenths('hat-closed'), { feel: swing(60) }));
  times.forEach((t, i) => expect(t).toBe((i * Q) / 4 + (i % 2 ? 4032 : 0)));
});

test('sway blends in a straight line, and a swung hit has lean 0 at any sway', () => {
  for (const sway of [0.25, 0.5, 1]) {
    const part = smallPart(sixteenths('hat-closed'), { feel: { ...swing(60), sway } });
    const performed = performPart(part);
    performed.ticks.forEach((t, i) => {
      expect(t).toBeCloseTo((i * Q) / 4 + (i % 2 ? 4032 * sway : 0), 6);
      expect(leanOf(part, performed, i)).toBeCloseTo(0, 9);
    });
  }
});

test('the inverse move undoes a swing exactly', () => {
  fc.assert(
    fc.property(partArbitrary, fc.double({ min: 25, max: 80, noNaN: true }), (random, percent) => {
      const hits = random.hits.map(({ nudge: _n, ...hit }) => hit);
      const feel: Feel = {
        ...EMPTY_FEEL,
        moves: [
          { kind: 'swing', division: '1/8', percent },
          { kind: 'swing', division: '1/8', percent, inverse: true },
        ],
      };
      performPart({ ...random, hits, feel }).ticks.forEach((t, i) => expect(t).toBeCloseTo(hits[i]?.tick as number, 5));
    }),
  );
});

test('a nudge moves its hit alone, past its neighbours too', () => {
  const part = smallPart([
    ['hat-closed', 0, 90],
    ['hat-closed', 0.25, 90],
    ['hat-closed', 0.5, 90],
  ]);
  // At 120 BPM a sixteenth is 125 ms.
  const nudged = { ...part, hits: part.hits.map((h, i) => (i === 0 ? { ...h, nudge: { ms: milliseconds(150), velocity: 0 } } : h)) };
  expect([...performPart(nudged).ticks].map((t) => t / TICKS_PER_QUARTER)).toEqual([0.3, 0.25, 0.5]);
  fc.assert(
    fc.property(partArbitrary, fc.nat(), fc.integer({ min: -200, max: 200 }), (random, pick, ms) => {
      fc.pre(random.hits.length > 0);
      const index = pick % random.hits.length;
      const moved = {
        ...random,
        hits: random.hits.map((h, i) => (i === index ? { ...h, nudge: { ms: milliseconds(ms), velocity: 0 } } : h)),
      };
      const [before, after] = [performPart(random).ticks, performPart(moved).ticks];
      before.forEach((t, i) => i !== index && expect(after[i]).toBe(t));
    }),
  );
});

test('strokes of one voice keep their written order before their nudges, velocities stay 1 to 127, lengths at least 1', () => {
  fc.assert(
    fc.property(partArbitrary, (part) => {
      const p = performPart(part);
      const unnudged = performPart({ ...part, hits: part.hits.map(({ nudge: _none, ...hit }) => hit) });
      const last = new Map<string, number>();
      part.hits.forEach((hit, i) => {
        expect(unnudged.ticks[i]).toBeGreaterThanOrEqual(last.get(hit.voice) ?? -Infinity);
        last.set(hit.voice, unnudged.ticks[i] as number);
        expect(p.velocities[i]).toBeGreaterThanOrEqual(1);
        expect(p.velocities[i]).toBeLessThanOrEqual(127);
        expect(p.lengths[i]).toBeGreaterThanOrEqual(1);
      });
    }),
  );
});

test('editing one hit never moves a hit of another voice or beat', () => {
  fc.assert(
    fc.property(partArbitrary, fc.nat(), (part, pick) => {
      fc.pre(part.hits.length > 1);
      const index = pick % part.hits.length;
      const hits = part.hits.map((h, i) => (i === index ? { ...h, velocity: 64 as typeof h.velocity } : h));
      const before = performPart(part);
      const after = performPart({ ...part, hits });
      after.ticks.forEach((t, i) => expect(t).toBe(before.ticks[i]));
    }),
  );
});

test('a nudge is added after the feel, in real time of the tempo at the hit', () => {
  const tempo = [
    { tick: ticks(0), microsecondsPerQuarter: 500_000 },
    { tick: ticks(2 * Q), microsecondsPerQuarter: 1_000_000 },
  ];
  const part = smallPart(
    [
      ['snare', 1, 100],
      ['snare', 3, 100],
    ],
    { tempo, feel: swing(60) },
  );
  const nudged = { ...part, hits: part.hits.map((h) => ({ ...h, nudge: { ms: milliseconds(10), velocity: -8 } })) };
  const p = performPart(nudged);
  // 10 ms are 1/50 of a quarter at 120 BPM and 1/100 at 60.
  expect(p.ticks[0]).toBeCloseTo(Q + Q / 50, 6);
  expect(p.ticks[1]).toBeCloseTo(3 * Q + Q / 100, 6);
  expect([...p.velocities]).toEqual([92, 92]);
});

test('a nudge across a tempo change takes both tempos into account', () => {
  const tempo = [
    { tick: ticks(0), microsecondsPerQuarter: 500_000 },
    { tick: ticks(Q), microsecondsPerQuarter: 1_000_000 },
  ];
  const part = smallPart([['snare', 0.99, 100]], { tempo });
  const p = performPart({ ...part, hits: part.hits.map((h) => ({ ...h, nudge: { ms: milliseconds(15), velocity: 0 } })) });
  // Rounded to ticks the hit is 5 ms before the change (806 of 80640 ticks): the other 10 ms run at the slower tempo.
  const hitTick = Math.round(0.99 * Q);
  const msBefore = ((Q - hitTick) / Q) * 500;
  expect(p.ticks[0]).toBeCloseTo(Q + ((15 - msBefore) / 1000) * Q, 6);
});

test('scopes: voices, bars by home, steps, ghosts', () => {
  const part = smallPart(
    [...sixteenths('hat-closed'), ...sixteenths('snare')].map(([v, q, l], i) => [v, q, i % 2 && v === 'snare' ? 20 : l] as const),
  );
  const ghosts = { ...part, hits: part.hits.map((h) => (h.velocity === 20 ? { ...h, ghost: true } : h)) };
  const moved = (scope: object): number[] => {
    const p = performPart({ ...ghosts, feel: swing(60, { scope }) });
    return ghosts.hits.flatMap((h, i) => (p.ticks[i] === h.tick ? [] : [i]));
  };
  const offBeats = (voice: string): number[] =>
    ghosts.hits.flatMap((h, i) => (h.voice === voice && (h.tick / (Q / 4)) % 2 === 1 ? [i] : []));
  expect(moved({ voices: ['snare'] })).toEqual(offBeats('snare'));
  expect(moved({ ghosts: 'only' })).toEqual(offBeats('snare'));
  expect(moved({ ghosts: 'none' })).toEqual(offBeats('hat-closed'));
  expect(moved({ bars: { from: 2 } })).toEqual([]);
  expect(moved({ steps: { grid: '1/16', of: 4, at: [1] } })).toEqual(
    ghosts.hits.flatMap((h, i) => ((h.tick / (Q / 4)) % 4 === 1 ? [i] : [])),
  );
});

test('a cycle of steps longer than a bar runs on over bar lines', () => {
  const part = smallPart(
    Array.from({ length: 8 }, (_, i) => ['kick', i + 0.25, 100] as const),
    { bars: 2, feel: swing(60, { scope: { steps: { grid: '1/16', of: 32, at: [17] } } }) },
  );
  const p = performPart(part);
  // Only the second sixteenth of bar 2 is step 17 of 32.
  expect(part.hits.map((h, i) => p.ticks[i] !== h.tick)).toEqual([false, false, false, false, true, false, false, false]);
});

test('every second bar: every 2, at 2', () => {
  const part = smallPart(
    Array.from({ length: 16 }, (_, i) => ['kick', i + 0.25, 100] as const),
    { bars: 4, feel: swing(60, { scope: { bars: { every: 2, at: [2] } } }) },
  );
  const p = performPart(part);
  expect(part.hits.map((h, i) => (p.ticks[i] !== h.tick ? Math.floor(h.tick / (4 * Q)) + 1 : 0)).filter(Boolean)).toEqual([
    2, 2, 2, 2, 4, 4, 4, 4,
  ]);
});

test('lengths are cut at the next hit of the key; two at one tick both have one', () => {
  expect([...cutLengths(Uint8Array.of(36, 38, 36, 36, 36), [0, 0, 10, 10, 30], Float64Array.of(50, 50, 50, 50, 5))]).toEqual([
    10, 50, 1, 1, 5,
  ]);
});

test('an excerpt is performed as in the whole part, a bar inside its edges', () => {
  fc.assert(
    fc.property(partArbitrary, (random) => {
      const part: Part = { ...random, hits: random.hits.map(({ nudge: _n, ...hit }) => hit) };
      const bar = ((part.meter[0]?.numerator ?? 4) * 4 * Q) / (part.meter[0]?.denominator ?? 4);
      const indexAt = (tick: number): number => part.hits.filter((h) => h.tick < tick + part.origin).length;
      const range = { from: indexAt(bar), to: indexAt(4 * bar) };
      const whole = performPart(part);
      const excerpt = performPart(part, range);
      for (let i = indexAt(2 * bar); i < indexAt(3 * bar); i++) {
        expect([excerpt.ticks[i], excerpt.velocities[i], excerpt.placedHomes[i]]).toEqual([
          whole.ticks[i],
          whole.velocities[i],
          whole.placedHomes[i],
        ]);
      }
    }),
  );
});

test('a scope names one row, or with v:* all rows of a voice', () => {
  const part = smallPart([
    ['snare', 0, 90],
    ['kick', 0, 90],
  ]);
  const at = (voices: string[]) =>
    performPart({ ...part, feel: { ...EMPTY_FEEL, moves: [{ kind: 'lay', ms: 10, scope: { voices } }] } }).ticks.map((t) => Math.round(t));
  expect(at(['snare:*'])).toEqual(at(['snare']));
  expect([...at(['snare:*'])].filter((t) => t > 0)).toHaveLength(1);
});
