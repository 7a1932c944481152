import type { PartDiff } from '@/core/part/diff';
import type { KeptGroove } from '@/storage/groove-store';

/** What a finished action changed: a groove of the user's own (null: not there), or the part that grooves are tried on. */
export type Change = { kind: 'groove'; id: string; before: KeptGroove | null; after: KeptGroove | null } | { kind: 'part'; partId: string; diff: PartDiff };

export interface Entry {
  label: string;
  change: Change;
}

export interface History {
  undo: readonly Entry[];
  redo: readonly Entry[];
}

export const EMPTY_HISTORY: History = { undo: [], redo: [] };

const LONGEST = 300;

export const withEntry = (history: History, entry: Entry): History => ({ undo: [...history.undo.slice(-LONGEST + 1), entry], redo: [] });

export const stepped = (history: History, back: boolean): History => {
  const [from, to] = back ? [history.undo, history.redo] : [history.redo, history.undo];
  const entry = from[from.length - 1];
  if (!entry) return history;
  const [shorter, longer] = [from.slice(0, -1), [...to, entry]];
  return back ? { undo: shorter, redo: longer } : { undo: longer, redo: shorter };
};
