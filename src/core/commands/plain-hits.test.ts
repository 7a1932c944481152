import fc from 'fast-check';
import { feelArbitrary, newIds, ornamentArbitrary, smallPart } from '@tests/support/arbitraries';
import { EMPTY_FEEL } from '../model/feel';
import type { Hit, Part } from '../model/part';
import { performPart } from '../perform/perform';
import { makeProgram } from '../playback/program';
import { endOfPart } from '../part/part-time';
import { renderPart, strokeSource } from '../render/render-part';
import { soundingPart } from '../song/sounding';
import { ticks, TICKS_PER_QUARTER } from '../units';
import { copyHits, pasteClip, pasteOverBars } from './copy';
import { convertToPlain, countNotPlain, NOT_PLAIN, type NotPlain } from './plain-hits';

const ALL = new Set(NOT_PLAIN);
const ROWS = ['kick', 'snare', 'hat-closed', 'shaker'];

/** A stroke as the player gets it in the first pass. */
interface PlayedStroke {
  microseconds: number;
  rest: (number | string)[];
}

/** The strokes of the first pass, sorted by random value: row, velocity, timbre. */
function played(part: Part): PlayedStroke[] {
  const sounding = soundingPart(part);
  const range = { start: ticks(0), end: endOfPart(part), loop: true };
  const program = makeProgram(
    sounding,
    performPart(sounding),
    range,
    () => 0,
    (voice) => ROWS.indexOf(voice),
  );
  return [...program.offsets.keys()]
    .map((i) => ({
      microseconds: program.offsets[i]! * 1e6,
      rest: [
        program.dice[i]!,
        ROWS[program.voices[i]!]!,
        program.velocities[i]!,
        program.pans[i]!,
        Math.round(program.pitches[i]! * 1e4) + 0,
        program.brightness[i]!,
      ],
    }))
    .sort((a, b) => (a.rest[0] as number) - (b.rest[0] as number) || a.microseconds - b.microseconds);
}

/** Three microseconds are less than a sample. */
function expectSame(now: Part, before: Part) {
  const [ours, theirs] = [played(now), played(before)];
  expect(ours.map((s) => s.rest)).toEqual(theirs.map((s) => s.rest));
  ours.forEach((s, i) => expect(Math.abs(s.microseconds - theirs[i]!.microseconds)).toBeLessThan(3));
}

const flam = { kind: 'flam', strokes: 2, spacingMs: 22, level: 0.5, slope: 0 } as const;
const roll = { kind: 'roll', strokes: 6, length: ticks(TICKS_PER_QUARTER / 2), speed: 0.3, to: 0.4, bend: 0 } as const;
const withEverything: Part = (() => {
  const base = smallPart(
    [
      ['kick', 0, 110],
      ['snare', 1, 100],
      ['kick', 2.5, 104],
      ['snare', 3, 96],
      ['shaker', 0, 70],
      ['shaker', 0.25, 50],
      ...Array.from({ length: 8 }, (_, i): [string, number, number] => ['hat-closed', i / 2, i % 2 ? 60 : 84]),
    ],
    {
      bars: 2,
      feel: {
        ...EMPTY_FEEL,
        seed: 7,
        moves: [
          { kind: 'swing', division: '1/16', percent: 58 },
          { kind: 'humanize', timingMs: 6, velocityPercent: 10, memory: 0.4, anchor: 0.5, span: 4 },
        ],
      } as Part['feel'],
    },
  );
  const change: Record<string, Partial<Hit>> = {
    h1: { ornament: flam },
    h3: { ornament: roll },
    h2: { passes: { every: 4, at: [2, 3] } },
    h0: { passes: { every: 2, at: [1] } },
    h6: { chance: 50 },
    h8: { chance: 50 },
    h10: { chance: 50 },
    h12: { chance: 50, muted: true },
  };
  return {
    ...base,
    rows: base.rows.map((r) => (r.voice === 'shaker' ? { ...r, cycle: { grid: '1/16', steps: 3 } } : r)),
    hits: base.hits.map((h) => ({ ...h, ...change[h.id] })),
  };
})();

