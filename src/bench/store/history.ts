import { applyDiff, diffParts, invertDiff, type PartDiff } from '@/core/part/diff';
import type { HitId, Part } from '@/core/part/part';
import type { Sight } from '../view';

/** What a step leads back to beside the part: what was selected, and what was in sight. */
export interface Surroundings {
  selection: ReadonlySet<HitId>;
  /** Null for steps of before a reload: what is in sight stays. */
  sight: Sight | null;
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

/** A finished edit as the store keeps it. */
export interface KeptEdit {
  label: string;
  diff: PartDiff;
  step?: 'do' | 'undo' | 'redo';
}

/** The history that a list of edits leads to, oldest first: steps back and forward are among them. What a step touched is selected with it. */
export function historyOf(edits: readonly KeptEdit[]): History {
  const undo: Entry[] = [];
  let redo: Entry[] = [];
  for (const { label, diff, step } of edits) {
    if (step === 'undo') redo.push(undo.pop() ?? entryOf(label.replace(/^Undo /, ''), invertDiff(diff)));
    else if (step === 'redo') undo.push(redo.pop() ?? entryOf(label, diff));
    else {
      undo.push(entryOf(label, diff));
      redo = [];
    }
  }
  return { undo: undo.slice(-LONGEST), redo };
}

const entryOf = (label: string, diff: PartDiff): Entry => ({
  label,
  diff,
  before: { selection: new Set(diff.removed.map((h) => h.id)), sight: null },
  after: { selection: new Set(diff.added.map((h) => h.id)), sight: null },
});

/** Puts what was done before a reload under what has been done since; steps forward are gone once something was done. */
export function withOlder(history: History, older: History): History {
  const fresh = history.undo.length === 0 && history.redo.length === 0;
  return { undo: [...older.undo, ...history.undo].slice(-LONGEST), redo: fresh ? older.redo : history.redo };
}
