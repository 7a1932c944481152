import fc from 'fast-check';
import { feelArbitrary, moveArbitrary, partArbitrary, smallPart } from '@tests/support/arbitraries';
import type { Groove, GrooveStep } from '../model/groove';
import type { Hit, Part } from '../model/part';
import { milliseconds, ticks, TICKS_PER_QUARTER } from '../units';
import { meterMapOf } from '../part/part-time';
import { SlowCurve } from '../feel/slow-curve';
import { EMPTY_FEEL, type AccentsMove, type Feel, type Move, type Scope, type QuantizeMove } from '../model/feel';
import { performPart, seedOfMove } from '../perform/perform';
import { DEFAULT_MOVES } from './all';

/** Hand-computed: at 120 BPM a ms is 161.28 ticks, a 1/16 20160 ticks. */
const Q = TICKS_PER_QUARTER;
const STEP = Q / 4;
const MS = Q / 500;

const feelOf = (...moves: Move[]): Feel => ({ ...EMPTY_FEEL, moves });
const at = (...hits: (readonly [voice: string, tick: number, velocity: number])[]): Part =>
  smallPart(
    hits.map(([voice, tick, v]) => [voice, tick / Q, v] as const),
    { bars: 4 },
  );
const timesOf = (part: Part, ...moves: Move[]): number[] => [...performPart({ ...part, feel: feelOf(...moves) }).ticks];
const velocitiesOf = (part: Part, ...moves: Move[]): number[] => [...performPart({ ...part, feel: feelOf(...moves) }).velocities];
const near = (found: number[], wanted: number[]) => {
  expect(found).toHaveLength(wanted.length);
  found.forEach((t, i) => expect(t).toBeCloseTo(wanted[i] as number, 4));
};

describe('quantize', () => {
  const tighten = (change: Partial<QuantizeMove> = {}): QuantizeMove => ({
    ...DEFAULT_MOVES.quantize,
    strength: 0.65,
    outer: 0.6,
    ...change,
  });

  test('full strength up to 0.8 of the window, falling to 0 at its end, nothing beyond or exactly between', () => {
    // h = 10080, window 6048, full up to 4838.4. At 5500: e = 0.65 x 548 / 1209.6.
    const lines = [8, 12, 16, 20].map((n) => n * STEP);
    const offs = [2000, 5500, 6100, 10080];
    const part = at(...offs.map((o, i) => ['snare', (lines[i] as number) + o, 90] as const));
    near(timesOf(part, tighten()), [lines[0]! + 700, lines[1]! + 5500 * (1 - (0.65 * 548) / 1209.6), lines[2]! + 6100, lines[3]! + 10080]);
    near(timesOf(at(['snare', 8 * STEP - 2000, 90]), tighten()), [8 * STEP - 700]);
  });

  test('window 1 reaches to the middle without a fall', () => {
    near(timesOf(at(['snare', 8 * STEP + 10000, 90]), tighten({ outer: 1, strength: 1 })), [8 * STEP]);
    near(timesOf(at(['snare', 8 * STEP + 10080, 90]), tighten({ outer: 1, strength: 1 })), [8 * STEP + 10080]);
  });

  test('innerMs: nothing up to it, rising to twice as far; the lesser of both ramps acts', () => {
    const part = at(['snare', 8 * STEP + 1600, 90], ['kick', 8 * STEP + 2400, 90], ['clap', 8 * STEP + 4000, 90]);
    const ms = 2400 / MS;
    const wanted = { snare: 1600, kick: 2400 * (1 - 0.65 * ((ms - 10) / 10)), clap: 4000 * 0.35 };
    const found = timesOf(part, tighten({ innerMs: 10 }));
    part.hits.forEach((h, i) => expect(found[i]).toBeCloseTo(8 * STEP + wanted[h.voice as keyof typeof wanted], 4));
  });

  test('swung lines: the second of a pair lies at 60 % of it, the gap on either side differs', () => {
    // 1.2 steps: 24192. A hit at 24000 is 192 early, one at 30000 is 5808 late with h = (40320 - 24192) / 2 = 8064.
    near(timesOf(at(['snare', 24000, 90], ['kick', 30000, 90]), tighten({ swingPercent: 60, strength: 0.5, outer: 1 })), [
      24192 - 96,
      24192 + 2904,
    ]);
  });

  test('a flam moves as one, by the shift of its loudest', () => {
    const line = 8 * STEP;
    near(timesOf(at(['snare', line - 3000, 40], ['snare', line + 1000, 100]), tighten()), [line - 3650, line + 350]);
    // The grace stroke of another voice goes by itself.
    near(timesOf(at(['rim', line - 3000, 40], ['snare', line + 1000, 100]), tighten()), [line - 1050, line + 350]);
  });

  test('a decided hit goes to its line however far it is; one left alone stays', () => {
    const part = at(['snare', 8 * STEP + 9000, 90]);
    const pinned: Part = { ...part, hits: part.hits.map((h) => ({ ...h, home: ticks(9 * STEP), decided: true })) };
    near(timesOf(pinned, tighten({ strength: 1 })), [9 * STEP]);
    near(timesOf({ ...pinned, hits: pinned.hits.map((h) => ({ ...h, alone: true })) }, tighten({ strength: 1 })), [8 * STEP + 9000]);
  });

  test('the next bar line is a line, also where a triplet grid leaves a short step', () => {
    const part: Part = { ...at(['snare', 3.5 * Q - 1000, 90]), meter: [{ tick: ticks(0), numerator: 7, denominator: 8 }] };
    near(timesOf(part, tighten({ grid: '1/8T', strength: 1, outer: 1 })), [3.5 * Q]);
  });
});

