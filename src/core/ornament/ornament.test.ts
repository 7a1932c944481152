import fc from 'fast-check';
import { newIds, ornamentArbitrary, partArbitrary, smallPart } from '@tests/support/arbitraries';
import { EMPTY_FEEL, type Feel } from '../model/feel';
import { performPart } from '../perform/perform';
import { expandOrnaments, gatherOrnaments, setOrnament } from '../commands/ornaments';
import { bake } from '../commands/moves';
import { mergeRows, setRowVoice } from '../commands/rows';
import { oneTake } from '../playback/mixer';
import { Player } from '../playback/player';
import { makeProgram } from '../playback/program';
import type { ScheduledHit } from '../playback/sequencer';
import type { Part } from '../model/part';
import { exportPart } from '../smf/export-part';
import { importPart } from '../smf/import-part';
import { drumLanes, listLanes } from '../smf/lanes';
import { readSmf } from '../smf/read';
import { milliseconds, ticks, TICKS_PER_QUARTER } from '../units';
import type { Flam, Ornament, Roll } from '../model/ornament';
import { strokesOf, strokesOfHit } from './strokes';
import { rollCount, rollLength, rollPlace } from '../part/roll-strokes';
import { newOrnament } from './all';

const Q = TICKS_PER_QUARTER;
const roll = (change: Partial<Roll> = {}): Roll => ({ ...newOrnament('roll'), ...change });
const withOrnament = (part: Part, ornament: Ornament, index = 0): Part => setOrnament(part, new Set([part.hits[index]!.id]), ornament);
const strokes = (part: Part, index = 0) => strokesOfHit(part, performPart(part), index);
const all = (part: Part): ReadonlySet<string> => new Set(part.hits.map((h) => h.id));

test('a roll in 1/32 goes on to the next hit, at most a beat; a count divides the length', () => {
  const alone = withOrnament(smallPart([['snare', 0, 100]]), roll({ to: 1 }));
  expect(strokes(alone).map((s) => s.tick)).toEqual([0, 1, 2, 3, 4, 5, 6, 7].map((k) => k * (Q / 8)));
  const followed = withOrnament(
    smallPart([
      ['snare', 0, 100],
      ['kick', 0.25, 90],
      ['snare', 0.5, 100],
    ]),
    roll({ to: 1 }),
  );
  expect(rollLength(followed, 0)).toBe(Q / 2);
  expect(strokes(followed)).toHaveLength(4);
  const counted = withOrnament(followed, roll({ strokes: 3, to: 1 }));
  expect(strokes(counted).map((s) => s.tick)).toEqual([0, Q / 6, Q / 3]);
  expect(strokes(withOrnament(followed, roll({ strokes: 3, length: ticks(Q) }))).map((s) => s.tick)).toEqual([0, Q / 3, (2 * Q) / 3]);
  // In 6/8 a beat is a dotted quarter.
  expect(
    rollLength(withOrnament(smallPart([['snare', 0, 100]], { meter: [{ tick: ticks(0), numerator: 6, denominator: 8 }] }), roll()), 0),
  ).toBe(1.5 * Q);
});

test('a stroke count of a grid that does not divide the length: the last step is cut short', () => {
  expect(rollCount({ strokes: '1/16T' }, Q)).toBe(6);
  expect(rollCount({ strokes: '1/16' }, Q * 0.9)).toBe(4);
  expect(rollCount({ strokes: '1/16' }, 1)).toBe(1);
});

test('velocities ramp from the hit to a part of it, evenly or bent, rounded half up', () => {
  const at = (change: Partial<Roll>) =>
    strokes(withOrnament(smallPart([['snare', 0, 100]]), roll({ strokes: 5, ...change }))).map((s) => s.velocity);
  // 100, 87.5, 75, 62.5, 50.
  expect(at({ to: 0.5 })).toEqual([100, 88, 75, 63, 50]);
  // Half of a half step late: x^4 = 0, 1/256, 1/16, 81/256, 1.
  expect(at({ to: 0.5, bend: 1 })).toEqual([100, 100, 97, 84, 50]);
  expect(at({ to: 2 })).toEqual([100, 125, 127, 127, 127]);
});