test.each<[string, readonly NotPlain[]]>([
  ['loop lengths', ['loops']],
  ['passes', ['passes']],
  ['probability', ['probability']],
  ['ornaments under a feel', ['ornaments']],
  ['the feel', ['feel']],
  ['all of it', NOT_PLAIN],
])('%s: the player gets the same strokes, random alternates included', (_what, kinds) => {
  const { part, ids } = convertToPlain(withEverything, new Set(kinds), newIds());
  expectSame(part, withEverything);
  const left = countNotPlain(part);
  for (const kind of kinds) expect(left[kind]).toBe(0);
  const taken: readonly NotPlain[] = kinds.includes('feel') ? NOT_PLAIN : kinds;
  // A deleted hit takes its other properties with it.
  for (const kind of NOT_PLAIN)
    if (!taken.includes(kind) && kind !== 'probability') expect(left[kind]).toBe(countNotPlain(withEverything)[kind]);
  expect(ids.length).toBeGreaterThan(0);
});

// The feel varies from pass to pass and is written as in the first.
test.each([
  ['all of it', NOT_PLAIN, 1],
  ['loop lengths', ['loops'] as const, 2],
])('%s: what is rendered differs by less than one step of 16 bits', (_what, kinds, passes) => {
  const rate = 44_100;
  const options = { rate, ending: 'ring', volume: 0.8, strokes: strokeSource(rate) } as const;
  const steady = { ...withEverything, hits: withEverything.hits.map(({ passes: _p, chance: _c, ...h }) => h) };
  const before = renderPart(steady, { ...options, passes });
  const after = renderPart(convertToPlain(steady, new Set<NotPlain>(kinds), newIds()).part, { ...options, passes });
  let most = 0;
  before.left.forEach((x, i) => (most = Math.max(most, Math.abs(x - (after.left[i] ?? 0)), Math.abs(before.right[i]! - after.right[i]!))));
  expect(after.left.length).toBe(before.left.length);
  expect(most * 32_768).toBeLessThan(1);
});

test('a loop of 3 sixteenths over two bars becomes 11 repeats of two hits', () => {
  const { part, ids, removed } = convertToPlain(withEverything, new Set<NotPlain>(['loops']), newIds());
  const at = part.hits.filter((h) => h.voice === 'shaker').map((h) => (h.tick / TICKS_PER_QUARTER) * 4);
  expect(at).toEqual(
    Array.from({ length: 11 }, (_, k) => [3 * k, 3 * k + 1])
      .flat()
      .filter((s) => s < 32),
  );
  expect(part.rows.some((r) => r.cycle)).toBe(false);
  expect([ids.length, removed]).toEqual([at.length, 0]);
});

test('a selection leaves the others; locked hits stay; the feel is not converted for a selection', () => {
  const ids = new Set(['h1']);
  expect(countNotPlain(withEverything, ids)).toEqual({ loops: 0, passes: 0, probability: 0, ornaments: 1, feel: 0 });
  const { part } = convertToPlain(withEverything, ALL, newIds(), ids);
  expect(part.feel).toBe(withEverything.feel);
  expect(part.hits.find((h) => h.id === 'h3')?.ornament).toEqual(roll);
  expect(part.hits.filter((h) => h.voice === 'snare').length).toBe(4);
  const locked = { ...withEverything, hits: withEverything.hits.map((h) => (h.id === 'h1' ? { ...h, locked: true } : h)) };
  expect(convertToPlain(locked, ALL, newIds(), ids).part).toEqual(locked);
});