test('lay: the same real time at any tempo', () => {
  near(timesOf(at(['kick', STEP, 90]), { kind: 'lay', ms: 10 }), [STEP + 10 * MS]);
  const slow: Part = {
    ...at(['kick', 0, 90], ['kick', 2 * Q, 90]),
    tempo: [
      { tick: ticks(0), microsecondsPerQuarter: 500_000 },
      { tick: ticks(Q), microsecondsPerQuarter: 1_000_000 },
    ],
  };
  near(timesOf(slow, { kind: 'lay', ms: -20 }), [-20 * MS, 2 * Q - 10 * MS]);
});

describe('groove', () => {
  const groove = (steps: Record<number, Partial<GrooveStep>>, beats = 4, more: Partial<Groove> = {}): Groove => ({
    format: 'nod-sway/groove@1',
    name: 'test',
    meter: [4, 4],
    beats,
    stepsPerBeat: 4,
    steps: Array.from({ length: beats * 4 }, (_, i) => ({ offset: 0, level: 1, n: 1, ...steps[i] })),
    ...more,
  });
  const use = (g: Groove, lean = 1, level = 1): Move => ({ kind: 'groove', groove: g, lean, level });

  test('offsets by interpolation, levels of the nearest step', () => {
    const g = groove({ 1: { offset: 0.12, level: 0.5 } });
    const part = at(['snare', STEP, 100], ['kick', STEP / 2, 100], ['clap', STEP * 1.4, 100]);
    const written = { ...use(g), at: 'written' } as Move;
    near(
      timesOf(part, written).sort((a, b) => a - b),
      [STEP / 2 + 0.06 * STEP, STEP * 1.12, STEP * 1.4 + 0.6 * 0.12 * STEP],
    );
    expect(velocitiesOf(part, written)).toEqual([50, 50, 50]);
    near(timesOf(at(['snare', STEP, 100]), use(g, 0.5)), [STEP * 1.06]);
    expect(velocitiesOf(at(['snare', STEP, 100]), use(g, 1, 0.5))).toEqual([75]);
    // Limited to 0.49 of a step.
    near(timesOf(at(['snare', STEP, 100]), use(groove({ 1: { offset: 0.4 } }), 1.5)), [STEP * 1.49]);
  });

  test('a voice of its own, and a groove of two bars that runs on over the bar line', () => {
    const g = groove({}, 4, { voices: { kick: groove({ 2: { offset: -0.1 } }).steps } });
    near(
      timesOf(at(['kick', 2 * STEP, 90], ['snare', 2 * STEP, 90]), use(g)).sort((a, b) => a - b),
      [1.9 * STEP, 2 * STEP],
    );
    near(timesOf(at(['kick', 4 * STEP, 90], ['kick', 20 * STEP, 90], ['kick', 36 * STEP, 90]), use(groove({ 20: { offset: 0.2 } }, 8))), [
      4 * STEP,
      20.2 * STEP,
      36 * STEP,
    ]);
  });

  test('where a bar cuts the groove off, the last step leads to step 0 of the next round; shorter ones restart', () => {
    const inThree: Part = {
      ...at(['kick', 11.5 * STEP, 90], ['kick', 12 * STEP, 90]),
      meter: [{ tick: ticks(0), numerator: 3, denominator: 4 }],
    };
    near(timesOf(inThree, use(groove({ 0: { offset: 0.2 } }))), [11.6 * STEP, 12.2 * STEP]);
    near(timesOf(at(['kick', 2 * STEP, 90], ['kick', 6 * STEP, 90], ['kick', 16 * STEP, 90]), use(groove({ 2: { offset: 0.1 } }, 1))), [
      2.1 * STEP,
      6.1 * STEP,
      16 * STEP,
    ]);
  });
});

