import fc from 'fast-check';
import { smallPart } from '@tests/support/arbitraries';
import { performPart } from '../perform/perform';
import { putGroove } from '../commands/grooves';
import { bpm, ticks, TICKS_PER_QUARTER } from '../units';
import type { Groove, GrooveStep } from '../model/groove';
import { learnGroove } from '../learn/learn';
import { blendGrooves, stepsOfBlend } from './blend';
import { compareGrooves } from './compare';
import { mirrorGroove, resetStep, scaleGroove, setStep, smoothGroove } from './edit';
import { grooveAsPart, neutralPart } from './groove-part';
import { HOUSE_GROOVES } from './house-grooves';
import { meetingOf } from './meeting';
import { sampleGroove } from './sample';
import { stepsFor } from './steps';

const groove = (steps: readonly (readonly [offset: number, level: number])[], change: Partial<Groove> = {}): Groove => ({
  format: 'nod-sway/groove@1',
  name: 'test',
  meter: [4, 4],
  beats: 2,
  stepsPerBeat: 2,
  steps: steps.map(([offset, level]): GrooveStep => ({ offset, level, n: 1 })),
  ...change,
});
const four = groove([
  [0, 1],
  [0.2, 0.8],
  [-0.1, 1.2],
  [0.4, 1],
]);
const offsets = (g: Groove): number[] => g.steps.map((s) => s.offset);
const levels = (g: Groove): number[] => g.steps.map((s) => s.level);
const anyGroove = fc.constantFrom(...HOUSE_GROOVES);

describe('sampling', () => {
  test('steps as they are, straight lines between them, the nearest level, going round', () => {
    expect(sampleGroove(four, 0.5)).toEqual({ offset: 0.1, level: 0.8, n: 1 });
    // Half way from 0.2 to -0.1 of a step of half a quarter; the tie goes to the later level.
    expect(sampleGroove(four, 0.75)).toEqual({ offset: expect.closeTo(0.025, 12), level: 1.2, n: 0 });
    // A quarter of the way from the last step to the first of the next round.
    expect(sampleGroove(four, 3.625).offset).toBeCloseTo((0.4 * 0.75) / 2, 12);
    expect(sampleGroove(four, -0.5)).toEqual(sampleGroove(four, 1.5));
  });
});

describe('blending', () => {
  test('offsets and levels are mixed by the share', () => {
    const other = groove([
      [0.4, 1],
      [0, 1],
      [0.1, 0.8],
      [0, 0.5],
    ]);
    const mixed = blendGrooves(four, other, 0.25);
    expect(offsets(mixed)).toEqual([0.1, 0.15, -0.05, 0.3].map((o) => expect.closeTo(o, 12)));
    expect(levels(mixed)).toEqual([1, 0.85, 1.1, 0.875].map((o) => expect.closeTo(o, 12)));
    expect(blendGrooves(four, other, 0).steps).toEqual(four.steps);
    expect(blendGrooves(four, other, 1).steps).toEqual(other.steps);
  });

  test('steps of both; the longer length; eighths at 2:1 do not fit into sixteenths', () => {
    const thirds = groove(
      [
        [0, 1],
        [0.1, 1],
        [0, 1],
      ],
      { stepsPerBeat: 3, beats: 1 },
    );
    expect(
      stepsOfBlend(
        groove(
          [
            [0, 1],
            [0.1, 1],
          ],
          { beats: 1 },
        ),
        thirds,
      ),
    ).toBe(6);
    expect([blendGrooves(four, thirds, 0.5).beats, blendGrooves(four, thirds, 0.5).steps.length]).toEqual([2, 4]);
    const sixteenths = groove(
      Array.from({ length: 16 }, () => [0.1, 1] as const),
      { beats: 4, stepsPerBeat: 4 },
    );
    expect(
      stepsOfBlend(
        groove(
          [
            [0, 1],
            [1 / 3, 1],
          ],
          { beats: 1 },
        ),
        sixteenths,
      ),
    ).toBe(2);
  });

  test('a voice of its own in either is one in the blend', () => {
    const own = { ...four, voices: { kick: four.steps.map((s) => ({ ...s, offset: 0.3 })) } };
    const mixed = blendGrooves(
      own,
      groove([
        [0.1, 1],
        [0.1, 1],
        [0.1, 1],
        [0.1, 1],
      ]),
      0.5,
    );
    expect(mixed.voices!.kick!.map((s) => s.offset)).toEqual([0.2, 0.2, 0.2, 0.2].map((o) => expect.closeTo(o, 12)));
  });

  test('any two: always a groove within its limits, and 0 and 1 sound like the two at their steps', () => {
    fc.assert(
      fc.property(anyGroove, anyGroove, fc.double({ min: 0, max: 1, noNaN: true }), (a, b, share) => {
        const mixed = blendGrooves(a, b, share);
        expect(mixed.steps.length).toBe(Math.round(mixed.beats * mixed.stepsPerBeat));
        for (const s of mixed.steps) expect(Math.abs(s.offset)).toBeLessThanOrEqual(0.5);
        const whole = blendGrooves(a, b, 1);
        whole.steps.forEach((s, i) => expect(s.offset / whole.stepsPerBeat).toBeCloseTo(sampleGroove(b, i / whole.stepsPerBeat).offset, 9));
      }),
    );
  });
});

