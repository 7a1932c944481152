/** What the selection can be told to do on the grid: go, come again, move over, turn round. */
import { counted, plural } from '@/core/plurals';
import { newHitId } from '@/editing/ids';
import { duplicateHits, repeatIntoNextBars, type Copied, type Onto } from '@/core/commands/copy';
import { removeHits } from '@/core/commands/hits';
import { freeLines, invertSteps, shiftHits } from '@/core/commands/place';
import { labelOfRow } from '@/core/part/rows';
import { withoutLocked } from '@/core/part/locks';
import type { HitId, Part } from '@/core/model/part';
import { endOfPart } from '@/core/part/part-time';
import { barsOfHits, hitsInRange, rangeOfBars, type TickRange } from '@/core/homes/ticks-range';
import type { VoiceName } from '@/core/row-names';
import { clamp } from '@/core/units';
import { say, sayWith } from '@/ui/notify';
import { rememberOnto } from '../store/remembered';
import { stemsFacts } from '../store/stems-facts';
import type { BenchState, BenchStore } from '../store/bench-store';
import { actOnSelection, canTouch, touchOf } from './act';
import { revealBar } from './view-control';

export function deleteSelection(store: BenchStore): void {
  actOnSelection(store, 'Delete', removeHits, () => []);
}

/** Adds copies of the selection and selects them. */
export function addCopies(store: BenchStore, verb: string, copy: (part: Part, ids: ReadonlySet<HitId>, onto: Onto) => Copied): void {
  const { part, selection, run } = store.getState();
  const touch = touchOf(part, selection);
  // Copying leaves the originals alone, so locked ones may be copied too.
  if (selection.size === 0) return void canTouch(touch);
  const label = `${verb} ${touchOf(part, selection).what}`;
  putCopies(store, (onto) => {
    let copied: Copied = { part, ids: [], replaced: 0, leftOut: 0 };
    run(
      label,
      (p) => (copied = copy(p, selection, onto)).part,
      () => (copied.ids.length > 0 ? copied.ids : selection),
    );
    return copied;
  });
}

/**
 * Puts copies down as it is remembered, takes the loop along, and says what became of hits that were in their way, with the other
 * choice beside it.
 */
export function putCopies(store: BenchStore, put: (onto: Onto) => Copied, done: 'added' | 'moved' = 'added'): Copied {
  const { ui } = store.getState();
  const copied = put(ui.onto);
  reachCopies(store, copied.ids);
  const after = store.getState().part;
  const other: Onto = ui.onto === 'replace' ? 'join' : 'replace';
  if (copied.replaced + copied.leftOut > 0) {
    sayWith(copiesText(copied, done), other === 'join' ? 'Leave what was there' : 'Replace what is there', () => {
      rememberOnto(other);
      store.getState().setUi({ onto: other });
      if (store.getState().part !== after) return say('You have changed something since, so the choice applies from the next copy on.');
      if (copied.ids.length > 0) store.getState().undo();
      reachCopies(store, put(other).ids);
    });
  } else if (copied.ids.length === 0) say(`Nothing was ${done}.`);
  return copied;
}

/** @example copiesText({ ids: ['a', 'b'], replaced: 1, leftOut: 0 }, 'added') // '2 hits added, 1 that stood there was replaced.' */
function copiesText({ ids, replaced, leftOut }: Copied, done: 'added' | 'moved'): string {
  const added = ids.length === 0 ? `Nothing was ${done}` : `${counted(ids.length, 'hit')} ${done}`;
  if (replaced > 0)
    return `${added}, ${replaced} that stood there ${plural(replaced, 'was', 'were')} replaced${leftOut > 0 ? `; ${leftOut} locked ${plural(leftOut, 'one')} stayed` : ''}.`;
  return `${added}; ${counted(leftOut, 'step has a hit already and keeps', 'steps have hits already and keep')} it.`;
}