test('ghosts alone aligned to triplets land on the triplets, however far they were', () => {
  const third = 80640 / 3;
  const base = smallPart([
    ['snare', 0, 100],
    ['snare', 0.5, 30],
    ['snare', 0.85, 30],
    ['snare', 1, 100],
  ]);
  const part: Part = {
    ...base,
    hits: base.hits.map((h) => (h.velocity === 30 ? { ...h, ghost: true } : h)),
    feel: {
      ...EMPTY_FEEL,
      moves: [{ ...DEFAULT_MOVES.quantize, grid: '1/8T', strength: 1, outer: 1, scope: { voices: ['snare'], ghosts: 'only' } }],
    },
  };
  // The first ghost is exactly between the triplets at 1/3 and 2/3: it stays until it is decided; the other lands on the beat, or on 2/3.
  const at = performPart(part).ticks;
  expect([at[0], at[3]]).toEqual([0, 80640]);
  expect(at[2]! / third).toBeCloseTo(Math.round((0.85 * 80640) / third), 6);
});

describe('humanize', () => {
  const sixteenths = (n: number): Part => at(...Array.from({ length: n }, (_, i) => ['hat-closed', i * STEP, 80] as const));
  const drift = (change: object = {}): Move => ({
    ...DEFAULT_MOVES.humanize,
    timingMs: 5,
    velocityPercent: 5,
    memory: 0.7,
    seed: 7,
    ...change,
  });
  const leans = (part: Part, move: Move): number[] => timesOf(part, move).map((t, i) => (t - (part.hits[i] as Hit).tick) / MS);

  test('the anchor spares bar lines wholly and beat lines half', () => {
    const free = leans(sixteenths(64), drift({ anchor: 0 }));
    const anchored = leans(sixteenths(64), drift({ anchor: 1 }));
    free.forEach((ms, i) => expect(anchored[i]).toBeCloseTo(i % 16 === 0 ? 0 : i % 4 === 0 ? ms / 2 : ms, 6));
  });

  test('its deviation is what was asked for at every memory, and no hit goes past 2.5 of it', () => {
    for (const memory of [0, 0.5, 1]) {
      const all: number[] = [];
      for (let seed = 0; seed < 60; seed++) all.push(...leans(sixteenths(64), drift({ seed, timingMs: 4, anchor: 0, memory })));
      const sd = Math.sqrt(all.reduce((s, x) => s + x * x, 0) / all.length);
      expect(sd).toBeGreaterThan(3.4);
      expect(sd).toBeLessThan(4.4);
      expect(Math.max(...all.map(Math.abs))).toBeLessThanOrEqual(10 + 1e-6);
    }
  });

  test('the slow curve falls as 1/f: its power drops by about a half an octave, neighbours stay alike', () => {
    const N = 512;
    const seeds = 40;
    // 2 to 64 cycles in 32 bars.
    const [lowest, highest] = [2, 64];
    const power = new Float64Array(highest + 1);
    const wave = Float64Array.from({ length: N }, (_, i) => Math.cos((2 * Math.PI * i) / N));
    const correlation = new Map([
      [1, 0],
      [4, 0],
      [16, 0],
      [64, 0],
    ]);
    for (let seed = 1; seed <= seeds; seed++) {
      const curve = new SlowCurve(seed * 7919, meterMapOf(smallPart([])), 32);
      const x = Float64Array.from({ length: N }, (_, i) => curve.at(ticks(i * STEP)));
      for (const lag of correlation.keys()) {
        let sum = 0;
        for (let i = 0; i + lag < N; i++) sum += (x[i] as number) * (x[i + lag] as number);
        correlation.set(lag, (correlation.get(lag) as number) + sum / (N - lag) / seeds);
      }
      for (let k = lowest; k <= highest; k++) {
        let re = 0;
        let im = 0;
        for (let i = 0; i < N; i++) {
          re += (x[i] as number) * (wave[(k * i) % N] as number);
          im += (x[i] as number) * (wave[(k * i + N / 4) % N] as number);
        }
        power[k] = (power[k] as number) + re * re + im * im;
      }
    }
    const [r1, r4, r16, r64] = [...correlation.values()] as [number, number, number, number];
    expect(r1).toBeGreaterThan(0.75);
    expect(r1).toBeGreaterThan(r4);
    expect(r4).toBeGreaterThan(r16);
    expect(r16).toBeGreaterThan(r64);
    expect(r64).toBeGreaterThan(0.05);
    // Slope of log power over log frequency.
    const points = Array.from(
      { length: highest - lowest + 1 },
      (_, i) => [Math.log(i + lowest), Math.log(power[i + lowest] as number)] as const,
    );
    const mx = points.reduce((s, p) => s + p[0], 0) / points.length;
    const my = points.reduce((s, p) => s + p[1], 0) / points.length;
    const slope = points.reduce((s, p) => s + (p[0] - mx) * (p[1] - my), 0) / points.reduce((s, p) => s + (p[0] - mx) ** 2, 0);
    expect(slope).toBeGreaterThan(-1.45);
    expect(slope).toBeLessThan(-0.7);
  });

  test('editing one hit never moves another’s: a hit added, removed, softened or moved', () => {
    fc.assert(
      fc.property(partArbitrary, fc.nat(), fc.integer({ min: 0, max: 3 }), (random, n, edit) => {
        const hits = random.hits.map(({ nudge: _n, ...h }) => ({ ...h, home: ticks(0) }));
        fc.pre(hits.length > 2);
        const feel = feelOf(drift({ anchor: 0 }), { ...DEFAULT_MOVES.accents, jitter: 9 });
        const one = hits[n % hits.length] as Hit;
        const others = hits.filter((h) => !(h.voice === one.voice && h.tick === one.tick));
        const changed = {
          0: others,
          1: [...others, { ...one, velocity: 1 as Hit['velocity'] }],
          2: [...others, { ...one, tick: ticks(one.tick + 1) }],
          3: [...hits, { ...one, id: 'more', voice: 'cowbell' }],
        }[edit] as Hit[];
        const performed = (list: Hit[]) => {
          const sorted = [...list].sort((a, b) => a.tick - b.tick || a.key - b.key);
          const raw = performPart({ ...random, hits: sorted, feel });
          return new Map(sorted.map((h, i) => [h.id, raw.velocities[i]]));
        };
        const before = performed(hits);
        const after = performed(changed);
        for (const h of others) expect(after.get(h.id)).toBe(before.get(h.id));
      }),
    );
  });
});

