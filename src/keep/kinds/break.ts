import type { Part } from '@/core/model/part';
import { RecordingStore } from '@/storage/recording-store';
import { PartStore } from '@/storage/part-store';
import type { Kind } from './kind';
import { verified } from './verified';

/** The recordings that breaks are cut from: each is known by what it holds, so that one that is here is the same. */
export const breakKind: Kind = {
  kind: 'break',
  async here({ db }, only) {
    const store = new RecordingStore(db);
    const needed = only
      ? new Set((await partsOf(new PartStore(db), only)).flatMap((part) => (part.breaks ?? []).map((b) => b.sample)))
      : null;
    return (await store.list())
      .filter(({ id }) => !needed || needed.has(id))
      .map(({ id, name, seconds, at }) => ({
        entry: { kind: 'break', key: id, name, seconds, createdAt: at },
        folder: 'breaks',
        ending: '.wav',
        data: async () => ({ file: (await store.read(id)) ?? new Blob() }),
      }));
  },
  look: async ({ db }, { key }) => ({ standing: (await db.recordings.where('id').equals(key).count()) > 0 ? 'same' : 'new' }),
  async take({ db }, { key, name, file, seconds = 0, createdAt = Date.now() }, from) {
    await new RecordingStore(db).keep({ id: key, blob: await verified(key, await from.blob(file)), name, seconds, at: createdAt });
  },
};

/** These parts, as far as they read. */
export const partsOf = async (store: PartStore, ids: ReadonlySet<string>): Promise<Part[]> =>
  (
    await Promise.all(
      [...ids].map((id) =>
        store.load(id).then(
          (s) => s.part,
          () => null,
        ),
      ),
    )
  ).filter((part) => part !== null);
