import { FEEL_FILE_ENDING, readFeelFile, writeFeelFile } from '@/formats/feel-format';
import { KIT_FILE_ENDING, readKitFile, writeKitFile } from '@/formats/kit-format';
import type { EntryKind } from '@/formats/library-file';
import { PATTERN_FILE_ENDING, readPatternFile, writePatternFile } from '@/formats/pattern-format';
import { readOutputMapFile, TARGET_FILE_ENDING, writeOutputMapFile } from '@/formats/output-map-format';
import type { NodSwayDatabase } from '@/storage/database';
import { FeelStore, type KeptFeel } from '@/storage/feel-store';
import { KitStore } from '@/storage/kit-store';
import type { NamedStore } from '@/storage/named-store';
import { PatternStore, type KeptPattern } from '@/storage/pattern-store';
import { OutputMapStore } from '@/storage/output-map-store';
import { besideName, saysTheSame, type Kind } from './kind';

interface Named<T> {
  kind: EntryKind;
  folder: string;
  ending: string;
  store(db: NodSwayDatabase): NamedStore<T & { name: string }>;
  write(kept: T): string;
  /** @throws NamedError */
  read(text: string, name: string): T;
}

/** Things that are kept by their names alone. */
function named<T extends { name: string }>({ kind, folder, ending, store, write, read }: Named<T>): Kind {
  return {
    kind,
    async here({ db }, only) {
      if (only) return [];
      return (await store(db).list()).map((kept) => ({
        entry: { kind, key: kept.name, name: kept.name },
        folder,
        ending,
        data: async () => ({ file: write(kept) }),
      }));
    },
    async look({ db }, { key, file }, from) {
      const theirs = read(await from.text(file), key);
      const mine = (await store(db).list()).find((kept) => kept.name === key);
      return { standing: !mine ? 'new' : saysTheSame(mine, { ...theirs, name: key }) ? 'same' : 'different' };
    },
    async take({ db }, { key, file }, from, how) {
      const theirs = read(await from.text(file), key);
      const names = new Set((await store(db).list()).map((kept) => kept.name));
      await store(db).save({ ...theirs, name: how === 'beside' ? besideName(key, (n) => names.has(n)) : key });
    },
  };
}

export const feelKind = named<KeptFeel>({
  kind: 'feel',
  folder: 'feels',
  ending: FEEL_FILE_ENDING,
  store: (db) => new FeelStore(db),
  write: ({ feel }) => writeFeelFile(feel),
  read: (text, name) => ({ name, feel: readFeelFile(text) }),
});
export const keyMapKind = named({
  kind: 'key map',
  folder: 'key-maps',
  ending: KIT_FILE_ENDING,
  store: (db) => new KitStore(db),
  write: writeKitFile,
  read: (text) => readKitFile(text),
});
export const patternKind = named<KeptPattern>({
  kind: 'pattern',
  folder: 'patterns',
  ending: PATTERN_FILE_ENDING,
  store: (db) => new PatternStore(db),
  write: ({ name, pattern }) => writePatternFile({ ...pattern, name }),
  read: (text, name) => ({ name, pattern: { ...readPatternFile(text), name } }),
});
export const outputMapKind = named({
  kind: 'target',
  folder: 'targets',
  ending: TARGET_FILE_ENDING,
  store: (db) => new OutputMapStore(db),
  write: writeOutputMapFile,
  read: (text) => readOutputMapFile(text),
});