test('spread: hats, then kick, then snare; the whole width within 0.7 to 1.3 of what was asked for; alone nothing moves', () => {
  const part = at(['snare', 4 * STEP, 90], ['kick', 4 * STEP, 90], ['hat-closed', 4 * STEP, 90], ['snare', 8 * STEP, 90]);
  const times = new Map(
    part.hits.map((h, i) => [`${h.voice}${h.tick / STEP}`, timesOf(part, { ...DEFAULT_MOVES.apart, ms: 10 })[i] as number]),
  );
  const off = (name: string, step: number) => ((times.get(name) as number) - step * STEP) / MS;
  expect(off('kick4', 4)).toBeCloseTo(0, 6);
  expect(off('hat-closed4', 4)).toBeCloseTo(-off('snare4', 4), 6);
  expect(off('snare4', 4)).toBeGreaterThanOrEqual(3.5);
  expect(off('snare4', 4)).toBeLessThanOrEqual(6.5);
  expect(off('snare8', 8)).toBe(0);
  const snareFirst = timesOf(part, { ...DEFAULT_MOVES.apart, ms: 10, order: ['snare'] });
  expect(snareFirst[part.hits.findIndex((h) => h.voice === 'snare' && h.tick === 4 * STEP)]).toBeLessThan(4 * STEP);
});

