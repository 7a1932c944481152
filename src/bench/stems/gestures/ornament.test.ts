import { setLocked } from '@/core/commands/marks';
import { setOrnament } from '@/core/commands/ornaments';
import type { Ornament } from '@/core/model/ornament';
import { performPart } from '@/core/perform/perform';
import { strokesOf } from '@/core/ornament/strokes';
import { ticks, TICKS_PER_QUARTER } from '@/core/units';
import { newOrnament } from '@/core/ornament/all';
import { smallPart } from '@tests/support/arbitraries';
import { at, setTable, type Table } from '@tests/support/bench-table';
import { xOf } from '../geometry/axis';
import type { OrnamentMark } from '../geometry/ornaments';
import { idle } from './idle';

const base = smallPart([
  ['snare', 1, 100],
  ['snare', 2, 90],
  ['rim', 3, 80],
]);
const hit = base.hits[0]!;

/** A Bench where the first snare carries an ornament and is selected. */
function tableWith(ornament: Ornament): Table {
  const t = setTable(setOrnament(base, new Set([hit.id]), ornament));
  t.store.getState().select([hit.id]);
  return t;
}
const mark = (t: Table): OrnamentMark => t.scene().ornaments[0]!;
const now = (t: Table): Ornament => t.store.getState().part.hits.find((h) => h.id === hit.id)!.ornament!;
const middle = (m: OrnamentMark) => ({ x: (m.from.x + m.to.x) / 2, y: (m.from.y + m.to.y) / 2 });

function drag(t: Table, from: { x: number; y: number }, dx: number, dy: number) {
  let g = idle.down!(at(from), t.context);
  g = g.move(at(from, dx / 2, dy / 2), t.context);
  g = g.move(at(from, dx, dy), t.context);
  return g;
}

test('strokes are drawn where they sound, as high as they are loud, one bracket over them', () => {
  const t = tableWith({ ...newOrnament('roll'), to: 0.5 });
  const m = mark(t);
  const { part } = t.store.getState();
  const strokes = strokesOf(part, performPart(part));
  const own = [...strokes.hits].flatMap((h, s) => (h === 0 && strokes.numbers[s]! > 0 ? [s] : []));
  expect(m.strokes.map((s) => s.velocity)).toEqual(own.map((s) => strokes.velocities[s]));
  m.strokes.forEach((s, k) => expect(s.x).toBeCloseTo(xOf(t.scene().axis, strokes.ticks[own[k]!]!), 6));
  expect(m.strokes.map((s) => s.top)).toEqual([...m.strokes.map((s) => s.top)].sort((a, b) => a - b));
  expect(m.count).toBe(8);
});

test('an echo on another row is drawn there', () => {
  const t = tableWith({ ...newOrnament('echo'), repeats: 2, voice: 'rim' });
  const rim = t.scene().rows.find((r) => r.voice === 'rim')!;
  expect(mark(t).strokes.map((s) => s.baseline)).toEqual([rim.baseline, rim.baseline]);
});

test('the bracket of a roll of two strokes that lie close can be held beside its end', () => {
  // A two-stroke roll over a sixteenth at 80 pixels a quarter: its strokes stand 10 pixels apart.
  const t = tableWith({ ...newOrnament('roll'), strokes: 2, length: ticks(TICKS_PER_QUARTER / 4) } as Ornament);
  t.store.getState().setView({ pixelsPerQuarter: 80 });
  const m = mark(t);
  expect(m.to.x - m.from.x).toBeLessThan(18);
  drag(t, middle(m), 0, -20).up(at(middle(m)), t.context);
  expect(now(t)).toMatchObject({ strokes: 4 });
  expect(t.context.gripAt(at(mark(t).to))?.part).toBe('end');
});

test('the bracket dragged up gives more strokes, the end its slope and its length; one step each, Escape puts back', () => {
  const t = tableWith({ ...newOrnament('roll'), strokes: 4 });
  drag(t, middle(mark(t)), 0, -30).up(at(middle(mark(t))), t.context);
  expect(now(t)).toMatchObject({ strokes: 7 });
  expect(t.readouts).toContain('7 strokes');
  expect(t.store.getState().history.undo).toHaveLength(1);

  drag(t, mark(t).to, 0, -18).up(at(mark(t).to), t.context);
  expect(now(t)).toMatchObject({ to: 1 });
  // 200 px a quarter: 100 px are two sixteenths more than the four it had.
  drag(t, mark(t).to, 100, 0).up(at(mark(t).to), t.context);
  expect(now(t)).toMatchObject({ length: ticks(1.5 * TICKS_PER_QUARTER) });
  const before = now(t);
  drag(t, mark(t).to, 50, 0).cancel(t.context);
  expect(now(t)).toEqual(before);
  expect(t.store.getState().history.undo).toHaveLength(3);
});

test('grace strokes and repeats are dragged in the same way', () => {
  const flam = tableWith(newOrnament('flam'));
  drag(flam, mark(flam).to, -12, 0).up(at(mark(flam).to), flam.context);
  expect(now(flam)).toMatchObject({ spacingMs: 37 });
  drag(flam, mark(flam).to, 0, -16).up(at(mark(flam).to), flam.context);
  expect(now(flam)).toMatchObject({ level: 0.75 });
  const echo = tableWith(newOrnament('echo'));
  drag(echo, middle(mark(echo)), 0, -20).up(at(middle(mark(echo))), echo.context);
  expect(now(echo)).toMatchObject({ repeats: 5 });
  drag(echo, mark(echo).to, 0, -12).up(at(mark(echo).to), echo.context);
  expect(now(echo)).toMatchObject({ decay: 0.75 });
});

test('the ornament of a locked hit stays, and says so', () => {
  const t = tableWith({ ...newOrnament('roll'), strokes: 4 });
  t.store.getState().run('lock', (p) => setLocked(p, new Set([hit.id]), true));
  const before = now(t);
  drag(t, middle(mark(t)), 0, -30).up(at(middle(mark(t))), t.context);
  expect(now(t)).toEqual(before);
  expect(t.readouts).toContain('locked');
  expect(t.store.getState().history.undo).toHaveLength(1);
});

test('what is not selected has no grips: a press there is one on the stem', () => {
  const t = tableWith({ ...newOrnament('roll'), strokes: 4 });
  const { to } = mark(t);
  t.store.getState().select([]);
  expect(t.context.gripAt(at(to))).toBeUndefined();
});
