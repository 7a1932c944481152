import fc from 'fast-check';
import { setLocked } from '@/core/commands/marks';
import { TICKS_PER_QUARTER } from '@/core/units';
import { smallPart } from '@tests/support/arbitraries';
import { at, setTable, type Table } from '@tests/support/bench-table';
import type { Tool } from '../../store/tools';
import { idle } from './idle';
import type { Gesture } from './types';

const STEP = TICKS_PER_QUARTER / 4;
const empty = smallPart([['kick', 3.75, 100]]);
const withHats = smallPart([...Array.from({ length: 16 }, (_, i) => ['hat-closed', i / 4, 90] as const), ['kick', 0, 100]]);

const steps = (t: Table, voice: string): number[] =>
  t.store
    .getState()
    .part.hits.filter((h) => h.voice === voice)
    .map((h) => h.tick / STEP);
const velocitiesOf = (t: Table, voice: string): number[] =>
  t.store
    .getState()
    .part.hits.filter((h) => h.voice === voice)
    .map((h) => h.velocity);

/** Presses, passes some places and lets go. */
function stroke(t: Table, tool: Tool, path: readonly { x: number; y: number }[], alt = false): void {
  t.store.getState().setUi({ tool });
  const [first, ...rest] = path.map((p) => at(p, 0, 0, { alt }));
  let gesture: Gesture = idle.down!(first!, t.context);
  for (const p of rest) gesture = gesture.move(p, t.context);
  expect(gesture.up(rest.at(-1) ?? first!, t.context).name).toBe('idle');
}

test('painting skips no step, wherever the pointer happens to be seen between press and release', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 14 }),
      fc.integer({ min: 0, max: 14 }),
      fc.array(fc.integer({ min: 0, max: 14 }), { maxLength: 4 }),
      fc.integer({ min: 1, max: 5 }),
      (from, to, between, stride) => {
        const t = setTable(empty);
        t.store.getState().setUi({ paint: { levels: [77], stride, ghosts: false } });
        stroke(
          t,
          'hits',
          [from, ...between, to].map((s) => t.place('kick', s / 4)),
        );
        const expected = [15];
        for (let s = from; from <= to ? s <= to : s >= to; s += from <= to ? stride : -stride) expected.push(s);
        expect(steps(t, 'kick')).toEqual(expected.sort((a, b) => a - b));
        t.store.getState().undo();
        expect(steps(t, 'kick')).toEqual([15]);
      },
    ),
    { numRuns: 60 },
  );
});

test('whatever is dragged without painting over empty ground places nothing', () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.double({ min: 0, max: 3.5, noNaN: true }), fc.integer({ min: 8, max: 40 })), { minLength: 2, maxLength: 6 }),
      (path) => {
        const t = setTable(empty);
        const places = path.map(([q, above]) => t.place('kick', q, above));
        fc.pre(Math.hypot(places.at(-1)!.x - places[0]!.x, places.at(-1)!.y - places[0]!.y) >= 5);
        stroke(t, 'select', places);
        expect(steps(t, 'kick')).toEqual([15]);
      },
    ),
    { numRuns: 60 },
  );
});

test('painting over hits gives them the painted velocity, except locked ones; ghosts are flagged', () => {
  const t = setTable(withHats);
  const second = withHats.hits.find((h) => h.voice === 'hat-closed' && h.tick === STEP)!;
  t.store.getState().run('lock', (p) => setLocked(p, new Set([second.id]), true));
  t.store.getState().setUi({ paint: { levels: [110, 60], stride: 1, ghosts: true } });
  stroke(t, 'hits', [t.place('hat-closed', 0), t.place('hat-closed', 0.75)]);
  expect(velocitiesOf(t, 'hat-closed').slice(0, 5)).toEqual([110, 90, 110, 60, 90]);
  stroke(t, 'hits', [t.place('kick', 1)]);
  expect(t.store.getState().part.hits.find((h) => h.voice === 'kick' && h.tick === 4 * STEP)).toMatchObject({ velocity: 110, ghost: true });
});

test('wiping takes every hit whose column was crossed, and leaves locked ones', () => {
  const t = setTable(withHats);
  const fourth = withHats.hits.find((h) => h.voice === 'hat-closed' && h.tick === 3 * STEP)!;
  t.store.getState().run('lock', (p) => setLocked(p, new Set([fourth.id]), true));
  stroke(t, 'nothing', [t.place('hat-closed', 0.5), t.place('hat-closed', 1.25)]);
  expect(steps(t, 'hat-closed')).toEqual([0, 1, 3, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15]);
  expect(t.readouts.some((r) => r?.includes('1 locked left'))).toBe(true);
});