test('accents: contrast around the pivot, level by place, scale, addition, limits, in this order', () => {
  const accents = (change: Partial<AccentsMove>): Move => ({ ...DEFAULT_MOVES.accents, ...change });
  const part = at(['hat-closed', 0, 100], ['hat-closed', 2 * STEP, 70]);
  // (100 - 80) x 2 + 80 = 120, x 0.5 x 1.1 = 66, + 3; (70 - 80) x 2 + 80 = 60, x 0.5 x 0.9 = 27, + 3.
  expect(velocitiesOf(part, accents({ grid: '1/8', levels: [1.2, 0.8], depth: 0.5, pivot: 80, contrast: 2, scale: 0.5, add: 3 }))).toEqual([
    69, 30,
  ]);
  // Without a pivot the mean in scope, 85: contrast 0 makes all alike.
  expect(velocitiesOf(part, accents({ contrast: 0 }))).toEqual([85, 85]);
  expect(velocitiesOf(part, accents({ contrast: 0, scope: { steps: { grid: '1/8', of: 2, at: [1] } } }))).toEqual([100, 70]);
  expect(velocitiesOf(part, accents({ scale: 2, floor: 40, ceiling: 111 }))).toEqual([111, 111]);
  expect(velocitiesOf(part, accents({ scale: 0.1, floor: 40 }))).toEqual([40, 40]);
  // Levels longer than a bar run on over the bar line.
  const two = at(['kick', 0, 100], ['kick', 16 * STEP, 100]);
  expect(velocitiesOf(two, accents({ grid: '1/4', levels: [1, 1, 1, 1, 0.5, 1, 1, 1] }))).toEqual([100, 50]);
  const choked: Part = { ...part, hits: part.hits.map((h) => ({ ...h, choke: true })) };
  expect(velocitiesOf(choked, accents({ scale: 0.5 }))).toEqual([100, 70]);
});

test('two moves of a kind side by side: 60 % in odd bars, 70 % in even ones, hats alone', () => {
  const scope = (at: number): Scope => ({ voices: ['hat-closed'], bars: { every: 2, at: [at] } });
  const part = at(['hat-closed', STEP, 90], ['hat-closed', 17 * STEP, 90], ['snare', 17 * STEP, 90]);
  const found = timesOf(
    part,
    { kind: 'swing', division: '1/16', percent: 60, scope: scope(1) },
    { kind: 'swing', division: '1/16', percent: 70, scope: scope(2) },
  );
  expect(part.hits.map((h, i) => [h.voice, Math.round(((found[i] as number) / STEP) * 1000) / 1000])).toEqual([
    ['hat-closed', 1.2],
    ['snare', 17],
    ['hat-closed', 17.4],
  ]);
});