test('comparing: ms at the tempo, levels, rms; a part’s steps without hits say nothing', () => {
  const later = groove([
    [0.1, 1],
    [0.2, 0.8],
    [-0.1, 1.2],
    [0.4, 0.9],
  ]);
  const { steps, rmsMs, rmsLevel } = compareGrooves(four, later, bpm(100));
  // A tenth of a step of 300 ms.
  expect(steps.map((s) => s.ms)).toEqual([30, 0, 0, 0].map((o) => expect.closeTo(o, 9)));
  expect(steps[3]!.level).toBeCloseTo(-0.1, 12);
  expect([rmsMs, rmsLevel]).toEqual([expect.closeTo(15, 9), expect.closeTo(0.05, 9)]);
  const sparse = { ...later, steps: later.steps.map((s, i) => ({ ...s, n: i === 0 ? 4 : 0 })) };
  expect(compareGrooves(four, sparse, bpm(100), { learntOnly: true }).steps.map((s) => s.beat)).toEqual([0]);
});

describe('editing by hand', () => {
  test('a step, its reset, mirror and scale', () => {
    expect(setStep(four, null, 1, { offset: 0.9, level: 3 }).steps[1]).toEqual({ offset: 0.5, level: 2, n: 1 });
    expect(resetStep(four, null, 3).steps[3]).toEqual({ offset: 0, level: 1, n: 1 });
    expect(offsets(mirrorGroove(four))).toEqual([0, -0.2, 0.1, -0.4]);
    const half = scaleGroove(four, 0.5, 2);
    expect([offsets(half), levels(half)]).toEqual([[0, 0.1, -0.05, 0.2], [1, 0.6, 1.4, 1].map((l) => expect.closeTo(l, 12))]);
    expect('fit' in setStep({ ...four, fit: 0.9 }, null, 0, { level: 1 })).toBe(false);
  });

  test('a voice’s own curve alone is changed', () => {
    const own = { ...four, voices: { kick: four.steps } };
    const changed = setStep(own, 'kick', 0, { offset: 0.2 });
    expect([changed.steps[0]!.offset, changed.voices!.kick![0]!.offset]).toEqual([0, 0.2]);
  });

  test('smoothing: half way to the neighbours’ mean, or to the same place of the other beats', () => {
    // Step 1: (0 + 0.2 - 0.1) / 3 = 1/30; half way from 0.2.
    expect(offsets(smoothGroove(four, 'neighbours'))[1]).toBeCloseTo((0.2 + 1 / 30) / 2, 12);
    // Steps 1 and 3 share a place of the beat: mean 0.3.
    expect(offsets(smoothGroove(four, 'beats'))).toEqual([-0.025, 0.25, -0.075, 0.35].map((o) => expect.closeTo(o, 12)));
  });

  test('mirrored twice is the same; any edit stays within the format', () => {
    fc.assert(fc.property(anyGroove, (g) => expect(mirrorGroove(mirrorGroove(g)).steps).toEqual(g.steps)));
    fc.assert(
      fc.property(anyGroove, fc.double({ min: 0, max: 8, noNaN: true }), (g, by) =>
        scaleGroove(g, by, by).steps.forEach((s) => expect(Math.abs(s.offset) <= 0.5 && s.level >= 0 && s.level <= 2).toBe(true)),
      ),
    );
  });
});

