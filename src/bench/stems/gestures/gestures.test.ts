import type { Hit, Part } from '@/core/model/part';
import { ticks, TICKS_PER_QUARTER } from '@/core/units';
import { smallPart } from '@tests/support/arbitraries';
import { at, HEIGHT, setTable, WIDTH, type Table } from '@tests/support/bench-table';
import { idle } from './idle';
import type { Gesture, Pointer } from './types';

const part: Part = smallPart([
  ['hat-closed', 0, 80],
  ['hat-closed', 0.5, 90],
  ['hat-closed', 1, 100],
  ['snare', 1, 70],
  ['kick', 0, 110],
]);

const hit = (t: Table, id: string): Hit => t.store.getState().part.hits.find((h) => h.id === id)!;
const press = (t: Table, p: Pointer): Gesture => idle.down!(p, t.context);
const h0 = part.hits.find((h) => h.voice === 'hat-closed' && h.tick > 0)!.id;
const snare = part.hits.find((h) => h.voice === 'snare')!.id;

test('a press and release on a stem selects and sounds it; Ctrl takes it out again', () => {
  const t = setTable(part);
  const p = at(t.stem(snare));
  expect(press(t, p).up(p, t.context).name).toBe('idle');
  expect([...t.store.getState().selection]).toEqual([snare]);
  expect(t.auditions).toEqual(['snare']);
  // Rows open by their names alone: what was clicked stays where it is.
  expect(t.store.getState().focus).toBeNull();
  const again = at(t.stem(snare), 0, 0, { toggle: true });
  press(t, again).up(again, t.context);
  expect(t.store.getState().selection.size).toBe(0);
});

test('the first four pixels decide: up and down is velocity, one step back', () => {
  const t = setTable(part);
  const start = t.stem(h0);
  let g = press(t, at(start));
  g = g.move(at(start, 1, 2), t.context);
  expect(g.name).toBe('press-stem');
  g = g.move(at(start, 1, 5), t.context);
  expect(g.name).toBe('drag-velocity');
  g = g.move(at(start, 30, 15), t.context);
  expect(hit(t, h0).nudge).toBeUndefined();
  expect(t.stem(h0).y).toBeCloseTo(start.y + 15, 0);
  g.up(at(start, 30, 15), t.context);
  expect(t.store.getState().history.undo).toHaveLength(1);
  t.store.getState().undo();
  expect(hit(t, h0).velocity).toBe(90);
});

test('sideways is the nudge; the head follows the pointer, the lens widens, and it stops at full lean', () => {
  const t = setTable(part);
  const start = t.stem(h0);
  let g = press(t, at(start)).move(at(start, 6, 1), t.context);
  expect(g.name).toBe('drag-nudge');
  g = g.move(at(start, -9, 0), t.context);
  expect(t.stem(h0).x).toBeCloseTo(start.x - 9, 1);
  // 200 px a quarter: full lean is 22.5 px for 20 ms.
  expect(hit(t, h0).nudge?.ms).toBeCloseTo((-9 / 22.5) * 20, 1);
  g = g.move(at(start, 400, 0), t.context);
  // The lens widens as far as it goes.
  expect([hit(t, h0).nudge?.ms, t.store.getState().view.reach]).toEqual([40, 40]);
  expect(t.readouts.at(-1)).toContain('as far as it goes');
  // Back within the gesture, the head is under the pointer again.
  g = g.move(at(start, 10, 0), t.context);
  expect(t.stem(h0).x).toBeCloseTo(start.x + 10, 1);
  g.cancel(t.context);
  expect(hit(t, h0).nudge).toBeUndefined();
  expect(t.store.getState().history.undo).toHaveLength(0);
  expect(t.saved).toEqual([]);
});

test('Shift is fine: one velocity, half a millisecond a pixel', () => {
  const t = setTable(part);
  const start = t.stem(h0);
  press(t, at(start)).move(at(start, 0, -8, { shift: true }), t.context);
  expect(hit(t, h0).velocity).toBe(98);
  const u = setTable(part);
  press(u, at(start)).move(at(start, 8, 0, { shift: true }), u.context);
  expect(hit(u, h0).nudge?.ms).toBe(4);
});