test('a seed of its own beats the feel’s; without one the ordinal among the kind counts, off or on', () => {
  const feel = feelOf({ ...DEFAULT_MOVES.humanize, on: false }, { ...DEFAULT_MOVES.lay }, { ...DEFAULT_MOVES.humanize });
  const alone = feelOf({ ...DEFAULT_MOVES.humanize });
  expect(seedOfMove(feel, 0)).toBe(seedOfMove(alone, 0));
  expect(seedOfMove(feel, 2)).not.toBe(seedOfMove(alone, 0));
  expect(seedOfMove(feel, 2)).toBe(seedOfMove({ ...feel, moves: [{ ...DEFAULT_MOVES.humanize }, { ...DEFAULT_MOVES.humanize }] }, 1));
  expect(seedOfMove(feelOf({ ...DEFAULT_MOVES.humanize, seed: 99 }), 0)).toBe(99);
});

test('moves of nothing change nothing', () => {
  const nothing: Move[] = [
    { ...DEFAULT_MOVES.quantize, strength: 0 },
    { kind: 'swing', division: '1/8', percent: 50 },
    { kind: 'lay', ms: 0 },
    { ...DEFAULT_MOVES.humanize, timingMs: 0, velocityPercent: 0 },
    { ...DEFAULT_MOVES.apart, ms: 0 },
    { ...DEFAULT_MOVES.accents },
  ];
  fc.assert(
    fc.property(partArbitrary, (random) => {
      const part: Part = { ...random, hits: random.hits.map(({ nudge: _n, ...h }) => h) };
      const p = performPart({ ...part, feel: feelOf(...nothing) });
      part.hits.forEach((h, i) => {
        expect(p.ticks[i]).toBeCloseTo(h.tick, 6);
        expect(p.velocities[i]).toBe(h.velocity);
      });
    }),
  );
});

test('whatever the moves: written order within a voice, velocities 1 to 127, sway in a straight line, excerpts like the whole', () => {
  fc.assert(
    fc.property(partArbitrary, fc.array(moveArbitrary, { maxLength: 5 }), (random, moves) => {
      const part: Part = { ...random, hits: random.hits.map(({ nudge: _n, ...h }) => h), feel: { ...random.feel, sway: 1, moves } };
      const p = performPart(part);
      const last = new Map<string, number>();
      part.hits.forEach((h, i) => {
        expect(p.ticks[i]).toBeGreaterThanOrEqual(last.get(h.voice) ?? -Infinity);
        expect(Number.isFinite(p.ticks[i])).toBe(true);
        last.set(h.voice, p.ticks[i] as number);
        expect(p.velocities[i]).toBeGreaterThanOrEqual(1);
        expect(p.velocities[i]).toBeLessThanOrEqual(127);
      });
      expect([...performPart({ ...part, feel: { ...part.feel, sway: 0 } }).ticks]).toEqual(part.hits.map((h) => h.tick));
    }),
    { numRuns: 200 },
  );
});

test('a hit out of every scope stays exactly', () => {
  fc.assert(
    fc.property(partArbitrary, feelArbitrary, fc.array(moveArbitrary, { minLength: 1, maxLength: 4 }), (random, feel, moves) => {
      const part: Part = { ...random, feel: { ...feel, moves: moves.map((m) => ({ ...m, scope: { voices: ['snare'] } })) } };
      const p = performPart({ ...part, hits: part.hits.map(({ nudge: _n, ...h }) => h) });
      part.hits.forEach((h, i) => {
        if (h.voice === 'snare') return;
        expect(p.ticks[i]).toBe(h.tick);
        expect(p.velocities[i]).toBe(h.velocity);
      });
    }),
  );
});

test('lay and nudges follow the tempo map at the hit', () => {
  const part = at(['kick', 0, 90]);
  const nudged: Part = { ...part, hits: part.hits.map((h) => ({ ...h, nudge: { ms: milliseconds(5), velocity: 0 } })) };
  near(timesOf(nudged, { kind: 'lay', ms: 10 }), [15 * MS]);
});
