import { smallPart } from '@tests/support/arbitraries';
import { conflictsOf, type TimedStroke } from '../hands/limits';
import type { Part } from '../model/part';
import { tempoMapOf } from '../part/part-time';
import { soundOfRow } from '../part/rows';
import { ticks, TICKS_PER_QUARTER } from '../units';
import { compareVoices, limbOf } from '../voices';
import { applyFill, FILL_GRIDS, FIRST_FILL, planFill, type FillPlan } from './fills';
import { SHAPE_NAMES } from './shapes';

const Q = TICKS_PER_QUARTER;
const ROWS: readonly (readonly string[])[] = [
  ['kick', 'snare', 'hat-closed'],
  ['kick', 'snare', 'hat-closed', 'crash'],
  ['kick', 'snare', 'hat-closed', 'hat-open', 'hat-pedal', 'crash', 'tom-high', 'tom-mid', 'tom-floor'],
  ['kick', 'snare', 'ride', 'hat-pedal', 'tom-high', 'tom-low'],
  ['kick', 'clap', 'hat-closed', 'hat-open'],
  ['kick', 'rim', 'shaker', 'conga-high', 'conga-low'],
  ['kick', 'snare', 'snare:2', 'hat-closed', 'tom-floor', 'crash'],
  ['kick', 'hat-closed'],
  ['snare'],
  ['kick', 'snare', 'hat-half', 'hat-splash', 'ride-bell', 'tom-mid', 'crash'],
];
const METERS = [
  [4, 4],
  [3, 4],
  [6, 8],
  [7, 8],
] as const;

let ids = 0;
/** Four bars of a plain groove on some rows: eighths by hand, a backbeat, kicks, the pedal on beats, a ghost. */
function grooveOn(rows: readonly string[], [numerator, denominator]: readonly [number, number], bpm: number): Part {
  const bar = (numerator * 4) / denominator;
  const strokes: [string, number, number][] = [];
  for (let b = 0; b < 4; b++) {
    for (let e = 0; e < bar; e += 0.5) {
      const time = rows.find((r) => /^(hat-closed|hat-half|ride|shaker)/.test(r));
      if (time) strokes.push([time, b * bar + e, e % 1 === 0 ? 96 : 72]);
    }
    for (let q = 0; q < bar; q++) {
      if (rows.includes('hat-pedal')) strokes.push(['hat-pedal', b * bar + q, 70]);
      const back = rows.find((r) => ['snare', 'clap', 'rim'].includes(r));
      if (back && q % 2 === 1) strokes.push([back, b * bar + q, 104]);
      if (rows.includes('kick') && q % 2 === 0) strokes.push(['kick', b * bar + q, 110]);
    }
    if (rows.includes('snare')) strokes.push(['snare', b * bar + 0.75, 24]);
  }
  const base = smallPart(strokes);
  const all = rows.map((voice) => base.rows.find((r) => r.voice === voice) ?? { voice }).sort((a, b) => compareVoices(a.voice, b.voice));
  return {
    ...base,
    bars: 4,
    rows: all,
    hits: base.hits.map((h) => (h.velocity < 40 ? { ...h, ghost: true } : h)),
    meter: [{ tick: ticks(0), numerator, denominator }],
    tempo: [{ tick: ticks(0), microsecondsPerQuarter: 60e6 / bpm }],
  };
}

/** The median of snares and kicks that are no ghosts, found by hand. */
function levels(part: Part): number {
  const loud = part.hits
    .filter((h) => !h.ghost && /^(kick|snare)/.test(h.voice))
    .map((h) => h.velocity as number)
    .sort((a, b) => a - b);
  const middle = loud.length / 2;
  return loud.length === 0 ? 0 : loud.length % 2 === 1 ? loud[Math.floor(middle)]! : (loud[middle - 1]! + loud[middle]!) / 2;
}

const timed = (part: Part): (TimedStroke & { id: string })[] => {
  const tempo = tempoMapOf(part);
  return part.hits
    .map((h) => ({ id: h.id, ms: tempo.toSeconds(h.tick) * 1000 + (h.nudge?.ms ?? 0), voice: soundOfRow(part, h.voice) }))
    .sort((a, b) => a.ms - b.ms);
};

