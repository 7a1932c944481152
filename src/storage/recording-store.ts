import type { SampleId } from '@/core/model/own-sound';
import { database, type NodSwayDatabase, type RecordingRow } from './database';
import { named } from './named';

/** What is known of a recording without its sound. */
export type RecordingInfo = Omit<RecordingRow, 'blob'> & { size: number };

/** Keeps the recordings of breaks. They stay until they are deleted by hand: versions and copies of parts may play them too. */
export class RecordingStore {
  constructor(private readonly db: NodSwayDatabase = database) {}

  /** @throws NamedError store-refused */
  ids(): Promise<SampleId[]> {
    return named(() => this.db.recordings.toCollection().primaryKeys());
  }

  /** The newest first. @throws NamedError store-refused */
  list(): Promise<RecordingInfo[]> {
    return named(async () =>
      (await this.db.recordings.toArray()).map(({ blob, ...info }) => ({ ...info, size: blob.size })).sort((a, b) => b.at - a.at),
    );
  }

  /** One that is kept already stays as it is. @throws NamedError store-full, store-refused */
  keep(row: RecordingRow): Promise<void> {
    return named(
      async () => void ((await this.db.recordings.where('id').equals(row.id).count()) === 0 && (await this.db.recordings.add(row))),
    );
  }

  read(sample: SampleId): Promise<Blob | undefined> {
    return named(async () => (await this.db.recordings.get(sample))?.blob);
  }

  /** Deletes one; the result puts it back. */
  remove(sample: SampleId): Promise<() => Promise<void>> {
    return named(async () => {
      const row = await this.db.recordings.get(sample);
      await this.db.recordings.delete(sample);
      return async () => void (row && (await this.keep(row)));
    });
  }
}

export const recordingStore = new RecordingStore();