/** A loop that does not reach the copies is made longer, so that they are heard. */
function reachCopies(store: BenchStore, ids: readonly HitId[]) {
  const { part, transport, setTransport } = store.getState();
  const bars = barsOfHits(part, new Set(ids));
  if (bars) revealBar(store, clamp(bars.from, 0, part.bars - 1), stemsFacts(store).width);
  if (!transport.loop || !bars || bars.to <= transport.toBar) return;
  setTransport({ toBar: Math.min(part.bars, bars.to) });
}

export const duplicateSelection = (store: BenchStore): void =>
  addCopies(store, 'Duplicate', (part, ids, onto) => duplicateHits(part, ids, newHitId, onto));

export const repeatSelection = (store: BenchStore): void =>
  addCopies(store, 'Repeat into the next bar', (part, ids, onto) => repeatIntoNextBars(part, ids, newHitId, onto));

/** Where shifts wrap around: the bars of the selection. */
function wrapRange(part: Part, ids: ReadonlySet<HitId>): TickRange {
  const bars = barsOfHits(part, ids);
  return bars ? rangeOfBars(part, Math.max(0, bars.from), Math.min(part.bars, bars.to)) : { start: part.origin, end: endOfPart(part) };
}

/**
 * Moves the selection, or without one the focused row, by steps of the placing grid; what leaves its bars at one end comes in at the other.
 */
export function shiftSelection(store: BenchStore, steps: number): void {
  const state = store.getState();
  const { part, view, focus, selection } = state;
  if (selection.size > 0)
    return actOnSelection(store, steps < 0 ? 'Shift left' : 'Shift right', (p, ids) =>
      shiftHits(p, ids, steps, view.grid, wrapRange(p, ids)),
    );
  if (focus) shiftRow(store, focus, steps);
  else canTouch(touchOf(part, selection));
}

/** Shifts a whole row; it wraps around the part. */
export function shiftRow(store: BenchStore, voice: VoiceName, steps: number): void {
  const { part, view, run } = store.getState();
  const { ids } = withoutLocked(part, new Set(part.hits.filter((h) => h.voice === voice).map((h) => h.id)));
  run(`Shift the ${labelOfRow(part, voice).toLowerCase()} ${steps < 0 ? 'left' : 'right'}`, (p) =>
    shiftHits(p, ids, steps, view.grid, { start: p.origin, end: endOfPart(p) }),
  );
}

/** The bars that a row's tools work on: those of the selection in it, else the loop's. */
export function workingBars({ part, selection, transport }: Pick<BenchState, 'part' | 'selection' | 'transport'>): {
  from: number;
  to: number;
} {
  const bars = barsOfHits(part, selection);
  if (bars) return { from: Math.max(0, bars.from), to: Math.min(part.bars, bars.to) };
  return transport.loop ? { from: transport.fromBar, to: transport.toBar } : { from: 0, to: part.bars };
}

/** Swaps filled and empty steps of a row in the working bars. */
export function invertRow(store: BenchStore, voice: VoiceName): void {
  const state = store.getState();
  const { part, view, ui, run } = state;
  const bars = workingBars(state);
  const range = rangeOfBars(part, bars.from, bars.to);
  const inside = hitsInRange(part, range);
  const { ids } = withoutLocked(part, new Set(part.hits.filter((h) => h.voice === voice && inside.has(h.id)).map((h) => h.id)));
  const made: HitId[] = [];
  const makeId = (): HitId => {
    made.push(newHitId());
    return made[made.length - 1] as HitId;
  };
  const filled = freeLines(part, voice, view.grid, range).length;
  run(
    `Invert the ${labelOfRow(part, voice).toLowerCase()} in ${barsText(bars)}: ${filled} in, ${ids.size} out`,
    (p) => invertSteps(p, { voice, grid: view.grid, range, velocity: ui.velocity, removable: ids, newId: makeId }),
    () => made,
  );
}

/** @example barsText({ from: 0, to: 2 }) // 'bars 1 to 2' */
export const barsText = ({ from, to }: { from: number; to: number }): string =>
  to - from === 1 ? `bar ${to}` : `bars ${from + 1} to ${to}`;
