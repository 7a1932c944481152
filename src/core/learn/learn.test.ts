import { smallPart } from '@tests/support/arbitraries';
import { EMPTY_FEEL } from '../model/feel';
import { performPart } from '../perform/perform';
import type { Part } from '../model/part';
import { normalStream, randomStream } from '../random';
import { milliseconds, ticks } from '../units';
import type { Groove, GrooveStep } from '../model/groove';
import { learnGroove, rowsTellTiming } from './learn';

const meter = (numerator: number, denominator: number): Pick<Part, 'meter'> => ({ meter: [{ tick: ticks(0), numerator, denominator }] });
const offsets = (steps: readonly GrooveStep[]): number[] => steps.map((s) => s.offset);

test('offsets are medians, levels go by each voice’s own mean, empty steps lie between their neighbours', () => {
  // Two bars; a quarter of a 1/16 is 0.0625 quarters.
  const part = smallPart(
    [
      ['hat-closed', 0, 80],
      ['hat-closed', 1.0625, 40],
      ['kick', 0, 100],
      ['hat-closed', 4, 80],
      ['hat-closed', 5.03125, 40],
      ['kick', 6.96875, 50],
      ['hat-closed', 7.98, 60],
    ],
    { bars: 2 },
  );
  const { steps, beats, stepsPerBeat, meter: m } = learnGroove(part, { stepsPerBeat: 4 });
  expect([beats, stepsPerBeat, m, steps.length]).toEqual([4, 4, [4, 4], 16]);
  // Step 4: 0.25 and 0.125 of a step late.
  expect(steps[4]).toMatchObject({ offset: 0.1875, n: 2 });
  // Hats 80, 80, 40, 40, 60: mean 60. At step 4 both are 2/3.
  expect(steps[4]!.level).toBeCloseTo(2 / 3, 12);
  // Half way between 0.25 and 0.125 of a step of 125 ms: 7.8125 ms around the mean.
  expect(steps[4]!.spreadMs).toBeCloseTo(7.8125, 9);
  // Step 0: hats 0, 0 and one 0.08 early for the bar after; kicks of 100 and 50 have the mean 75.
  expect(steps[0]).toMatchObject({ offset: 0, n: 4 });
  expect(steps[0]!.level).toBeCloseTo((80 / 60 + 80 / 60 + 1 + 100 / 75) / 4, 12);
  // A kick at 6.96875: step 12 of the second bar, an eighth of a step early.
  expect(steps[12]).toMatchObject({ offset: -0.125, n: 1, spreadMs: 0 });
  expect(steps[12]!.level).toBeCloseTo(50 / 75, 12);
  // Between 0.1875 at step 4 and -0.125 at step 12.
  expect(steps[8]).toEqual({ offset: expect.closeTo(0.03125, 12), level: 1, n: 0 });
});

test('dead straight: offsets 0, no fit; chosen voices alone; nothing to learn is an error', () => {
  const part = smallPart([
    ['kick', 0, 100],
    ['snare', 1.1, 90],
  ]);
  expect(learnGroove(part, { voices: ['kick'] })).toMatchObject({ fit: null });
  expect(learnGroove(part, { voices: ['snare'] }).fit).toBeCloseTo(1, 12);
  expect(() => learnGroove(part, { voices: ['rim'] })).toThrow(expect.objectContaining({ code: 'nothing-to-learn' }));
});

test('7/8: fourteen sixteenths; a hit just before the bar line is an early step 0', () => {
  const groove = learnGroove(
    smallPart(
      [
        ['snare', 3.47, 90],
        ['kick', 1, 90],
      ],
      { ...meter(7, 8), bars: 2 },
    ),
  );
  expect([groove.beats, groove.steps.length]).toEqual([3.5, 14]);
  expect(groove.steps[0]).toMatchObject({ offset: expect.closeTo(-0.12, 4), n: 1 });
});

test('half a bar: the bar folds twice; two bars run on', () => {
  const part = smallPart(
    [
      ['kick', 0.025, 90],
      ['kick', 2.05, 90],
      ['snare', 5, 90],
    ],
    { bars: 2 },
  );
  expect(learnGroove(part, { beats: 2 }).steps[0]).toMatchObject({ offset: expect.closeTo(0.15, 6), n: 2 });
  expect(
    learnGroove(part, { beats: 8 })
      .steps.map((s) => s.n)
      .flatMap((n, i) => (n > 0 ? [i] : [])),
  ).toEqual([0, 8, 20]);
});

