import { applyDiff, diffParts, invertDiff, type PartDiff } from '@/core/part/diff';
import type { HitId, Part } from '@/core/part/part';

/** One finished gesture: what it changed, and what was selected before and after. */
export interface Entry {
  label: string;
  diff: PartDiff;
  selectedBefore: ReadonlySet<HitId>;
  selectedAfter: ReadonlySet<HitId>;
}

export interface History {
  undo: readonly Entry[];
  redo: readonly Entry[];
}

export const EMPTY_HISTORY: History = { undo: [], redo: [] };

/** More steps than anybody goes back; each is as small as what it changed. */
const LONGEST = 500;

/** Adds a finished gesture; null where it changed nothing. */
export function record(history: History, label: string, before: Part, after: Part, selectedBefore: ReadonlySet<HitId>, selectedAfter: ReadonlySet<HitId>): { history: History; entry: Entry } | null {
  const diff = diffParts(before, after);
  if (!diff) return null;
  const entry: Entry = { label, diff, selectedBefore, selectedAfter };
  return { entry, history: { undo: [...history.undo.slice(-LONGEST + 1), entry], redo: [] } };
}

export interface Step {
  part: Part;
  history: History;
  /** What was applied: to be written into the store like any other edit. */
  diff: PartDiff;
  label: string;
  selection: ReadonlySet<HitId>;
}

export function stepBack(history: History, part: Part): Step | null {
  const entry = history.undo[history.undo.length - 1];
  if (!entry) return null;
  const diff = invertDiff(entry.diff);
  return {
    part: applyDiff(part, diff),
    diff,
    label: `Undo ${entry.label}`,
    selection: entry.selectedBefore,
    history: { undo: history.undo.slice(0, -1), redo: [...history.redo, entry] },
  };
}

export function stepForward(history: History, part: Part): Step | null {
  const entry = history.redo[history.redo.length - 1];
  if (!entry) return null;
  return {
    part: applyDiff(part, entry.diff),
    diff: entry.diff,
    label: entry.label,
    selection: entry.selectedAfter,
    history: { undo: [...history.undo, entry], redo: history.redo.slice(0, -1) },
  };
}
