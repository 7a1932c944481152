import type { Entry, KeptStep } from './history';

/** What had been undone when something else was done: it can still be brought back. */
export interface Left<T> {
  /** Of the last of its steps. */
  label: string;
  /** How many steps it was. */
  steps: number;
  /** The value that they had led to. */
  value(): T;
}

/** So many are kept. */
const MOST_LEFT = 20;

export const withLeft = <T>(list: readonly Left<T>[], left: Left<T>): readonly Left<T>[] => [...list, left].slice(-MOST_LEFT);

/** The steps forward that a new one leaves behind, as what they would have led to; null where there are none. */
export function leftBy<T, D, S>(base: T, redo: readonly Entry<D, S>[], apply: (value: T, diff: D) => T): Left<T> | null {
  const steps = redo.filter((e) => e.diff !== null);
  const last = steps[0];
  if (!last) return null;
  const value = steps.reduceRight((v, { diff }) => apply(v, diff as D), base);
  return { label: last.label, steps: steps.length, value: () => value };
}

/**
 * The same of edits that were kept, oldest first, which led to `now`: each is worked out when it is asked for, back from there.
 */
export function leftIn<T, D>(
  edits: readonly KeptStep<D>[],
  now: T,
  { apply, invert }: { apply: (value: T, diff: D) => T; invert: (diff: D) => D },
): readonly Left<T>[] {
  let left: readonly Left<T>[] = [];
  let redo: { label: string; diff: D }[] = [];
  edits.forEach(({ label, diff, step }, i) => {
    if (step === 'undo') return void redo.push({ label: label.replace(/^Undo /, ''), diff: invert(diff) });
    if (step === 'redo') return void redo.pop();
    if (step === 'amend') return;
    const steps = redo;
    redo = [];
    if (!steps[0]) return;
    const value = () => {
      const before = edits.slice(i).reduceRight((v, e) => apply(v, invert(e.diff)), now);
      return steps.reduceRight((v, e) => apply(v, e.diff), before);
    };
    left = withLeft(left, { label: steps[0].label, steps: steps.length, value });
  });
  return left;
}