test('a drawn line sets velocities between its ends, a free one follows the path; Escape puts them back', () => {
  const t = setTable(withHats);
  const row = t.scene().rows.find((r) => r.voice === 'hat-closed')!;
  stroke(t, 'line', [t.place('hat-closed', 0, 10), t.place('hat-closed', 2, row.tallest)]);
  const line = velocitiesOf(t, 'hat-closed');
  expect(line[0]).toBe(1);
  expect(line[4]).toBe(64);
  expect(line[8]).toBe(127);
  expect(line[9]).toBe(90);
  t.store.getState().setUi({ tool: 'free' });
  let g = idle.down!(at(t.place('hat-closed', 2.25, 20)), t.context);
  for (const [q, above] of [
    [2.5, row.tallest],
    [3, 10],
  ] as const)
    g = g.move(at(t.place('hat-closed', q, above)), t.context);
  expect(velocitiesOf(t, 'hat-closed').slice(9, 13)).toEqual([expect.any(Number), 127, 64, 1]);
  expect(g.cancel(t.context).name).toBe('idle');
  expect(velocitiesOf(t, 'hat-closed')).toEqual(line);
});

test('a line drawn after one hit was placed shapes the row; with several selected it shapes those', () => {
  const t = setTable(withHats);
  const hats = withHats.hits.filter((h) => h.voice === 'hat-closed').map((h) => h.id);
  const row = t.scene().rows.find((r) => r.voice === 'hat-closed')!;
  t.store.getState().select([hats[2]!]);
  stroke(t, 'line', [t.place('hat-closed', 0, row.tallest), t.place('hat-closed', 1, row.tallest)]);
  expect(velocitiesOf(t, 'hat-closed').slice(0, 6)).toEqual([127, 127, 127, 127, 127, 90]);
  t.store.getState().select([hats[6]!, hats[8]!]);
  stroke(t, 'line', [t.place('hat-closed', 1.25, 10), t.place('hat-closed', 2.25, 10)]);
  expect(velocitiesOf(t, 'hat-closed').slice(5, 10)).toEqual([90, 1, 90, 1, 90]);
});

test('painting works where many bars are in sight and steps are too close to be told apart', () => {
  const t = setTable({ ...empty, bars: 24 });
  const { setView } = t.store.getState();
  // 16, 5 and 2 pixels a sixteenth.
  for (const pixelsPerQuarter of [64, 20, 8]) {
    setView({ pixelsPerQuarter });
    stroke(t, 'hits', [t.place('kick', 0), t.place('kick', 2)]);
    expect(steps(t, 'kick')).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8, 15]);
    t.store.getState().undo();
  }
});

test('a dragged foot moves the hit by lines and rows; with Alt a copy goes instead', () => {
  const t = setTable(withHats);
  stroke(t, 'select', [t.place('kick', 0, 0), t.place('kick', 0.5, 0)]);
  expect(steps(t, 'kick')).toEqual([2]);
  stroke(t, 'select', [t.place('kick', 0.5, 0), t.place('kick', 1, 0)], true);
  expect(steps(t, 'kick')).toEqual([2, 4]);
  t.store.getState().undo();
  t.store.getState().undo();
  expect(steps(t, 'kick')).toEqual([0]);
});

test('a click with Alt takes a hit away; a tap of a finger takes the column or places', () => {
  const t = setTable(withHats);
  const first = at(t.stem(withHats.hits.find((h) => h.voice === 'kick')!.id), 0, 0, { alt: true });
  idle.down!(first, t.context).up(first, t.context);
  expect(steps(t, 'kick')).toEqual([]);
  const ground = at(t.place('kick', 1), 0, 0, { touch: true });
  idle.down!(ground, t.context).up(ground, t.context);
  expect(steps(t, 'kick')).toEqual([4]);
  const scroll = t.store.getState().view.scroll;
  const from = at(t.place('hat-closed', 2), 0, 0, { touch: true });
  t.store.getState().setView({ pixelsPerQuarter: 600 });
  idle.down!(from, t.context)
    .move({ ...from, x: from.x - 60 }, t.context)
    .move({ ...from, x: from.x - 120 }, t.context)
    .up(from, t.context);
  expect(t.store.getState().view.scroll).toBeGreaterThan(scroll);
  expect(steps(t, 'hat-closed')).toHaveLength(16);
});
