import type { PartDiff } from '@/core/part/diff';
import { applyDiff, diffParts, invertDiff } from '@/core/part/diff';
import { compareHits, isOlderFormat, PART_FORMAT, type Part } from '@/core/model/part';
import { migrated, withFeels } from './migrate';
import { withHomesOf2 } from './part-2';
import { parsePart } from './part-format';

/**
 * Edits that were saved in older formats. They are replayed in their own format; each state is migrated, and the difference between two
 * migrated states is the edit in the newest format.
 */

/** An edit as it was kept; those of part@1 name no format. */
export interface OlderEdit {
  seq: number;
  diff: PartDiff;
  format?: string;
}

/** Edits were last kept in this format before that of part@3, which the newest reads as it is. */
const OLD = 2;

/** A state in the format that older edits lead through; it only looks like a part. */
const oldState = (body: unknown): Part => migrated('part', body, OLD) as Part;
const isOld = (edit: Pick<OlderEdit, 'format'>): boolean => isOlderFormat(edit);
const oldDiff = ({ diff, format }: OlderEdit): PartDiff => (format === undefined ? withFeels(diff, OLD) : diff);

/** A valid state in the newest format. */
function newState(state: Part): Part {
  const part = migrated('part', state) as Part;
  return { ...part, hits: [...part.hits].sort(compareHits) };
}

/** An older edit where the newest format was reached already, by a tab that still ran an older version: its hits get homes. */
function lateDiff(part: Part, edit: OlderEdit): PartDiff {
  const diff = withFeels(oldDiff(edit), 3);
  return { ...diff, added: withHomesOf2({ ...part, hits: diff.added }).hits as PartDiff['added'] };
}

/**
 * The part that a kept body and the edits after it lead to. @param edits without gaps, oldest first
 * @throws NamedError bad-part
 */
export function replayed(body: unknown, edits: readonly OlderEdit[]): Part {
  const isNew = !isOlderFormat(body);
  let old = isNew ? null : oldState(body);
  let now = isNew ? (migrated('part', body) as Part) : null;
  for (const edit of edits) {
    if (old && isOld(edit)) old = applyDiff(old, oldDiff(edit));
    else {
      now ??= parsePart(old);
      old = null;
      now = applyDiff(now, isOld(edit) ? lateDiff(now, edit) : edit.diff);
    }
  }
  return now ?? parsePart(old);
}

/**
 * Kept edits in the newest format.
 * @param seq the number of the last edit in `body`: those up to it lead back from there, the others on
 * @param edits without gaps, oldest first
 */
export function editsInNewest<E extends OlderEdit>(body: unknown, seq: number, edits: readonly E[]): E[] {
  if (!edits.some(isOld)) return [...edits];
  if (!isOlderFormat(body)) return edits.map((e) => (isOld(e) ? { ...e, diff: withFeels(oldDiff(e), 3), format: PART_FORMAT } : e));
  const told = new Map<number, PartDiff>();
  const tell = (edit: OlderEdit, before: Part, after: Part) =>
    told.set(edit.seq, diffParts(before, after) ?? { removed: [], added: [], fields: {} });
  let old = oldState(body);
  let now = newState(old);
  for (const edit of edits.filter((e) => e.seq <= seq && isOld(e)).reverse()) {
    old = applyDiff(old, invertDiff(oldDiff(edit)));
    const before = newState(old);
    tell(edit, before, now);
    now = before;
  }
  old = oldState(body);
  now = newState(old);
  for (const edit of edits.filter((e) => e.seq > seq && isOld(e))) {
    old = applyDiff(old, oldDiff(edit));
    const after = newState(old);
    tell(edit, now, after);
    now = after;
  }
  return edits.map((e) => {
    const diff = told.get(e.seq);
    return diff ? { ...e, diff, format: PART_FORMAT } : e;
  });
}
