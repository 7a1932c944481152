/** What is worked on in the Grooves place: the user's own grooves, and the part that grooves are tried on. */
import { applyDiff, diffParts, invertDiff, type PartDiff } from '@/core/part/diff';
import type { Part } from '@/core/model/part';
import type { Diffing, Transaction } from '@/editing/document';
import { byName, type KeptGroove } from '@/storage/groove-store';

/** The part that grooves are tried and used on. */
export interface Stand {
  id: string;
  part: Part;
  /** Number of its last edit in the store when it was read. */
  head: number;
}

export interface GroovesWork {
  /** Null until the store has answered; sorted by name. */
  own: readonly KeptGroove[] | null;
  stand: Stand | null;
}

/** What a finished action changed: a groove of the user's own (null: not there), or the part on the stand. */
export type GroovesChange =
  { kind: 'groove'; id: string; before: KeptGroove | null; after: KeptGroove | null } | { kind: 'part'; partId: string; diff: PartDiff };

export const sorted = (own: readonly KeptGroove[]): KeptGroove[] => [...own].sort(byName);

/** The grooves with one of them changed, new, or (null) gone. */
export const withGroove = (own: readonly KeptGroove[] | null, id: string, kept: KeptGroove | null): KeptGroove[] => {
  const rest = (own ?? []).filter((k) => k.id !== id);
  return kept ? sorted([...rest, kept]) : rest;
};

export const WORK_DIFFS: Diffing<GroovesWork, GroovesChange> = {
  /** An action changes the part or one groove. */
  diff(before, after) {
    if (before.stand && after.stand && before.stand.part !== after.stand.part) {
      const diff = diffParts(before.stand.part, after.stand.part);
      return diff && { kind: 'part', partId: after.stand.id, diff };
    }
    if (before.own === after.own) return null;
    const was = new Map((before.own ?? []).map((k) => [k.id, k]));
    const is = new Map((after.own ?? []).map((k) => [k.id, k]));
    const id = [...was.keys(), ...is.keys()].find((k) => was.get(k) !== is.get(k));
    return id === undefined ? null : { kind: 'groove', id, before: was.get(id) ?? null, after: is.get(id) ?? null };
  },
  /** A step of a part that is no longer on the stand is passed over: its Bench has it too. */
  apply(work, change) {
    if (change.kind === 'groove') return { ...work, own: withGroove(work.own, change.id, change.after) };
    return work.stand?.id === change.partId ? { ...work, stand: { ...work.stand, part: applyDiff(work.stand.part, change.diff) } } : work;
  },
  invert: (change) =>
    change.kind === 'groove' ? { ...change, before: change.after, after: change.before } : { ...change, diff: invertDiff(change.diff) },
};

/** An edit of one thing of the work, by what a change of that thing does to the work. */
export const lifted = <V>(
  edit: Transaction<GroovesWork>,
  lift: (change: (value: V) => V) => (work: GroovesWork) => GroovesWork,
): Transaction<V> => ({
  get isOpen() {
    return edit.isOpen;
  },
  preview: (command, label) => edit.preview(lift(command), label),
  commit: edit.commit,
  cancel: edit.cancel,
});

/** What changing the part on the stand does to the work. */
export const onStand =
  (change: (part: Part) => Part) =>
  (work: GroovesWork): GroovesWork =>
    work.stand ? { ...work, stand: { ...work.stand, part: change(work.stand.part) } } : work;
