import { database, type DeletedRow, type NodSwayDatabase } from './database';
import { named } from './named';
import { putInPart, tablesOfParts, takeOutPart } from './tables';

const DAY_MS = 86_400_000;
/** So long a deleted part can be put back, in milliseconds. */
export const KEPT_MS = 30 * DAY_MS;

/** The drawer of parts that were taken off the Shelf: each with all that belongs to it, for thirty days. */
export class DeletedStore {
  constructor(private readonly db: NodSwayDatabase = database) {}

  private work<T>(run: () => Promise<T>): Promise<T> {
    const { db } = this;
    return named(() => db.transaction('rw', [...tablesOfParts(db, db.specs), db.deleted, db.deletedRows], run));
  }

  /**
   * Takes parts off the Shelf, all of them or none; those that are not there are passed over.
   * @throws NamedError store-full, store-refused
   */
  remove(ids: readonly string[], at = Date.now()): Promise<void> {
    return this.work(async () => {
      for (const id of ids) await this.take(id, at);
    });
  }

  private async take(id: string, at: number): Promise<void> {
    const row = await this.db.parts.get(id);
    if (!row) return;
    const rows = await takeOutPart(this.db, id, this.db.specs);
    await this.db.deleted.put({ id, at, row });
    await this.db.deletedRows.put({ id, rows });
  }

  /**
   * Puts parts back. Where one of the same number is on the Shelf by now, the two change places.
   * @throws NamedError store-full, store-refused
   */
  putBack(ids: readonly string[]): Promise<void> {
    return this.work(async () => {
      for (const id of ids) {
        const kept = await this.db.deletedRows.get(id);
        if (!kept) continue;
        await this.db.deleted.delete(id);
        await this.db.deletedRows.delete(id);
        await this.take(id, Date.now());
        await putInPart(this.db, kept.rows);
      }
    });
  }

  /** The last deleted first. @throws NamedError store-refused */
  list(): Promise<DeletedRow[]> {
    return named(async () => (await this.db.deleted.toArray()).sort((a, b) => b.at - a.at));
  }

  /** Deletes parts for good. */
  forget(ids: readonly string[]): Promise<void> {
    return named(() =>
      this.db.transaction('rw', this.db.deleted, this.db.deletedRows, async () => {
        await this.db.deleted.bulkDelete([...ids]);
        await this.db.deletedRows.bulkDelete([...ids]);
      }),
    );
  }

  /** Deletes for good what has been here for longer than {@link KEPT_MS}. */
  async forgetOld(now = Date.now()): Promise<void> {
    const old = (await this.list()).filter((d) => now - d.at > KEPT_MS).map((d) => d.id);
    if (old.length > 0) await this.forget(old);
  }
}

export const deletedStore = new DeletedStore();
