import type { Hit, HitId, Part } from '../model/part';

/** Whether a hit is locked, by itself or by its row. Compiled once a list of rows. */
export function lockTest(part: Pick<Part, 'rows'>): (hit: Hit) => boolean {
  const rows = new Set(part.rows.filter((r) => r.locked).map((r) => r.voice));
  return (hit) => hit.locked === true || rows.has(hit.voice);
}

/** Which of some hits a tool may touch, and how many it leaves out because they are locked. */
export interface UnlockedHits {
  ids: ReadonlySet<HitId>;
  locked: number;
}

/** Leaves locked hits out. @example withoutLocked(part, selection).locked // 2 */
export function withoutLocked(part: Pick<Part, 'hits' | 'rows'>, ids: ReadonlySet<HitId>): UnlockedHits {
  const isLocked = lockTest(part);
  let free: Set<HitId> | null = null;
  for (const hit of part.hits) {
    if (!ids.has(hit.id) || !isLocked(hit)) continue;
    free ??= new Set(ids);
    free.delete(hit.id);
  }
  return { ids: free ?? ids, locked: free ? ids.size - free.size : 0 };
}
