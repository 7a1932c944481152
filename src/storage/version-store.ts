import { newId } from '@/editing/ids';
import type { Part } from '@/core/model/part';
import { AS_IMPORTED, withOrigins, type WithOrigin } from '@/formats/version-origin';
import { database, type NodSwayDatabase, type VersionRow } from './database';
import { named } from './named';

/** A part as it once stood, under a name. */
export interface KeptVersion extends WithOrigin {
  id: string;
  /** Milliseconds since 1970. */
  at: number;
  part: Part;
}

/** What is kept: now, under a number of its own, unless it says otherwise. */
export type NewVersion = Omit<KeptVersion, 'id' | 'at'> & Partial<Pick<KeptVersion, 'id' | 'at'>>;

/** Keeps versions of parts. */
export class VersionStore {
  constructor(private readonly db: NodSwayDatabase = database) {}

  /** The versions of a part, the newest first; those that no longer read are left out. @throws NamedError store-refused */
  list(partId: string): Promise<KeptVersion[]> {
    return named(async () => {
      const rows = await this.db.versions.where('partId').equals(partId).toArray();
      if (rows.length === 0) return [];
      const { looksLikePart } = await import('@/formats/hit-rules');
      // Loaded where a version is of an older format, or damaged.
      const { parsePart } = rows.every((r) => looksLikePart(r.part)) ? { parsePart: null } : await import('@/formats/part-format');
      return withOrigins(rows)
        .flatMap(({ id, name, at, part, origin }): KeptVersion[] => {
          const version = { id, name, at, ...(origin ? { origin } : {}) };
          if (looksLikePart(part)) return [{ ...version, part: part as Part }];
          try {
            return parsePart ? [{ ...version, part: parsePart(part) }] : [];
          } catch {
            return [];
          }
        })
        .sort((a, b) => b.at - a.at || (a.id < b.id ? -1 : 1));
    });
  }

  /** Keeps a part as it stands. @throws NamedError store-full, store-refused */
  keep(partId: string, { id = newId(), at = Date.now(), ...version }: NewVersion): Promise<string> {
    return named(async () => {
      await this.db.versions.add({ id, partId, at, ...version });
      return id;
    });
  }

  /** Keeps how a part came. @throws NamedError store-full, store-refused */
  keepImported = (partId: string, part: Part, at = Date.now()): Promise<string> =>
    this.keep(partId, { name: AS_IMPORTED, origin: 'import', at, part });

  rename(id: string, name: string): Promise<void> {
    return named(async () => void (await this.db.versions.update(id, { name })));
  }

  /** Takes a version away; the result puts it back. */
  remove(id: string): Promise<() => Promise<void>> {
    return named(async () => {
      const row: VersionRow | undefined = await this.db.versions.get(id);
      await this.db.versions.delete(id);
      return () => named(async () => void (row && (await this.db.versions.put(row))));
    });
  }
}

export const versionStore = new VersionStore();