test('accelerating, the gaps shrink; slowing is the mirror; ends stay', () => {
  expect(rollPlace(0.5, 1)).toBeCloseTo(0.7, 12);
  expect(rollPlace(0.5, -1)).toBeCloseTo(0.3, 12);
  const ticksAt = (speed: number) => strokes(withOrnament(smallPart([['snare', 0, 100]]), roll({ strokes: 8, speed }))).map((s) => s.tick);
  const gaps = ticksAt(0.7)
    .slice(1)
    .map((t, i) => t - ticksAt(0.7)[i]!);
  gaps.slice(1).forEach((gap, i) => expect(gap).toBeLessThan(gaps[i]!));
  expect([rollPlace(0, 0.7), rollPlace(1, 0.7)]).toEqual([0, 1]);
});

test('flam, drag, ruff: grace strokes keep their ms before the hit, at every tempo and wherever the feel puts it', () => {
  const flam: Flam = { kind: 'flam', strokes: 2, spacingMs: 25, level: 0.5, slope: 0.4 };
  for (const bpm of [60, 120, 200]) {
    const feel: Feel = { ...EMPTY_FEEL, moves: [{ kind: 'lay', ms: 12 }] };
    const part = withOrnament(
      smallPart([['snare', 1, 100]], { feel, tempo: [{ tick: ticks(0), microsecondsPerQuarter: 60_000_000 / bpm }] }),
      flam,
    );
    const perMs = (Q * bpm) / 60_000;
    const found = strokes(part);
    [12, 12 - 50, 12 - 25].forEach((ms, k) => expect(found[k]!.tick).toBeCloseTo(Q + ms * perMs, 4));
    // Mean level 50 %, the last 40 % of it louder than the first: 40 and 60.
    expect(found.map((s) => s.velocity)).toEqual([100, 40, 60]);
  }
});

test('an echo falls at its distance, each softer, on another voice if wished; what is too soft is not played', () => {
  const part = withOrnament(
    smallPart([
      ['snare', 0, 100],
      ['rim', 3, 60],
    ]),
    { kind: 'echo', steps: 3, grid: '1/16', repeats: 3, decay: 0.65, voice: 'rim' },
  );
  // 100, 65, 42.25, 27.46.
  expect(strokes(part).map((s) => [s.tick / Q, s.velocity, s.voice, s.key])).toEqual([
    [0, 100, 'snare', 38],
    [0.75, 65, 'rim', 37],
    [1.5, 42, 'rim', 37],
    [2.25, 27, 'rim', 37],
  ]);
  const faint = withOrnament(smallPart([['snare', 0, 10]]), { kind: 'echo', steps: 1, grid: '1/8T', repeats: 16, decay: 0.5 });
  // 10, 5, 2.5, 1.25, 0.625 and then under one half.
  expect(strokes(faint).map((s) => s.velocity)).toEqual([10, 5, 3, 1, 1]);
  expect(strokes(faint)[1]!.tick).toBe(Q / 3);
});

test('echoes follow their row into another voice', () => {
  const part = withOrnament(
    smallPart([
      ['snare', 0, 100],
      ['rim', 3, 60],
    ]),
    { ...newOrnament('echo'), voice: 'rim' },
  );
  for (const changed of [setRowVoice(part, 'rim', 'clap'), mergeRows(part, 'rim', 'clap')])
    expect(changed.hits[0]!.ornament).toMatchObject({ voice: 'clap' });
});

test('a choke sounds nothing, whatever it carries, and is given nothing', () => {
  const part = smallPart([['hat-open', 0, 100]]);
  const choked = { ...part, hits: part.hits.map((h) => ({ ...h, choke: true, ornament: roll() })) };
  expect(strokes(choked)).toHaveLength(1);
  expect(setOrnament({ ...part, hits: [{ ...part.hits[0]!, choke: true }] }, all(part), roll()).hits[0]!.ornament).toBeUndefined();
});

/** A part whose hits carry random ornaments, as many as there are. */
const ornamented = fc
  .tuple(partArbitrary, fc.array(ornamentArbitrary, { minLength: 60, maxLength: 60 }))
  .map(([part, ornaments]): Part => ({
    ...part,
    hits: part.hits.map((h, i) => (i % 3 === 0 ? { ...h, ornament: ornaments[i % 60]! } : h)),
  }));

