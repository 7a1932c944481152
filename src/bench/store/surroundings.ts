import { applyDiff, invertDiff, joinDiffs, type PartDiff } from '@/core/part/diff';
import type { HitId, Part } from '@/core/model/part';
import { historyOf, type History, type KeptStep } from '@/editing/history';
import { leftIn, type Left } from '@/editing/left-behind';
import type { Sight } from './view';

/** What a step leads back to beside the part: what was selected, and what was in sight. */
export interface Surroundings {
  selection: ReadonlySet<HitId>;
  /** Null for steps of before a reload: what is in sight stays. */
  sight: Sight | null;
}

/** What surrounds a step of which only the diff is known. */
export const touchedBy = ({ removed, added }: PartDiff): { before: Surroundings; after: Surroundings } => ({
  before: { selection: new Set(removed.map((h) => h.id)), sight: null },
  after: { selection: new Set(added.map((h) => h.id)), sight: null },
});

/** The history that a part's kept edits lead to: what a step touched is selected with it. */
export const benchHistoryOf = (edits: readonly KeptStep<PartDiff>[]): History<PartDiff, Surroundings> =>
  historyOf(edits, { invert: invertDiff, join: joinDiffs }, touchedBy);

/** What was undone and left behind among a part's kept edits, the last of which led to it. */
export const leftOfEdits = (edits: readonly KeptStep<PartDiff>[], part: Part): readonly Left<Part>[] =>
  leftIn(edits, part, { apply: applyDiff, invert: invertDiff });
