/** The step cursor: a line of the placing grid in a row, moved and used by keys. */
import { newHitId } from '@/editing/ids';
import { addHits, removeHits } from '@/core/commands/hits';
import { labelOfRow } from '@/core/part/rows';
import { lockTest, withoutLocked } from '@/core/part/locks';
import type { HitId, Part } from '@/core/model/part';
import { endOfPart, meterMapOf } from '@/core/part/part-time';
import { nearestLine, stepOf, type GridName } from '@/core/time/grid';
import { clamp, ticks, type Ticks } from '@/core/units';
import type { VoiceName } from '@/core/row-names';
import { say } from '@/ui/notify';
import { placeText } from '../words/describe';
import { rowsInView } from '../stems/geometry/rows';
import type { BenchStore } from '../store/bench-store';
import { paintVelocity, linesOfStroke, type StepCursor } from '../store/tools';

/** Ids of the hits of a voice that are nearest to a line. */
export function hitsOnLine(part: Part, { voice, tick }: StepCursor, grid: GridName): HitId[] {
  const map = meterMapOf(part);
  const step = stepOf(grid);
  return part.hits
    .filter((h) => h.voice === voice && Math.abs(h.tick - tick) <= step && nearestLine(map, h.tick, step).tick === tick)
    .map((h) => h.id);
}

/** Shows the step cursor: on the selected hit, else on the focused row at the first line in sight; or hides it. */
export function toggleCaret(store: BenchStore): void {
  const { ui, setUi, part, view, focus, selection } = store.getState();
  if (ui.step) return setUi({ step: null });
  const rows = rowsInView(part, view.hideEmpty);
  const map = meterMapOf(part);
  const selected = part.hits.find((h) => selection.has(h.id));
  const voice = selected?.voice ?? focus ?? rows[rows.length - 1]?.voice;
  if (!voice) return;
  const tick = clamp(selected?.tick ?? Math.max(view.scroll, part.origin), part.origin, endOfPart(part) - 1);
  setUi({ step: { voice, tick: nearestLine(map, ticks(tick), stepOf(view.grid)).tick } });
}

/** Puts the cursor on a line and selects what stands there; with `extend` it is added to the selection. */
function goTo(store: BenchStore, step: StepCursor, extend: boolean): void {
  const { part, view, setUi, setFocus, select, selection, focus } = store.getState();
  setUi({ step });
  if (focus !== step.voice) setFocus(step.voice);
  const found = hitsOnLine(part, step, view.grid);
  if (extend) select([...selection, ...found]);
  else if (found.length > 0 || selection.size > 0) select(found);
}

/** Moves the cursor by lines of the grid; lines restart at each bar. */
export function moveCaret(store: BenchStore, lines: number, extend = false): void {
  const { ui, part, view } = store.getState();
  if (!ui.step) return;
  goTo(store, { ...ui.step, tick: lineFrom(part, view.grid, ui.step.tick, lines) }, extend);
}

function lineFrom(part: Part, grid: GridName, tick: Ticks, lines: number): Ticks {
  const map = meterMapOf(part);
  const step = stepOf(grid);
  let at = nearestLine(map, tick, step).tick;
  for (let i = 0; i < Math.abs(lines); i++) {
    const bar = map.barAt(lines < 0 ? ticks(at - 1) : at);
    const place = at - bar.start;
    at = ticks(
      bar.start +
        (lines < 0 ? (Math.ceil(place / step - 1e-6) - 1) * step : Math.min(bar.length, (Math.floor(place / step + 1e-6) + 1) * step)),
    );
  }
  const last = lastLine(part, grid);
  return ticks(clamp(at, part.origin, last));
}

function lastLine(part: Part, grid: GridName): Ticks {
  const end = endOfPart(part);
  const bar = meterMapOf(part).barAt(ticks(end - 1));
  const step = stepOf(grid);
  return ticks(bar.start + (Math.ceil(bar.length / step - 1e-6) - 1) * step);
}