test('written out, the same notes are exported as before, where no feel moves them', () => {
  fc.assert(
    fc.property(ornamented, (random) => {
      const part: Part = {
        ...random,
        origin: ticks(0),
        feel: EMPTY_FEEL,
        hits: random.hits
          .map(({ nudge: _nudge, choke: _choke, ...h }) => ({ ...h, tick: ticks(h.tick + 2 * Q) }))
          .filter((h) => h.tick < 8 * Q),
        bars: 40,
      };
      const expanded = expandOrnaments(part, all(part), newIds()).part;
      expect(expanded.hits.some((h) => h.ornament)).toBe(false);
      const notes = (p: Part): string[] => {
        const found = strokesOf(p, performPart(p));
        return [...found.ticks].map((t, s) => `${Math.floor(t + 0.5)} ${found.keys[s]} ${found.velocities[s]}`).sort();
      };
      expect(notes(expanded)).toEqual(notes(part));
    }),
    { numRuns: 60 },
  );
});

test('only the strokes of its own hit depend on an ornament; baking keeps it, and its length', () => {
  fc.assert(
    fc.property(ornamented, (random) => {
      // A roll of thirds keeps its pair straight, the row's other hits too: all pairs swing here.
      const part: Part = {
        ...random,
        feel: { ...random.feel, moves: random.feel.moves.map((m) => (m.kind === 'swing' ? { ...m, lines: 'all' as const } : m)) },
      };
      const plain: Part = { ...part, hits: part.hits.map(({ ornament: _ornament, ...h }) => h) };
      const found = strokesOf(part, performPart(part));
      const own = [...found.numbers].flatMap((n, s) => (n === 0 ? [[found.hits[s], found.ticks[s], found.velocities[s]]] : []));
      const without = strokesOf(plain, performPart(plain));
      expect(own).toEqual([...without.hits].map((h, s) => [h, without.ticks[s], without.velocities[s]]));
      const baked = bake(part);
      expect(baked.hits.filter((h) => h.ornament).length).toBe(part.hits.filter((h) => h.ornament).length);
    }),
    { numRuns: 60 },
  );
});

describe('plain hits that are one ornament', () => {
  test('an even roll with a falling ramp, and a flam, become one hit each; what is neither stays', () => {
    const played = smallPart([
      ...[0, 1, 2, 3].map((k): [string, number, number] => ['snare', k / 8, 110 - 20 * k]),
      ['tom-floor', 1 - 0.05, 50],
      ['tom-floor', 1, 100],
      ['kick', 0, 90],
      ['kick', 2, 90],
      // Sixteenths are a pattern, not a roll.
      ...[0, 0.25, 0.5, 0.75].map((q): [string, number, number] => ['hat-closed', q, 80]),
    ]);
    const { part, ids } = gatherOrnaments(played, all(played));
    expect(part.hits.filter((h) => h.voice === 'hat-closed')).toHaveLength(4);
    expect(part.hits.filter((h) => h.voice !== 'hat-closed').map((h) => [h.voice, h.tick / Q, h.ornament?.kind])).toEqual([
      ['kick', 0, undefined],
      ['snare', 0, 'roll'],
      ['tom-floor', 1, 'flam'],
      ['kick', 2, undefined],
    ]);
    expect(ids).toHaveLength(2);
    expect(part.hits.find((h) => h.ornament?.kind === 'roll')!.ornament).toEqual({
      kind: 'roll',
      strokes: 4,
      length: Q / 2,
      speed: 0,
      to: 0.455,
      bend: 0,
    });
    // 0.05 quarters at 120 BPM are 25 ms.
    expect(part.hits.find((h) => h.ornament?.kind === 'flam')!.ornament).toEqual({
      kind: 'flam',
      strokes: 1,
      spacingMs: 25,
      level: 0.5,
      slope: 0,
    });
  });

  test('written out and found again, times stay within 4 ms and velocities within 8', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.record({
            kind: fc.constant('roll' as const),
            strokes: fc.integer({ min: 6, max: 12 }),
            length: fc.integer({ min: Q / 2, max: Q }).map(ticks),
            speed: fc.constant(0),
            to: fc.double({ min: 0.3, max: 1.2, noNaN: true }),
            bend: fc.constant(0),
          }),
          fc.record({
            kind: fc.constant('flam' as const),
            strokes: fc.integer({ min: 1, max: 3 }),
            spacingMs: fc.integer({ min: 15, max: 40 }),
            level: fc.double({ min: 0.3, max: 0.7, noNaN: true }),
            slope: fc.double({ min: -0.5, max: 0.5, noNaN: true }),
          }),
        ),
        (ornament) => {
          const part = withOrnament(smallPart([['snare', 2, 90]], { bars: 2 }), ornament);
          const expanded = expandOrnaments(part, all(part), newIds()).part;
          const { part: found } = gatherOrnaments(expanded, all(expanded));
          expect(found.hits.map((h) => h.ornament?.kind)).toEqual([ornament.kind]);
          const [was, is] = [part, found].map((p) => [...strokes(p)].sort((a, b) => a.tick - b.tick));
          expect(is).toHaveLength(was!.length);
          const perMs = Q / 500;
          was!.forEach((s, k) => {
            expect(Math.abs(is![k]!.tick - s.tick)).toBeLessThanOrEqual(4 * perMs);
            expect(Math.abs(is![k]!.velocity - s.velocity)).toBeLessThanOrEqual(8);
          });
        },
      ),
    );
  });
});

