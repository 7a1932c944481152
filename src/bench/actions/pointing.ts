/** Pointing out a move's scope on the Bench: rows by their names, bars on the ruler, steps by the stems' lines. */
import { changeMove } from '@/core/commands/moves';
import { toggleRow } from '@/core/feel/scope-rows';
import type { Move, Scope } from '@/core/model/feel';
import { meterMapOf } from '@/core/part/part-time';
import { rowsNamed } from '@/core/part/rows';
import type { Part } from '@/core/model/part';
import { nearestLine, stepOf } from '@/core/time/grid';
import type { Ticks } from '@/core/units';
import type { VoiceName } from '@/core/row-names';
import type { BenchStore } from '../store/bench-store';

const toggled = <T extends string | number>(list: readonly T[], item: T): T[] =>
  list.includes(item) ? list.filter((x) => x !== item) : [...list, item];

function pointScope(store: BenchStore, label: string, change: (scope: Scope, part: Part) => Scope): void {
  const { ui, part, run } = store.getState();
  const index = ui.pointing;
  const move = index === null ? undefined : part.feel.moves[index];
  if (index === null || !move) return;
  const next = Object.fromEntries(Object.entries(change(move.scope ?? {}, part)).filter(([, v]) => v !== undefined)) as Scope;
  run(`Point out ${label}`, (p) => changeMove<Move>(p, index, { scope: Object.keys(next).length > 0 ? next : undefined }));
}

/** A row in or out; with none left, or all in, the scope names no rows. */
export const pointAtRow = (store: BenchStore, voice: VoiceName): void =>
  pointScope(store, 'a row', (scope, part) => {
    const voices = toggleRow(part, scope.voices ?? [], voice);
    return { ...scope, voices: voices.length === 0 || rowsNamed(part, voices).length === part.rows.length ? undefined : voices };
  });

/** The bars that a scope names, 1-based. */
function barsNamed({ bars }: Scope, part: Part): number[] {
  if (!bars) return [];
  const all = Array.from({ length: part.bars }, (_, i) => i + 1);
  return all.filter(
    (b) =>
      b >= (bars.from ?? 1) && b <= (bars.to ?? part.bars) && (!bars.every || !bars.at || bars.at.includes(((b - 1) % bars.every) + 1)),
  );
}

export const pointAtBar = (store: BenchStore, bar: number): void =>
  pointScope(store, 'a bar', (scope, part) => {
    const bars = toggled(barsNamed(scope, part), bar).sort((a, b) => a - b);
    const [first, last] = [bars[0], bars[bars.length - 1]];
    if (first === undefined || last === undefined || bars.length === part.bars) return { ...scope, bars: undefined };
    return { ...scope, bars: last - first + 1 === bars.length ? { from: first, to: last } : { every: part.bars, at: bars } };
  });

/** The step of its bar that a line is, in every bar. */
export const pointAtStep = (store: BenchStore, tick: Ticks): void =>
  pointScope(store, 'a step', (scope, part) => {
    const map = meterMapOf(part);
    const { grid } = store.getState().view;
    const step = stepOf(grid);
    const of = Math.max(1, Math.round(map.barAt(tick).length / step));
    const known = scope.steps?.grid === grid && scope.steps.of === of ? scope.steps.at : [];
    const at = toggled(known, nearestLine(map, tick, step).step % of).sort((a, b) => a - b);
    return { ...scope, steps: at.length === 0 || at.length === of ? undefined : { grid, of, at } };
  });
