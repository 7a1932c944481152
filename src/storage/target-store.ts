import type { Target } from '@/core/model/target';
import { database, type NodSwayDatabase, type TargetRow } from './database';
import { NamedStore } from './named-store';

async function read(rows: readonly TargetRow[]): Promise<Target[]> {
  // Loaded with the first target that is kept: most visits need no checker here.
  if (rows.length === 0) return [];
  const { parseTarget } = await import('@/formats/target-format');
  return rows.flatMap(({ target }) => {
    try {
      return [parseTarget(target)];
    } catch {
      return [];
    }
  });
}

/** Keeps targets by name, for every part. */
export class TargetStore extends NamedStore<Target> {
  constructor(db: NodSwayDatabase = database) {
    super(
      db,
      'targets',
      (rows) => read(rows as readonly TargetRow[]),
      (target): TargetRow => ({ name: target.name, target }),
    );
  }
}

export const targetStore = new TargetStore();