describe('on a part', () => {
  const flat = smallPart([
    ['hat-closed', 0, 100],
    ['hat-closed', 0.5, 100],
    ['kick', 0.5, 100],
  ]);

  test('a move of its rows; the same rows again take its place, others are added', () => {
    const once = putGroove(flat, four, { voices: ['hat-closed'], lean: 0.6, level: 0 }).part;
    const p = performPart(once);
    // 60 % of 0.2 of an eighth late, hats alone.
    expect(p.ticks[2]! - TICKS_PER_QUARTER / 2).toBeCloseTo(0.6 * 0.2 * (TICKS_PER_QUARTER / 2), 6);
    expect(p.ticks[1]).toBe(TICKS_PER_QUARTER / 2);
    const twice = putGroove(once, mirrorGroove(four), { voices: ['hat-closed'], lean: 1, level: 1 }).part;
    expect(twice.feel.moves).toEqual([
      { kind: 'groove', groove: mirrorGroove(four), lean: 1, level: 1, scope: { voices: ['hat-closed'] } },
    ]);
    expect(putGroove(twice, four, { lean: 1, level: 1 }).part.feel.moves.length).toBe(2);
  });

  test('another groove replaces the one on these rows, and says which stays on them all', () => {
    const first = putGroove(flat, four, { voices: ['hat-closed'], lean: 1, level: 1 }).part;
    const second = putGroove(first, { ...four, name: 'other' }, { voices: ['hat-closed'], lean: 1, level: 1 });
    expect([second.part.feel.moves.map((m) => m.kind === 'groove' && m.groove.name), second.stays]).toEqual([['other'], []]);
    const whole = putGroove(flat, four, { lean: 1, level: 1 }).part;
    const onRow = putGroove(whole, { ...four, name: 'other' }, { voices: ['hat-closed'], lean: 1, level: 1 });
    expect([onRow.part.feel.moves.length, onRow.stays]).toEqual([2, [four.name]]);
  });

  test.each([
    [4, [4, 4], 'same', 1],
    [2, [4, 4], 'divides', 1],
    [3, [4, 4], 'restarts', 1],
    [4, [3, 4], 'loses-end', 1],
    [8, [4, 4], 'bars', 2],
    [7, [4, 4], 'bars-restarts', 2],
    [7, [3, 4], 'bars-loses-end', 2],
    [3.5, [7, 8], 'same', 1],
    [3.5, [4, 4], 'restarts', 1],
  ] as const)('%s quarters on %s: %s over %s bars', (beats, [numerator, denominator], kind, bars) => {
    const part = smallPart([], { meter: [{ tick: ticks(0), numerator, denominator }] });
    expect(meetingOf({ ...four, beats, stepsPerBeat: 2 }, part)).toMatchObject({ kind, bars });
  });
});

describe('as hits', () => {
  test('one hit a step, at its lean, velocity 64 for level 1; an early first step comes at the end', () => {
    const early = groove([
      [-0.25, 1],
      [0.2, 0.5],
      [0, 1.5],
      [0.4, 1],
    ]);
    const { hits } = grooveAsPart(early, bpm(100));
    const step = TICKS_PER_QUARTER / 2;
    expect(hits.map((h) => [h.tick / step, h.velocity])).toEqual([
      [1.2, 32],
      [2, 96],
      [3.4, 64],
      [3.75, 64],
    ]);
  });

  test('learning from it gives the groove back', () => {
    fc.assert(
      fc.property(anyGroove, (g) => {
        // A learnt level is over the mean level.
        const learnt = learnGroove(grooveAsPart({ ...g, voices: {} }, bpm(100)), { beats: g.beats, stepsPerBeat: g.stepsPerBeat });
        const usual = levels(g).reduce((a, b) => a + b, 0) / g.steps.length;
        learnt.steps.forEach((s, i) => {
          expect(s.offset).toBeCloseTo(g.steps[i]!.offset, 4);
          expect(Math.abs(s.level * usual - g.steps[i]!.level)).toBeLessThan(0.02);
        });
      }),
    );
  });

  test('the neutral pattern has a hat on every step of every bar, in the groove’s meter', () => {
    const seven = HOUSE_GROOVES.find((g) => g.name === 'Foghorn')!;
    const part = neutralPart(seven, bpm(120));
    expect([part.bars, part.hits.filter((h) => h.voice === 'hat-closed').length, part.meter[0]!.numerator]).toEqual([2, 28, 7]);
    // 2 + 2 + 3: kick, snare, kick.
    expect(part.hits.filter((h) => h.voice === 'snare').map((h) => h.tick / TICKS_PER_QUARTER)).toEqual([1, 4.5]);
  });
});

test('a row without steps of its own uses those of its voice, then of what stands for it, then those of all', () => {
  const one = (offset: number): GrooveStep[] => [{ offset, level: 1, n: 1 }];
  const groove: Groove = {
    format: 'nod-sway/groove@1',
    name: 'x',
    meter: [4, 4],
    beats: 1,
    stepsPerBeat: 1,
    steps: one(0),
    voices: { snare: one(0.1), 'snare:3': one(0.3), 'hat-open': one(0.2) },
  };
  expect(['snare', 'snare:2', 'snare:3', 'snare-edge', 'hat-half', 'kick'].map((row) => stepsFor(groove, row)[0]?.offset)).toEqual([
    0.1, 0.1, 0.3, 0.1, 0.2, 0,
  ]);
});