test('50 random ornaments, swung and tightened, at three tempos: the player, the audio and the exported MIDI have the same strokes', () => {
  const RATE = 8_000;
  const ornaments = fc.sample(ornamentArbitrary, { numRuns: 50, seed: 7 });
  const feel: Feel = {
    ...EMPTY_FEEL,
    moves: [
      { kind: 'quantize', grid: '1/16', strength: 0.5, outer: 0.6, innerMs: 0, swingPercent: 50 },
      { kind: 'swing', division: '1/16', percent: 62 },
    ],
  };
  for (const bpm of [72, 120, 171.3]) {
    const tempo = [{ tick: ticks(0), microsecondsPerQuarter: 60_000_000 / bpm }];
    // A bar apart, a little off the grid, so that strokes of one hit never meet those of the next.
    const base = smallPart(
      ornaments.map((_, i): [string, number, number] => ['snare', 4 * i + 4 + 0.25 * (i % 4) + 0.01 * (i % 5), 40 + i]),
      { bars: 56, feel, tempo },
    );
    const part = base.hits.reduce<Part>((p, h, i) => setOrnament(p, new Set([h.id]), ornaments[i]!), base);
    const performance = performPart(part);
    const found = strokesOf(part, performance);
    const expected = [...found.ticks]
      .map((tick, s) => ({ tick, key: found.keys[s]!, velocity: found.velocities[s]! }))
      .sort((a, b) => a.tick - b.tick);
    expect(expected.length).toBeGreaterThan(200);

    // Exported at the internal resolution's fifth, read by our reader: ticks rounded half up.
    const file = readSmf(exportPart(part, { ppq: 16128 }).bytes);
    const read = importPart(file, { name: 'read', lanes: drumLanes(file, listLanes(file)) }).part;
    expect(read.hits.map((h) => [h.tick, h.key, h.velocity])).toEqual(
      expected.map((s) => [Math.floor(s.tick / 5 + 0.5) * 5, s.key, s.velocity]),
    );

    // Without a room: what sounds is what started.
    const program = makeProgram(
      { ...part, mix: { room: 0 } },
      performance,
      { start: ticks(0), end: ticks(56 * 4 * Q), loop: false },
      (hit, stroke) => Number(hit.id.slice(1)) * 100 + stroke,
      () => 0,
    );
    const player = new Player(RATE, [oneTake(Float32Array.of(1))]);
    player.setPrograms({ performed: program, written: program });
    player.play(ticks(0));
    const onsets: ScheduledHit[] = [];
    const heard: number[] = [];
    const [left, right] = [new Float32Array(4096), new Float32Array(4096)];
    for (let frame = 0; frame < (program.length + 1) * RATE; frame += left.length) {
      onsets.push(...player.render(left, right, frame));
      left.forEach((sample, i) => sample !== 0 && heard.push(frame + i));
    }
    const frameOf = (tick: number): number => 0.1 * RATE + (tick / Q) * (60 / bpm) * RATE;
    expect(onsets.map((o) => o.velocity)).toEqual(expected.map((s) => s.velocity));
    expect(Math.max(...onsets.map((o, k) => Math.abs(o.frame - frameOf(expected[k]!.tick))))).toBeLessThanOrEqual(0.51);
    expect(heard).toEqual(onsets.map((o) => o.frame));
  }
});

test('nudges move the hit and its strokes alike', () => {
  const part = withOrnament(smallPart([['snare', 1, 100]]), { kind: 'flam', strokes: 1, spacingMs: 20, level: 0.5, slope: 0 });
  const nudged: Part = { ...part, hits: part.hits.map((h) => ({ ...h, nudge: { ms: milliseconds(10), velocity: -20 } })) };
  const shift = (10 * Q) / 500;
  expect(strokes(nudged).map((s) => s.velocity)).toEqual([80, 40]);
  strokes(nudged).forEach((s, k) => expect(s.tick).toBeCloseTo(strokes(part)[k]!.tick + shift, 4));
});
