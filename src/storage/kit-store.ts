import type { KitMap } from '@/core/voices';
import { database, type NodSwayDatabase } from './database';
import { named } from './named';

/** Keeps kit maps by name, for every part. */
export class KitStore {
  constructor(private readonly db: NodSwayDatabase = database) {}

  /** @throws NamedError store-full, store-refused */
  list(): Promise<KitMap[]> {
    return named(async () => (await this.db.kits.orderBy('name').toArray()).map(({ name, voices }) => ({ name, voices })));
  }

  /** Keeps a kit map; one of the same name is replaced. */
  save(kit: KitMap): Promise<void> {
    return named(async () => void (await this.db.kits.put({ name: kit.name, voices: kit.voices })));
  }

  /** Takes a kit map away; the result puts it back. */
  remove(kit: KitMap): Promise<() => Promise<void>> {
    return named(async () => {
      await this.db.kits.delete(kit.name);
      return () => this.save(kit);
    });
  }
}

export const kitStore = new KitStore();
