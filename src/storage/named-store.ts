import type { Dexie } from 'dexie';
import { named } from './named';

/** Keeps things of one kind by name, for every part. */
export class NamedStore<T extends { name: string }> {
  /** @param read rows as things; those that no longer read are left out */
  constructor(
    private readonly db: Dexie,
    private readonly table: string,
    private readonly read: (rows: readonly unknown[]) => Promise<T[]> | T[],
    private readonly rowOf: (kept: T) => unknown,
  ) {}

  /** By name. @throws NamedError store-refused */
  list(): Promise<T[]> {
    return named(async () => this.read(await this.db.table(this.table).orderBy('name').toArray()));
  }

  /** Keeps a thing; one of the same name is replaced. @throws NamedError store-full, store-refused */
  save(kept: T): Promise<void> {
    return named(async () => void (await this.db.table(this.table).put(this.rowOf(kept))));
  }

  /** Gives a thing another name; one that has it is replaced. */
  rename(kept: T, name: string): Promise<void> {
    return named(() =>
      this.db.transaction('rw', this.db.table(this.table), async () => {
        await this.db.table(this.table).delete(kept.name);
        await this.db.table(this.table).put(this.rowOf({ ...kept, name }));
      }),
    );
  }

  /** Takes a thing away; the result puts it back. */
  remove(kept: T): Promise<() => Promise<void>> {
    return named(async () => {
      await this.db.table(this.table).delete(kept.name);
      return () => this.save(kept);
    });
  }
}
