import { compareNames } from '@/core/natural-order';
import { newId } from '@/editing/ids';
import type { Groove } from '@/core/model/groove';
import { database, type NodSwayDatabase } from './database';
import { named } from './named';

/** A groove of the user's own, with what it is found by. */
export interface KeptGroove {
  id: string;
  groove: Groove;
  tags: readonly string[];
  /** Milliseconds since 1970. */
  createdAt: number;
  updatedAt: number;
}

/** A groove that is kept from now on. */
export function keptNow(groove: Groove, tags: readonly string[] = []): KeptGroove {
  const now = Date.now();
  return { id: newId(), groove, tags, createdAt: now, updatedAt: now };
}

/** The order in which kept grooves are shown. */
export const byName = (a: KeptGroove, b: KeptGroove): number => compareNames(a.groove.name, b.groove.name) || (a.id < b.id ? -1 : 1);

/** Keeps the user's own grooves, for every part. */
export class GrooveStore {
  constructor(private readonly db: NodSwayDatabase = database) {}

  /** By name; grooves that no longer read are left out. @throws NamedError store-refused */
  list(): Promise<KeptGroove[]> {
    return named(async () => {
      const rows = await this.db.grooves.toArray();
      // Loaded with the first groove that is kept: most visits need no checker here.
      const { parseGroove } = rows.length > 0 ? await import('@/formats/groove-format') : { parseGroove: null };
      const kept = rows.flatMap((row): KeptGroove[] => {
        try {
          return parseGroove ? [{ ...row, groove: parseGroove(row.groove) }] : [];
        } catch {
          return [];
        }
      });
      return kept.sort(byName);
    });
  }

  /** Keeps a groove, or replaces the one of its id. @throws NamedError store-full, store-refused */
  put(kept: KeptGroove): Promise<void> {
    return named(async () => void (await this.db.grooves.put({ ...kept, tags: [...kept.tags] })));
  }

  remove(id: string): Promise<void> {
    return named(() => this.db.grooves.delete(id));
  }
}

export const grooveStore = new GrooveStore();