test('500 seeded fills over 10 sets of rows and 4 meters: nothing beyond the limbs, the first of two louder, the pedal kept, the crash on the next downbeat', () => {
  for (let seed = 1; seed <= 500; seed++) {
    const rows = ROWS[seed % ROWS.length] as readonly string[];
    const meter = METERS[seed % METERS.length] as (typeof METERS)[number];
    const part = grooveOn(rows, meter, 60 + ((seed * 7) % 130));
    const shape = SHAPE_NAMES[seed % SHAPE_NAMES.length] as (typeof SHAPE_NAMES)[number];
    const grid = FILL_GRIDS[seed % FILL_GRIDS.length] as (typeof FILL_GRIDS)[number];
    const next = ticks(3 * ((meter[0] * 4 * Q) / meter[1]));
    const plan = planFill(part, 2, { ...FIRST_FILL, shape, grid, length: [0.5, 1, 2, 4][seed % 4] as number, seed }, next);
    const filled = applyFill(part, plan, () => `f${ids++}`);
    const strokes = timed(filled);
    const isFill = (id: string): boolean => id.startsWith('f');
    const beyond = conflictsOf(strokes).filter((c) => c.moment.some((s) => isFill((s as TimedStroke & { id: string }).id)));
    expect([seed, shape, grid, beyond.map((c) => `${c.kind} ${c.stroke.voice}`)]).toEqual([seed, shape, grid, []]);
    // The pedal keeps time, unless all of it was to leave.
    if (shape !== 'all-out')
      expect(filled.hits.filter((h) => h.voice === 'hat-pedal').length).toBeGreaterThanOrEqual(
        part.hits.filter((h) => h.voice === 'hat-pedal').length,
      );
    // Never under the backbeat and the kick: hands and kicks of those that are made, not repeated.
    if (['toms', 'around', 'snare', 'broken', 'pickup'].includes(shape))
      for (const s of plan.added)
        if (s.voice !== 'hat-pedal') expect([seed, shape, s.velocity >= levels(part)]).toEqual([seed, shape, true]);
    if (rows.includes('crash')) expect(filled.hits.some((h) => h.voice === 'crash' && h.tick === next)).toBe(true);
    else expect(filled.hits.some((h) => h.voice === 'crash')).toBe(false);
    // Hands leave under it, and ghosts with them.
    if (['toms', 'around', 'snare', 'broken', 'hats'].includes(shape))
      expect(
        part.hits
          .filter((h) => plan.removed.has(h.id))
          .every((h) => limbOf(h.voice) !== 'hat-foot' && h.tick >= plan.from - 1 && h.tick < plan.end),
      ).toBe(true);
    expect(filled.hits.every((h) => h.velocity >= 1 && h.velocity <= 127)).toBe(true);
    // No two strokes of it at the very same moment.
    expect(new Set(plan.added.map((s) => `${s.tick} ${s.nudge ?? 0}`)).size).toBe(plan.added.length);
  }
});

const rock = grooveOn(ROWS[2] as readonly string[], [4, 4], 120);
const told = ({ added }: FillPlan): string[] =>
  added.filter((s) => s.voice !== 'crash' && !(s.voice === 'kick' && s.nudge)).map((s) => `${s.voice} ${s.tick / Q}`);

test('half a bar of sixteenths down the toms: a stroke a step but for rests, the first of two louder by hand-computed levels', () => {
  const plan = planFill(rock, 1, { ...FIRST_FILL, seed: 3 }, ticks(8 * Q));
  expect([plan.from / Q, plan.end / Q]).toEqual([6, 8]);
  const places = told(plan).map((t) => Number(t.split(' ')[1]));
  expect(places[0]).toBe(6);
  expect(places.at(-1)).toBe(7.75);
  expect(places.every((p) => (p * 4) % 1 === 0)).toBe(true);
  const order = told(plan).map((t) => ['snare', 'tom-high', 'tom-mid', 'tom-floor'].indexOf(t.split(' ')[0] as string));
  expect(order.every((o, i) => o >= (order[i - 1] ?? 0))).toBe(true);
  expect(order.at(-1)).toBe(3);
});

