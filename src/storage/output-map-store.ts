import type { OutputMap } from '@/core/model/output-map';
import { database, type NodSwayDatabase, type OutputMapRow } from './database';
import { NamedStore } from './named-store';

async function read(rows: readonly OutputMapRow[]): Promise<OutputMap[]> {
  // Loaded with the first target that is kept: most visits need no checker here.
  if (rows.length === 0) return [];
  const { parseOutputMap } = await import('@/formats/output-map-format');
  return rows.flatMap(({ target }) => {
    try {
      return [parseOutputMap(target)];
    } catch {
      return [];
    }
  });
}

/** Keeps targets by name, for every part. */
export class OutputMapStore extends NamedStore<OutputMap> {
  constructor(db: NodSwayDatabase = database) {
    super(
      db,
      'targets',
      (rows) => read(rows as readonly OutputMapRow[]),
      (target): OutputMapRow => ({ name: target.name, target }),
    );
  }
}

export const outputMapStore = new OutputMapStore();
