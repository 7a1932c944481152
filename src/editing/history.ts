/** How values of one kind are compared and led from one to the next. */
export interface Diffing<T, D> {
  /** Null where nothing differs: then there is no step. */
  diff(before: T, after: T): D | null;
  apply(value: T, diff: D): T;
  /** The value of a finished step in the form that is kept: equal to it, and made once. */
  settled?(before: T, after: T): T;
  invert(diff: D): D;
  /** Two diffs, the second of which starts where the first leads to, as one; without it nothing goes with the step before. */
  join?(first: D, second: D): D;
}

/** One finished transaction: its diff, and what surrounded the value before and after it. */
export interface Entry<D, S> {
  label: string;
  diff: D;
  before: S;
  after: S;
}

export interface History<D, S> {
  undo: readonly Entry<D, S>[];
  redo: readonly Entry<D, S>[];
}

/** More steps than anybody goes back; each is as small as what it changed. */
const LONGEST = 500;

export const emptyHistory = <D, S>(): History<D, S> => ({ undo: [], redo: [] });

/** Adds a step; what could be done again is gone. */
export const withEntry = <D, S>(history: History<D, S>, entry: Entry<D, S>): History<D, S> => ({
  undo: [...history.undo.slice(-LONGEST + 1), entry],
  redo: [],
});

/** The history after its last step was undone, and that step; null where there is none. */
export function steppedBack<D, S>({ undo, redo }: History<D, S>): { entry: Entry<D, S>; history: History<D, S> } | null {
  const entry = undo.at(-1);
  return entry ? { entry, history: { undo: undo.slice(0, -1), redo: [...redo, entry] } } : null;
}

/** The same forward. */
export function steppedForward<D, S>({ undo, redo }: History<D, S>): { entry: Entry<D, S>; history: History<D, S> } | null {
  const entry = redo.at(-1);
  return entry ? { entry, history: { undo: [...undo, entry], redo: redo.slice(0, -1) } } : null;
}

/** Puts what was done before a reload under what has been done since; steps forward are gone once something was done. */
export function withOlder<D, S>(history: History<D, S>, older: History<D, S>): History<D, S> {
  const fresh = history.undo.length === 0 && history.redo.length === 0;
  return { undo: [...older.undo, ...history.undo].slice(-LONGEST), redo: fresh ? older.redo : history.redo };
}

/** An edit as it was kept. */
export interface KeptStep<D> {
  label: string;
  diff: D;
  step?: StepKind;
}

/** What an edit was: done anew, a step back or a step forward, or something that goes with the step before. */
export type StepKind = 'do' | 'undo' | 'redo' | 'amend';

/**
 * The history that a list of kept edits leads to, oldest first: steps back and forward are among them.
 * @param surround what surrounded a step of which only the diff is known
 * @param from what they were done after
 */
export function historyOf<D, S>(
  edits: readonly KeptStep<D>[],
  { invert, join }: Pick<Diffing<unknown, D>, 'invert' | 'join'>,
  surround: (diff: D) => { before: S; after: S },
  from: History<D, S> = emptyHistory(),
): History<D, S> {
  const entryOf = (label: string, diff: D): Entry<D, S> => ({ label, diff, ...surround(diff) });
  const undo: Entry<D, S>[] = [...from.undo];
  let redo: Entry<D, S>[] = [...from.redo];
  for (const { label, diff, step } of edits) {
    if (step === 'undo') redo.push(undo.pop() ?? entryOf(label.replace(/^Undo /, ''), invert(diff)));
    else if (step === 'redo') undo.push(redo.pop() ?? entryOf(label, diff));
    else if (step === 'amend') {
      const last = undo.pop();
      if (last) undo.push(join ? { ...last, diff: join(last.diff, diff) } : last);
      if (!last || !join) undo.push(entryOf(label, diff));
    } else {
      undo.push(entryOf(label, diff));
      redo = [];
    }
  }
  return { undo: undo.slice(-LONGEST), redo };
}