/** Moves the cursor to another row. */
export function moveCaretRow(store: BenchStore, down: number, extend = false): void {
  const { ui, part, view } = store.getState();
  if (!ui.step) return;
  const rows = rowsInView(part, view.hideEmpty).map((r) => r.voice);
  const voice = rows[clamp(rows.indexOf(ui.step.voice) + down, 0, rows.length - 1)];
  if (voice) goTo(store, { ...ui.step, voice }, extend);
}

/** To the next or previous bar line, or the start or end of the part. */
export function moveCaretBar(store: BenchStore, where: 'start' | 'end' | 'next' | 'previous'): void {
  const { ui, part, view } = store.getState();
  if (!ui.step) return;
  const map = meterMapOf(part);
  const bar = map.barAt(ui.step.tick);
  const tick = {
    start: part.origin,
    end: lastLine(part, view.grid),
    next: map.barOf(Math.min(part.bars - 1, bar.index + 1)).start,
    previous: ui.step.tick > bar.start ? bar.start : map.barOf(Math.max(0, bar.index - 1)).start,
  }[where];
  goTo(store, { ...ui.step, tick: ticks(tick) }, false);
}

/** Places a plain hit at the cursor, or takes away what stands there. */
export function toggleAtCaret(store: BenchStore, audition: (voice: VoiceName, velocity: number) => void): void {
  const { ui, part, view, run } = store.getState();
  const { step } = ui;
  if (!step) return;
  const present = hitsOnLine(part, step, view.grid);
  const name = labelOfRow(part, step.voice).toLowerCase();
  if (present.length > 0) {
    const { ids } = withoutLocked(part, new Set(present));
    if (ids.size === 0) return say('This hit is locked: unlock it first.');
    return run(
      `Delete the ${name} at ${placeText(part, step.tick)}`,
      (p) => removeHits(p, ids),
      () => [],
    );
  }
  const id = newHitId();
  const { velocity } = ui;
  run(
    `Add a ${name} hit`,
    (p) => addHits(p, [{ id, voice: step.voice, tick: step.tick, velocity }]),
    () => [id],
  );
  audition(step.voice, velocity);
}

/** Paints hits from the cursor to the end of its bar, or of the loop's last bar where that is later. */
export function fillFromCaret(store: BenchStore): void {
  const { ui, part, view, run, transport } = store.getState();
  const { step } = ui;
  if (!step) return;
  const map = meterMapOf(part);
  const bar = map.barAt(step.tick);
  const lastBar = transport.loop && transport.toBar - 1 > bar.index ? map.barOf(transport.toBar - 1) : bar;
  const lines = linesOfStroke(part, view.grid, ui.paint.stride, step.tick, ticks(lastBar.start + lastBar.length - 1));
  const isLocked = lockTest(part);
  const free = lines.filter((tick) => hitsOnLine(part, { voice: step.voice, tick }, view.grid).length === 0);
  const again = new Map(lines.flatMap((tick) => hitsOnLine(part, { voice: step.voice, tick }, view.grid).map((id) => [id, tick] as const)));
  const fresh = free.map((tick) => ({
    id: newHitId(),
    voice: step.voice,
    tick,
    velocity: paintVelocity(part, ui.paint, view.grid, tick),
    ghost: ui.paint.ghosts,
  }));
  run(
    `Paint the ${labelOfRow(part, step.voice).toLowerCase()}`,
    (p) => {
      const repainted = p.hits.map((h) =>
        again.has(h.id) && !isLocked(h)
          ? { ...h, velocity: paintVelocity(p, ui.paint, view.grid, again.get(h.id) as Ticks) as typeof h.velocity }
          : h,
      );
      return addHits({ ...p, hits: repainted }, fresh);
    },
    () => [...again.keys(), ...fresh.map((h) => h.id)],
  );
}
