import { Dexie } from 'dexie';
import type { TakeEvent, Take } from '@/core/model/take';
import { database, type NodSwayDatabase } from './database';
import { named } from './named';

/** A take with its raw events, in the order in which they came. */
export interface StoredTake {
  take: Take;
  events: readonly TakeEvent[];
}

/** Keeps takes. Raw events are added as they come and never changed: a crash loses at most what was not added yet. */
export class TakeStore {
  constructor(private readonly db: NodSwayDatabase = database) {}

  /** @throws NamedError store-full, store-refused */
  begin(partId: string, take: Take): Promise<void> {
    return named(async () => void (await this.db.takes.put({ id: take.id, partId, take })));
  }

  /** Adds events as row `n` of the take. */
  append(takeId: string, n: number, events: readonly TakeEvent[]): Promise<void> {
    return named(async () => void (await this.db.takeEvents.put({ takeId, n, events: [...events] })));
  }

  /** Changes what is said of a take: its name, its latency, that it is complete. The events stay. */
  update(take: Take): Promise<void> {
    return named(async () => void (await this.db.takes.update(take.id, { take })));
  }

  events(takeId: string): Promise<TakeEvent[]> {
    return named(async () => (await this.rows(takeId).toArray()).flatMap((r) => r.events));
  }

  /** A whole take at once. */
  put(partId: string, take: Take, events: readonly TakeEvent[]): Promise<void> {
    return named(() =>
      this.db.transaction('rw', this.db.takes, this.db.takeEvents, async () => {
        await this.db.takes.put({ id: take.id, partId, take });
        await this.db.takeEvents.put({ takeId: take.id, n: 0, events: [...events] });
      }),
    );
  }

  /** The names that a part's takes are kept under. @throws NamedError store-refused */
  ids(partId: string): Promise<string[]> {
    return named(() => this.db.takes.where('partId').equals(partId).primaryKeys());
  }

  /** Those of these that are kept, of any part. @throws NamedError store-refused */
  known(ids: readonly string[]): Promise<Set<string>> {
    return named(async () => new Set((await this.db.takes.bulkGet([...ids])).flatMap((row) => (row ? [row.id] : []))));
  }

  /** The newest first. One whose recording was cut short is there with what had been kept. */
  list(partId: string): Promise<StoredTake[]> {
    return named(async () => {
      const rows = await this.db.takes.where('partId').equals(partId).toArray();
      const takes = await Promise.all(rows.map(async ({ take }): Promise<StoredTake> => ({ take, events: await this.events(take.id) })));
      return takes.sort((a, b) => b.take.recordedAt - a.take.recordedAt || (a.take.id < b.take.id ? -1 : 1));
    });
  }

  /** Takes a take away; the result puts it back. */
  remove(takeId: string): Promise<() => Promise<void>> {
    const { takes, takeEvents } = this.db;
    return named(() =>
      this.db.transaction('rw', takes, takeEvents, async () => {
        const [row, events] = [await takes.get(takeId), await this.rows(takeId).toArray()];
        await takes.delete(takeId);
        await this.rows(takeId).delete();
        return () =>
          this.db.transaction('rw', takes, takeEvents, async () => {
            if (row) await takes.put(row);
            await takeEvents.bulkPut(events);
          });
      }),
    );
  }

  private rows(takeId: string) {
    return this.db.takeEvents.where('[takeId+n]').between([takeId, Dexie.minKey], [takeId, Dexie.maxKey]);
  }
}

export const takeStore = new TakeStore();