test('of each two strokes the first is louder; a build-up rises; louder says how much', () => {
  for (const shape of ['toms', 'around', 'snare', 'hats'] as const) {
    for (let seed = 1; seed < 30; seed++) {
      const steps = planFill(rock, 1, { ...FIRST_FILL, shape, seed, length: 4 }, null).added;
      for (let i = 0; i + 1 < steps.length; i += 2)
        expect([shape, seed, i, steps[i]!.velocity > steps[i + 1]!.velocity]).toEqual([shape, seed, i, true]);
    }
  }
  const mean = (louder: number): number => {
    const added = planFill(rock, 1, { ...FIRST_FILL, louder }, null).added.filter((s) => s.voice !== 'hat-pedal');
    return added.reduce((sum, s) => sum + s.velocity, 0) / added.length;
  };
  // 8 % louder where nothing is at its limit; the first of two are 118 and 127.
  expect(mean(8) / mean(0)).toBeGreaterThan(1.05);
});

test('the same seed gives the same fill, others give others; the plain ones do what they say', () => {
  const seeds = Array.from({ length: 12 }, (_, seed) => told(planFill(rock, 1, { ...FIRST_FILL, shape: 'around', seed }, null)).join());
  expect(new Set(seeds).size).toBeGreaterThan(8);
  expect(told(planFill(rock, 1, { ...FIRST_FILL, shape: 'around', seed: 5 }, null)).join()).toBe(seeds[5]);
  const kickOut = planFill(rock, 1, { ...FIRST_FILL, shape: 'kick-out' }, null);
  expect(rock.hits.filter((h) => kickOut.removed.has(h.id)).every((h) => h.voice === 'kick' && h.tick >= 6 * Q)).toBe(true);
  expect(kickOut.added).toEqual([]);
  const allOut = planFill(rock, 1, { ...FIRST_FILL, shape: 'all-out' }, null);
  expect(applyFill(rock, allOut, () => 'x').hits.some((h) => h.tick >= 6 * Q && h.tick < 8 * Q)).toBe(false);
  expect(told(planFill(rock, 1, { ...FIRST_FILL, shape: 'pickup', length: 1, seed: 1 }, null)).every((t) => t.startsWith('kick'))).toBe(
    true,
  );
  const locked = { ...rock, hits: rock.hits.map((h) => ({ ...h, locked: true })) };
  expect(planFill(locked, 1, { ...FIRST_FILL, shape: 'all-out' }, null).removed.size).toBe(0);
});

test('the pedal plays quarter notes under a fill that keeps time, on a row that is added where it is missing', () => {
  const bare = grooveOn(ROWS[1] as readonly string[], [4, 4], 120);
  const filled = applyFill(bare, planFill(bare, 1, { ...FIRST_FILL, seed: 2, length: 4 }, ticks(8 * Q)), () => `p${ids++}`);
  expect(filled.hits.filter((h) => h.voice === 'hat-pedal').map((h) => h.tick / Q)).toEqual([4, 5, 6, 7]);
  expect(filled.rows.some((r) => r.voice === 'hat-pedal')).toBe(true);
});

test('the crash follows on the next bar line, or not at all; no hit there is replaced', () => {
  const part = grooveOn(ROWS[1] as readonly string[], [4, 4], 120);
  const crashes = (plan: FillPlan): number[] => plan.added.filter((s) => s.voice === 'crash').map((s) => s.tick / Q);
  const plan = planFill(part, 1, FIRST_FILL, ticks(8 * Q));
  expect([crashes(plan), part.hits.filter((h) => h.tick === 8 * Q && plan.removed.has(h.id))]).toEqual([[8], []]);
  expect(crashes(planFill(part, 1, { ...FIRST_FILL, crash: false }, ticks(8 * Q)))).toEqual([]);
  expect(crashes(planFill(part, 3, FIRST_FILL, null))).toEqual([]);
});