test('a selection moves together and keeps its shape when dragged back from a limit', () => {
  const t = setTable(part);
  const hats = part.hits.filter((h) => h.voice === 'hat-closed').map((h) => h.id);
  t.store.getState().select(hats);
  const start = t.stem(h0);
  const velocities = (): number[] => hats.map((id) => hit(t, id).velocity as number);
  let g = press(t, at(start)).move(at(start, 0, -300), t.context);
  expect(velocities()).toEqual([127, 127, 127]);
  g = g.move(at(start, 0, 0), t.context);
  expect(velocities()).toEqual([80, 90, 100]);
  g.up(at(start), t.context);
});

test('a click on empty ground places one hit on the nearest line; a drag selects and never places', () => {
  const t = setTable(part);
  const near = t.stem(snare);
  const before = t.store.getState().part.hits.length;
  const empty = at({ x: near.x + 105, y: near.y });
  press(t, empty).up(empty, t.context);
  const { part: after, selection } = t.store.getState();
  expect(after.hits).toHaveLength(before + 1);
  const placed = after.hits.find((h) => selection.has(h.id))!;
  expect([placed.voice, placed.tick]).toEqual(['snare', TICKS_PER_QUARTER * 1.5]);

  const corner = at({ x: 5, y: 46 });
  let g = press(t, corner);
  g = g.move(at(corner, WIDTH, HEIGHT), t.context);
  expect(g.name).toBe('marquee');
  g.up(at(corner, WIDTH, HEIGHT), t.context);
  expect(t.store.getState().selection.size).toBe(before + 1);
  expect(t.store.getState().part.hits).toHaveLength(before + 1);
});

test('with swing on, the placed hit stands where the pointer was', () => {
  const t = setTable({ ...part, feel: { ...part.feel, moves: [{ kind: 'swing', division: '1/16', percent: 75 }] } });
  const base = t.stem(snare);
  // The off-beat sixteenth after beat 2 is heard at 1.375 quarters: 75 px behind the snare on beat 2.
  const p = at({ x: base.x + 75, y: base.y });
  press(t, p).up(p, t.context);
  const { part: after, selection } = t.store.getState();
  const placed = after.hits.find((h) => selection.has(h.id))!;
  expect(placed.tick).toBe(TICKS_PER_QUARTER * 1.25);
  expect(t.stem(placed.id).x).toBeCloseTo(base.x + 75, 6);
  expect(ticks(placed.tick)).toBe(placed.tick);
});

test('away from a head and its stem a drag selects by a rectangle, in the open row one up or down is the velocity; a click takes the hit', () => {
  const t = setTable(part);
  const above = { ...at(t.stem(h0)), y: t.stem(h0).y - 20 };
  let g = press(t, above);
  expect(g.name).toBe('press-above');
  g = g.move({ ...above, x: above.x + 12 }, t.context);
  expect([g.name, g.scrolls]).toEqual(['marquee', true]);
  g.cancel(t.context);
  // Ten to twenty-four pixels above a lone head is empty ground: nothing is thrown to another velocity.
  for (const up of [10, 14, 20, 24]) {
    const ground = { ...at(t.stem(h0)), y: t.stem(h0).y - up };
    expect([up, press(t, ground).move({ ...ground, y: ground.y + 15 }, t.context).name]).toEqual([up, 'marquee']);
  }
  for (const beside of [12, -12])
    expect(press(t, at(t.stem(h0), beside, 4)).move(at(t.stem(h0), beside, 40), t.context).name).toBe('marquee');
  expect(hit(t, h0).velocity).toBe(part.hits.find((h) => h.id === h0)!.velocity);
  for (const near of [0, 8])
    expect(press(t, at(t.stem(h0), 0, -near)).move(at(t.stem(h0), 0, -near - 9), t.context).name).toBe('drag-velocity');
  const open = setTable(part);
  open.store.getState().setFocus(hit(open, h0).voice);
  const high = { ...at(open.stem(h0)), y: open.stem(h0).y - 20 };
  expect(press(open, high).move({ ...high, y: high.y + 9 }, open.context).name).toBe('drag-velocity');
  const u = setTable(part);
  press(u, above).up(above, u.context);
  expect([...u.store.getState().selection]).toEqual([h0]);
});

