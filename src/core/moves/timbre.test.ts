import { smallPart } from '@tests/support/arbitraries';
import { bake } from '../commands/moves';
import type { Part } from '../model/part';
import { makeProgram } from '../playback/program';
import { deviation, mean } from '../statistics';
import { ticks, TICKS_PER_QUARTER } from '../units';
import { effectOfMove } from '../perform/effect';
import { EMPTY_FEEL, type TimbreMove } from '../model/feel';
import { performPart } from '../perform/perform';
import { DEFAULT_MOVES } from './all';

const many = smallPart(
  Array.from({ length: 512 }, (_, i) => ['hat-closed', i / 4, 64] as const),
  { bars: 32 },
);
const timbred = (part: Part, change: Partial<TimbreMove>, sway = 1): Part => ({
  ...part,
  feel: { ...EMPTY_FEEL, sway, moves: [{ ...DEFAULT_MOVES.timbre, ...change }] },
});
const timbreOf = (part: Part) => performPart(part).timbre!;
const programOf = (part: Part) =>
  makeProgram(
    part,
    performPart(part),
    { start: ticks(0), end: ticks(part.bars * 4 * TICKS_PER_QUARTER), loop: false },
    (_h, s) => s,
    () => 0,
  );

test('even draws around the hits’ own, of mean 0, each quality by itself; times and velocities stay', () => {
  const part = timbred({ ...many, hits: many.hits.map((h) => ({ ...h, pan: 20 })) }, { pan: 30, pitch: 2, brightness: 40 });
  const { pans, pitches, brightness } = timbreOf(part);
  // An even draw within r has the deviation r / sqrt(3).
  expect([mean([...pans]), mean([...pitches]), mean([...brightness])]).toEqual([
    expect.closeTo(20, -1),
    expect.closeTo(0, 0),
    expect.closeTo(0, -1),
  ]);
  expect([deviation([...pans]), deviation([...pitches])]).toEqual([
    expect.closeTo(30 / Math.sqrt(3), -1),
    expect.closeTo(2 / Math.sqrt(3), 0),
  ]);
  expect(Math.max(...pans)).toBeLessThanOrEqual(50);
  const both = mean([...pans].map((p, i) => (p - 20) * (brightness[i] as number))) / (deviation([...pans]) * deviation([...brightness]));
  expect(Math.abs(both)).toBeLessThan(0.15);
  const { ticks: at, velocities } = performPart(part);
  expect([[...at], [...velocities]]).toEqual([many.hits.map((h) => h.tick), many.hits.map((h) => h.velocity)]);
});

test('velocity opens brightness, pitch pans; all within limits; sway blends', () => {
  const part = smallPart([
    ['snare', 0, 127],
    ['snare', 1, 64],
    ['snare', 2, 1],
  ]);
  expect([...timbreOf(timbred(part, { velocityBrightness: 63 })).brightness]).toEqual([63, 0, -63]);
  expect([...timbreOf(timbred(part, { velocityBrightness: 63 }, 0.5)).brightness]).toEqual([31.5, 0, -31.5]);
  const pitched: Part = { ...part, hits: part.hits.map((h, i) => ({ ...h, pitch: [6, 0, -24][i]! })) };
  expect([...timbreOf(timbred(pitched, { pitchPan: 60 })).pans]).toEqual([30, 0, -100]);
  expect(performPart(timbred(part, {}, 0)).timbre).toBeNull();
});

test('heard, told, and written by baking', () => {
  const part = timbred(
    smallPart([
      ['snare', 0, 127],
      ['snare', 1, 64],
    ]),
    { velocityBrightness: 50 },
  );
  expect([...programOf(part).brightness]).toEqual([50, 0]);
  expect(effectOfMove(part, performPart(part), 0)).toMatchObject({ hits: 0, timbres: 1 });
  const baked = bake(part);
  expect(baked.hits.map((h) => [h.brightness, h.pan])).toEqual([
    [50, undefined],
    [undefined, undefined],
  ]);
  expect([...programOf(baked).brightness]).toEqual([50, 0]);
});
