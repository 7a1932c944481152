import { applyDiff, diffParts, invertDiff, type PartDiff } from '@/core/part/diff';
import type { HitId, Part } from '@/core/part/part';
import type { Sight } from '../view';

/** What a step leads back to beside the part: what was selected, and what was in sight. */
export interface Surroundings {
  selection: ReadonlySet<HitId>;
  sight: Sight;
}

/** One finished gesture: what it changed, and its surroundings before and after. A lost selection is an entry without a diff. */
export interface Entry {
  label: string;
  diff: PartDiff | null;
  before: Surroundings;
  after: Surroundings;
}

export interface History {
  undo: readonly Entry[];
  redo: readonly Entry[];
}

export const EMPTY_HISTORY: History = { undo: [], redo: [] };

/** More steps than anybody goes back; each is as small as what it changed. */
const LONGEST = 500;

const withEntry = (history: History, entry: Entry): History => ({ undo: [...history.undo.slice(-LONGEST + 1), entry], redo: [] });

/** Adds a finished gesture; null where it changed nothing. */
export function record(history: History, label: string, from: Part, to: Part, before: Surroundings, after: Surroundings): { history: History; diff: PartDiff } | null {
  const diff = diffParts(from, to);
  return diff ? { diff, history: withEntry(history, { label, diff, before, after }) } : null;
}

/** Adds a change of the selection alone. */
export const recordSelection = (history: History, before: Surroundings, after: Surroundings): History => withEntry(history, { label: 'Change the selection', diff: null, before, after });

export interface Step {
  part: Part;
  history: History;
  /** What was applied: to be written into the store like any other edit; null where the part stayed. */
  diff: PartDiff | null;
  label: string;
  surroundings: Surroundings;
}

export function stepBack(history: History, part: Part): Step | null {
  const entry = history.undo[history.undo.length - 1];
  if (!entry) return null;
  const diff = entry.diff && invertDiff(entry.diff);
  return {
    part: diff ? applyDiff(part, diff) : part,
    diff,
    label: `Undo ${entry.label}`,
    surroundings: entry.before,
    history: { undo: history.undo.slice(0, -1), redo: [...history.redo, entry] },
  };
}

export function stepForward(history: History, part: Part): Step | null {
  const entry = history.redo[history.redo.length - 1];
  if (!entry) return null;
  return {
    part: entry.diff ? applyDiff(part, entry.diff) : part,
    diff: entry.diff,
    label: entry.label,
    surroundings: entry.after,
    history: { undo: [...history.undo, entry], redo: history.redo.slice(0, -1) },
  };
}