test('random parts play the same strokes after converting', () => {
  const hitOf = fc.record({
    voice: fc.constantFrom(...ROWS),
    step: fc.nat(31),
    level: fc.integer({ min: 1, max: 127 }),
    chance: fc.option(fc.integer({ min: 1, max: 99 }), { nil: undefined }),
    passes: fc.option(fc.constantFrom({ every: 2, at: [1] }, { every: 3, at: [2, 3] }), { nil: undefined }),
    ornament: fc.option(
      ornamentArbitrary.filter((o) => !('voice' in o)),
      { nil: undefined },
    ),
  });
  fc.assert(
    fc.property(
      fc.uniqueArray(hitOf, { minLength: 1, maxLength: 20, selector: (h) => `${h.voice} ${h.step}` }),
      // A hit's pan ends at 100 %, so a wider spread could not be kept.
      feelArbitrary.filter(({ moves }) => !moves.some((m) => m.kind === 'timbre' && (m.pan ?? 0) > 30)),
      fc.option(fc.constantFrom(3, 5, 7), { nil: undefined }),
      fc.subarray([...NOT_PLAIN], { minLength: 1 }),
      (some, feel, steps, kinds) => {
        const base = smallPart(
          some.map((h) => [h.voice, h.step / 4, h.level]),
          { bars: 2, feel },
        );
        const given = new Map(some.map((h) => [`${h.voice} ${h.step / 4}`, h]));
        const part: Part = {
          ...base,
          rows: base.rows.map((r) => (steps && r.voice === 'shaker' ? { ...r, cycle: { grid: '1/16', steps } } : r)),
          hits: base.hits.map((h): Hit => {
            const { chance, passes, ornament } = given.get(`${h.voice} ${h.tick / TICKS_PER_QUARTER}`)!;
            return { ...h, ...(chance ? { chance } : {}), ...(passes ? { passes } : {}), ...(ornament ? { ornament } : {}) };
          }),
        };
        const after = convertToPlain(part, new Set(kinds), newIds()).part;
        expectSame(after, part);
      },
    ),
    { numRuns: 60 },
  );
});

test('copies of a converted stroke do not repeat its alternates', () => {
  const { part } = convertToPlain(withEverything, new Set<NotPlain>(['loops']), newIds());
  const copied = part.hits.find((h) => h.variation !== undefined)!;
  const pasted = pasteClip(part, copyHits(part, new Set([copied.id]))!, ticks(4.25 * TICKS_PER_QUARTER), () => 'p0', {
    onto: 'replace',
    row: 'kick',
  });
  expect(pasted.part.hits.find((h) => h.id === 'p0')).not.toHaveProperty('variation');
});

test('nothing locked is lost: a looped row with a locked hit stays, and so does the feel', () => {
  const locked = { ...withEverything, hits: withEverything.hits.map((h) => (h.id === 'h5' ? { ...h, locked: true } : h)) };
  const { part } = convertToPlain(locked, ALL, newIds());
  const shakers = (p: Part) => p.hits.filter((h) => h.voice === 'shaker');
  expect(shakers(part)).toEqual(shakers(locked));
  expect(part.rows.find((r) => r.voice === 'shaker')!.cycle).toEqual({ grid: '1/16', steps: 3 });
  expect(part.feel).toBe(locked.feel);
  expect(countNotPlain(part)).toMatchObject({ loops: 1, passes: 0, probability: 0, ornaments: 0 });
});

test('what would become more than 160,000 hits is refused before it is made', () => {
  const short: Part = {
    ...smallPart([['shaker', 0, 90]], { bars: 4000 }),
    rows: [{ voice: 'shaker', cycle: { grid: '1/64T', steps: 1 } }],
  };
  expect(() => convertToPlain(short, ALL, newIds())).toThrow(expect.objectContaining({ code: 'too-many-hits' }));
  const rolls = smallPart(Array.from({ length: 8 }, (_, i): [string, number, number] => ['snare', i / 2, 90]));
  const clip = copyHits(rolls, new Set(rolls.hits.map((h) => h.id)))!;
  expect(() => pasteOverBars(rolls, clip, { from: 0, to: 20_000 }, newIds(), { onto: 'replace' })).toThrow(
    expect.objectContaining({ code: 'too-many-hits' }),
  );
});