describe('what a part was performed with comes back', () => {
  const steps = Array.from({ length: 16 }, (_, i): GrooveStep => ({
    offset: [0, 0.12, 0.03, 0.15][i % 4]! + (i === 4 ? 0.09 : 0),
    level: [1.15, 0.85, 1.05, 0.95][i % 4]!,
    n: 1,
  }));
  const groove: Groove = { format: 'nod-sway/groove@1', name: 'known', meter: [4, 4], beats: 4, stepsPerBeat: 4, steps };
  const bars = 16;
  const places = (every: number): number[] => Array.from({ length: (bars * 16) / every }, (_, i) => (i * every) / 4);
  const rows: [string, number, number][] = [
    ...places(1).map((q): [string, number, number] => ['hat-closed', q, 70]),
    ...places(2).map((q): [string, number, number] => ['kick', q, 98]),
    ...places(1).map((q): [string, number, number] => ['snare', q, 34]),
  ];
  const played = (noiseMs: number): Part => {
    const base = smallPart(rows, {
      bars,
      tempo: [{ tick: ticks(0), microsecondsPerQuarter: 600_000 }],
      feel: { ...EMPTY_FEEL, moves: [{ kind: 'groove', groove, lean: 1, level: 1 }] },
    });
    const normal = normalStream(randomStream(5));
    return {
      ...base,
      hits: base.hits.map((h) => ({ ...h, ...(noiseMs > 0 ? { nudge: { ms: milliseconds(noiseMs * normal()), velocity: 0 } } : {}) })),
    };
  };

  test('without noise: offsets within 1 % of a step, fit over 0.95', () => {
    const part = played(0);
    const learnt = learnGroove(part, {}, performPart(part));
    offsets(learnt.steps).forEach((o, i) => expect(Math.abs(o - steps[i]!.offset)).toBeLessThan(0.01));
    expect(learnt.fit!).toBeGreaterThan(0.95);
  });

  test('with 8 ms of noise over 16 bars: offsets within 2.5 ms, levels of each voice within 3 %, the scatter 8 ± 1.5 ms', () => {
    const part = played(8);
    const learnt = learnGroove(part, { perVoice: true }, performPart(part));
    // A step of 1/16 at 100 BPM is 150 ms.
    offsets(learnt.steps).forEach((o, i) => expect(Math.abs(o - steps[i]!.offset) * 150).toBeLessThan(2.5));
    for (const [voice, usual] of [
      ['hat-closed', 1],
      ['snare', 1],
      ['kick', 1.1],
    ] as const) {
      learnt.voices![voice]!.forEach((s, i) => s.n > 0 && expect(Math.abs(s.level / (steps[i]!.level / usual) - 1)).toBeLessThan(0.03));
    }
    const spreads = learnt.steps.map((s) => s.spreadMs!);
    expect(Math.abs(spreads.reduce((a, b) => a + b, 0) / 16 - 8)).toBeLessThan(1.5);
  });
});

describe('levels relative to each row', () => {
  // Backbeats of 110 with ghosts of 30 between them, and hats of 80 and 60.
  const hits = [0, 1, 2, 3].flatMap((beat): [string, number, number][] => [
    ['hat-closed', beat, 80],
    ['hat-closed', beat + 0.5, 60],
    ['snare', beat + 0.25, 30],
    ...(beat % 2 === 1 ? [['snare', beat, 110] as [string, number, number]] : [['kick', beat + 0.03125, 100] as [string, number, number]]),
  ]);
  const part = smallPart(hits, { bars: 1 });
  const flat = smallPart(
    [0, 1, 2, 3].flatMap((beat): [string, number, number][] => [
      ['hat-closed', beat, 80],
      ['snare', beat, 80],
      ['ride', beat, 80],
    ]),
    { bars: 1 },
  );
  const onFlat = (groove: Groove): Record<string, number[]> => {
    const played = performPart({
      ...flat,
      feel: { ...EMPTY_FEEL, moves: [{ kind: 'groove', groove, lean: 0, level: 1 }] } as Part['feel'],
    });
    const rows: Record<string, number[]> = {};
    flat.hits.forEach((h, i) => (rows[h.voice] ??= []).push(played.velocities[i]!));
    return rows;
  };

  test('an accent of the snare moves no hat of a flat part', () => {
    const byRow = onFlat(learnGroove(part, { levels: 'rows' }));
    // Hats of 80 and 60 have the mean 70: 80 x 8/7 = 91 on every beat. A ride is played like the hat, which has most hits.
    expect(byRow['hat-closed']).toEqual([91, 91, 91, 91]);
    expect(byRow.ride).toEqual([91, 91, 91, 91]);
    // The snare's mean is (2 x 110 + 4 x 30) / 6 = 56.7: its backbeats are as loud as a level goes.
    expect(byRow.snare!.map((v) => v === 127)).toEqual([false, true, false, true]);
    // With one level for all, the hats of 2 and 4 go with the snare.
    const forAll = onFlat(learnGroove(part));
    expect(forAll['hat-closed']![1]).toBeGreaterThan(120);
    expect(forAll['hat-closed']![0]).toBeLessThan(95);
  });

  test('timing stays shared unless each row has its own', () => {
    const { steps, voices } = learnGroove(part, { levels: 'rows' });
    // The kick alone is late; the step's median is half of it and of the hat's nothing.
    expect([steps[0]!.offset, voices!['hat-closed']![0]!.offset, voices!.kick![0]!.offset]).toEqual([0.0625, 0.0625, 0.0625]);
    expect(learnGroove(part, { levels: 'rows', perVoice: true }).voices!['hat-closed']![0]!.offset).toBe(0);
    expect(learnGroove(part).voices).toBeUndefined();
  });

  test('two rows with eight hits tell a timing each', () => {
    expect(rowsTellTiming(part)).toBe(false);
    const twice = { hits: [...part.hits, ...part.hits.filter((h) => h.voice === 'snare').map((h) => ({ ...h, id: `${h.id}b` }))] };
    expect(rowsTellTiming(twice)).toBe(true);
  });
});
