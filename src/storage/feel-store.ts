import type { Feel } from '@/core/model/feel';
import { database, type NodSwayDatabase } from './database';
import { named } from './named';

/** A whole feel under a name. */
export interface KeptFeel {
  name: string;
  feel: Feel;
}

/** Keeps whole feels by name, for every part. */
export class FeelStore {
  constructor(private readonly db: NodSwayDatabase = database) {}

  /** Feels that no longer read are left out. @throws NamedError store-refused */
  list(): Promise<KeptFeel[]> {
    return named(async () => {
      const rows = await this.db.feels.orderBy('name').toArray();
      // Loaded with the first feel that is kept: most visits need no checker here.
      const { parseFeel } = rows.length > 0 ? await import('@/formats/feel-format') : { parseFeel: null };
      return rows.flatMap(({ name, feel }) => {
        try {
          return parseFeel ? [{ name, feel: parseFeel(feel) }] : [];
        } catch {
          return [];
        }
      });
    });
  }

  /** Keeps a feel; one of the same name is replaced. @throws NamedError store-full, store-refused */
  save(kept: KeptFeel): Promise<void> {
    return named(async () => void (await this.db.feels.put({ name: kept.name, feel: kept.feel })));
  }

  /** Takes a feel away; the result puts it back. */
  remove(kept: KeptFeel): Promise<() => Promise<void>> {
    return named(async () => {
      await this.db.feels.delete(kept.name);
      return () => this.save(kept);
    });
  }
}

export const feelStore = new FeelStore();
