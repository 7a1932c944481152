import type { ShownConflict } from '@/core/analysis/hands-of-part';
import { fixesFor, type Fix } from '@/core/commands/fixes';

/** Conflicts that are one problem: the same words, the same row and the same fixes. */
export interface ConflictGroup {
  text: string;
  fixes: readonly Fix[];
  conflicts: readonly [ShownConflict, ...ShownConflict[]];
}

/** Groups conflicts in the order in which each problem first comes up. */
export function groupConflicts(conflicts: readonly ShownConflict[]): ConflictGroup[] {
  const groups = new Map<string, { text: string; fixes: readonly Fix[]; conflicts: [ShownConflict, ...ShownConflict[]] }>();
  for (const conflict of conflicts) {
    const fixes = fixesFor(conflict);
    const key = [conflict.text, conflict.voice, ...fixes.map((f) => f.kind)].join('|');
    const group = groups.get(key);
    if (group) group.conflicts.push(conflict);
    else groups.set(key, { text: conflict.text, fixes, conflicts: [conflict] });
  }
  return [...groups.values()];
}