test('a velocity drag goes no faster than 1.5 a pixel, however low the row is', () => {
  const low = setTable({ ...part, rows: [...part.rows, ...Array.from({ length: 8 }, (_, i) => ({ voice: `own:row${i}` }))] });
  const start = low.stem(h0);
  const before = hit(low, h0).velocity;
  press(low, at(start)).move(at(start, 0, 10), low.context);
  expect(before - hit(low, h0).velocity).toBeLessThanOrEqual(15);
});

test('a low row opens tall while a velocity is dragged, with the head under the pointer, and closes however the drag ends', () => {
  for (const end of ['up', 'cancel'] as const) {
    const low = setTable({ ...part, rows: [...Array.from({ length: 8 }, (_, i) => ({ voice: `own:row${i}` })), ...part.rows] });
    low.store.getState().setView({ scrollRows: 60 });
    const start = low.stem(h0);
    const { voice } = hit(low, h0);
    const row = () => low.scene().rows.find((r) => r.voice === voice)!;
    const before = { height: row().height, scrollRows: low.store.getState().view.scrollRows };
    const dragging = press(low, at(start)).move(at(start, 0, 20), low.context);
    expect(row().height).toBeGreaterThan(2 * before.height);
    expect(Math.abs(low.stem(h0).y - (start.y + 20))).toBeLessThanOrEqual(1);
    if (end === 'up') dragging.up(at(start, 0, 20), low.context);
    else dragging.cancel(low.context);
    expect({ height: row().height, scrollRows: low.store.getState().view.scrollRows }).toEqual(before);
    expect(low.store.getState().focus).toBeNull();
    low.store.getState().undo();
    expect(low.store.getState().view.scrollRows).toBe(60);
  }
});

test('a foot lands on the line under the pointer, whatever line of the grid the hit stood between', () => {
  // A hit on an eighth, moved on a grid of eighth triplets: to a third, not a third after the third that was nearest to it.
  const t = setTable(smallPart([['snare', 1.5, 90]], { bars: 1 }));
  t.store.getState().setView({ grid: '1/8T' });
  const [id] = t.store.getState().part.hits.map((h) => h.id);
  const foot = { ...at(t.place('snare', 1.5, 0)) };
  press(t, foot)
    .move({ ...foot, x: t.place('snare', 2.0, 0).x }, t.context)
    .up({ ...foot, x: t.place('snare', 2.0, 0).x }, t.context);
  expect(hit(t, id!).tick / TICKS_PER_QUARTER).toBe(2);
  // Its lean stays.
  const late = setTable(smallPart([['snare', 1.52, 90]], { bars: 1 }));
  late.store.getState().setView({ grid: '1/8T' });
  const there = { ...at(late.place('snare', 1.5, 0)) };
  press(late, there).move({ ...there, x: late.place('snare', 2 + 1 / 3, 0).x }, late.context);
  expect(late.store.getState().part.hits[0]!.tick / TICKS_PER_QUARTER).toBeCloseTo(2 + 1 / 3 + 0.02, 4);
});

test('a rectangle keeps its start in the music while the page scrolls under it', () => {
  const t = setTable(part);
  const start = { ...at(t.stem(h0), -30), y: 60 };
  const g = press(t, start).move({ ...start, x: start.x + 20 }, t.context);
  const { view, setView } = t.store.getState();
  const before = t.marquees.at(-1)!;
  // A quarter further: what was pressed lies 200 px further left now.
  setView({ scroll: ticks(view.scroll + TICKS_PER_QUARTER) });
  g.move({ ...start, x: start.x + 20 }, t.context);
  expect(t.marquees.at(-1)!.left).toBeCloseTo(before.left - view.pixelsPerQuarter, 6);
});
