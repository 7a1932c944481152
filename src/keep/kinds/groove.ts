import { newId } from '@/editing/ids';
import { GROOVE_FILE_ENDING, readGrooveFile, writeGrooveFile } from '@/formats/groove-format';
import { GrooveStore } from '@/storage/groove-store';
import { besideName, saysTheSame, type Kind } from './kind';

/** Grooves of the user's own, with their tags. */
export const grooveKind: Kind = {
  kind: 'groove',
  async here({ db }, only) {
    if (only) return [];
    return (await new GrooveStore(db).list()).map(({ id, groove, tags, createdAt, updatedAt }) => ({
      entry: { kind: 'groove', key: id, name: groove.name, createdAt, updatedAt, ...(tags.length > 0 ? { tags } : {}) },
      folder: 'grooves',
      ending: GROOVE_FILE_ENDING,
      data: async () => ({ file: writeGrooveFile(groove) }),
    }));
  },
  async look({ db }, { key, file, tags = [] }, from) {
    const theirs = readGrooveFile(await from.text(file));
    const mine = (await new GrooveStore(db).list()).find((g) => g.id === key);
    if (!mine) return { standing: (await db.grooves.get(key)) ? 'different' : 'new' };
    return { standing: saysTheSame([mine.groove, mine.tags], [theirs, tags]) ? 'same' : 'different', updatedAt: mine.updatedAt };
  },
  async take({ db }, { key, file, tags = [], createdAt = Date.now(), updatedAt = Date.now() }, from, how) {
    const groove = readGrooveFile(await from.text(file));
    const store = new GrooveStore(db);
    if (how !== 'beside') return store.put({ id: key, groove, tags, createdAt, updatedAt });
    const names = new Set((await store.list()).map((g) => g.groove.name));
    await store.put({
      id: newId(),
      groove: { ...groove, name: besideName(groove.name, (n) => names.has(n)) },
      tags,
      createdAt,
      updatedAt,
    });
  },
};
