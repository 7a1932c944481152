import { namesOf, PART_FIELDS, sameHit, sameValue } from '../model/fields';
import { compareHits, type Hit, type Part } from '../model/part';

type Field = Exclude<keyof Part, 'hits' | 'format'>;

/**
 * What differs between two states of a part: small enough to keep one for each gesture and to write into the store at once.
 * Hits are compared by identity, fields by value as JSON. A changed hit is one removed and one added.
 */
export interface PartDiff {
  removed: Hit[];
  added: Hit[];
  fields: { [K in Field]?: { before: Part[K] | undefined; after: Part[K] | undefined } };
}

const FIELDS = namesOf(PART_FIELDS).filter((name): name is Field => name !== 'hits' && name !== 'format');

/** @returns null where nothing differs, so that an idle gesture leaves no entry in the history */
export function diffParts(before: Part, after: Part): PartDiff | null {
  const diff: PartDiff = { removed: [], added: [], fields: {} };
  if (before.hits !== after.hits) diffHits(before.hits, after.hits, diff);
  for (const field of FIELDS) diffField(before, after, field, diff);
  return diff.removed.length + diff.added.length + Object.keys(diff.fields).length > 0 ? diff : null;
}

function diffField<K extends Field>(before: Part, after: Part, field: K, diff: PartDiff) {
  if (sameValue(before[field], after[field])) return;
  (diff.fields as Record<K, { before: Part[K]; after: Part[K] }>)[field] = { before: before[field], after: after[field] };
}

/** Both lists are sorted: one walk along the two finds what only one of them has. */
function diffHits(before: readonly Hit[], after: readonly Hit[], diff: PartDiff) {
  let i = 0;
  let j = 0;
  while (i < before.length || j < after.length) {
    const a = before[i];
    const b = after[j];
    if (a === b) {
      i++;
      j++;
      continue;
    }
    const order = a === undefined ? 1 : b === undefined ? -1 : compareHits(a, b);
    if (order <= 0 && a) {
      if (order < 0 || !sameHit(a, b as Hit)) diff.removed.push(a);
      i++;
    }
    if (order >= 0 && b) {
      if (order > 0 || !sameHit(a as Hit, b)) diff.added.push(b);
      j++;
    }
  }
}

/** The diff that leads back. */
export function invertDiff(diff: PartDiff): PartDiff {
  const fields: Record<string, { before: unknown; after: unknown }> = {};
  for (const [name, change] of Object.entries(diff.fields)) fields[name] = { before: change.after, after: change.before };
  return { removed: diff.added, added: diff.removed, fields: fields as PartDiff['fields'] };
}

/** Two diffs, the second of which starts where the first leads to, as one. */
export function joinDiffs(first: PartDiff, second: PartDiff): PartDiff {
  const fresh = new Set(first.added.map((h) => h.id));
  const gone = new Set(second.removed.map((h) => h.id));
  const fields: Record<string, { before: unknown; after: unknown }> = { ...first.fields };
  for (const [name, change] of Object.entries(second.fields))
    fields[name] = { before: (fields[name] ?? change).before, after: change.after };
  return {
    removed: [...first.removed, ...second.removed.filter((h) => !fresh.has(h.id))],
    added: [...first.added.filter((h) => !gone.has(h.id)), ...second.added],
    fields: fields as PartDiff['fields'],
  };
}

/** Applies a diff to the state it starts from. Hits are found by id, so a diff read back from the store applies as well. */
export function applyDiff(part: Part, diff: PartDiff): Part {
  const next: Record<string, unknown> = { ...part };
  for (const [name, change] of Object.entries(diff.fields)) {
    if (change.after === undefined) delete next[name];
    else next[name] = change.after;
  }
  if (diff.removed.length + diff.added.length > 0) next.hits = replaceHits(part.hits, new Set(diff.removed.map((h) => h.id)), diff.added);
  return next as unknown as Part;
}

/** The sorted list without the hits of `removed`, with `added` merged in. */
export function replaceHits(hits: readonly Hit[], removed: ReadonlySet<string>, added: readonly Hit[]): Hit[] {
  const fresh = [...added].sort(compareHits);
  const merged: Hit[] = [];
  let j = 0;
  for (const hit of hits) {
    if (removed.size > 0 && removed.has(hit.id)) continue;
    while (j < fresh.length && compareHits(fresh[j] as Hit, hit) < 0) merged.push(fresh[j++] as Hit);
    merged.push(hit);
  }
  while (j < fresh.length) merged.push(fresh[j++] as Hit);
  return merged;
}
