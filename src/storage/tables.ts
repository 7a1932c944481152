import { Dexie, type Collection, type Table } from 'dexie';
import type { EntryKind } from '@/formats/library-file';

/**
 * A table of the browser's store: what Dexie keeps it by, and whose its rows are. Deleting a part, and whatever goes through all that
 * belongs to one, goes through these.
 */
export type TableSpec = TableOfParts | TableOfLibrary;

interface StoredTable {
  name: string;
  /** Its key, then its indexes, as Dexie writes them. */
  keys: string;
  /** Version of the store that it came with: older stores are opened, and get it. */
  since: number;
  /** What of the library's file its rows go along in; null: they say nothing of the work, or are kept here alone. */
  carried: EntryKind | null;
}

/** Its rows belong to parts, and go with them. */
export interface TableOfParts extends StoredTable {
  owner: 'part';
  /** The rows of a part. */
  ofPart(db: Dexie, partId: string): Collection | Promise<Collection>;
}

export interface TableOfLibrary extends StoredTable {
  owner: 'library';
}

const isOfParts = (spec: TableSpec): spec is TableOfParts => spec.owner === 'part';

/** Ideas of a part are kept as parts, their ids beginning with its own and this. */
export const IDEA_MARK = '~';
/** Behind every id that begins so. */
const LAST = '\uffff';
/** Those of the part itself, and of its ideas. */
const byId =
  (name: string) =>
  (db: Dexie, partId: string): Collection =>
    db
      .table(name)
      .where(':id')
      .inAnyRange([[partId, partId], ideasRange(partId)], { includeUppers: true });
const byPart =
  (name: string) =>
  (db: Dexie, partId: string): Collection =>
    db.table(name).where('partId').equals(partId);
export const ideasRange = (partId: string): [string, string] => [partId + IDEA_MARK, partId + IDEA_MARK + LAST];
/** Rows of a compound key whose first part is one of these. */
const within = (table: Table, index: string, firsts: readonly string[]): Collection =>
  table.where(index).inAnyRange(
    firsts.map((first): [unknown, unknown] => [
      [first, Dexie.minKey],
      [first, Dexie.maxKey],
    ]),
    { includeUppers: true },
  );

const editsOf = (db: Dexie, partId: string): Collection => {
  const [first, last] = ideasRange(partId);
  return db
    .table('edits')
    .where('[partId+seq]')
    .inAnyRange(
      [
        [
          [partId, Dexie.minKey],
          [partId, Dexie.maxKey],
        ],
        [
          [first, Dexie.minKey],
          [last, Dexie.minKey],
        ],
      ],
      { includeUppers: true },
    );
};

/** Every table; a new one is a line here, with the next version. */
export const TABLES: readonly TableSpec[] = [
  { name: 'parts', keys: 'id, updatedAt', since: 1, owner: 'part', carried: 'part', ofPart: byId('parts') },
  { name: 'bodies', keys: 'id', since: 1, owner: 'part', carried: 'part', ofPart: byId('bodies') },
  { name: 'edits', keys: '[partId+seq]', since: 1, owner: 'part', carried: 'part', ofPart: editsOf },
  { name: 'songs', keys: 'id', since: 1, owner: 'part', carried: 'part', ofPart: byId('songs') },
  { name: 'flags', keys: 'name', since: 1, owner: 'library', carried: null },
  { name: 'kits', keys: 'name', since: 2, owner: 'library', carried: 'key map' },
  { name: 'feels', keys: 'name', since: 2, owner: 'library', carried: 'feel' },
  { name: 'versions', keys: 'id, partId', since: 3, owner: 'part', carried: 'part', ofPart: byPart('versions') },
  { name: 'grooves', keys: 'id', since: 4, owner: 'library', carried: 'groove' },
  { name: 'takes', keys: 'id, partId', since: 5, owner: 'part', carried: 'part', ofPart: byPart('takes') },
  {
    name: 'takeEvents',
    keys: '[takeId+n]',
    since: 5,
    owner: 'part',
    carried: 'part',
    ofPart: async (db, partId) =>
      within(db.table('takeEvents'), '[takeId+n]', (await byPart('takes')(db, partId).primaryKeys()) as string[]),
  },
  { name: 'inputs', keys: 'id', since: 5, owner: 'library', carried: 'setting' },
  { name: 'sounds', keys: 'id, kit', since: 6, owner: 'library', carried: 'sound' },
  { name: 'soundKits', keys: 'id', since: 6, owner: 'library', carried: 'sound' },
  { name: 'samples', keys: 'id', since: 6, owner: 'library', carried: 'sound' },
  { name: 'folders', keys: 'id', since: 6, owner: 'library', carried: null },
  { name: 'patterns', keys: 'name', since: 7, owner: 'library', carried: 'pattern' },
  { name: 'recordings', keys: 'id', since: 8, owner: 'library', carried: 'break' },
  { name: 'targets', keys: 'name', since: 9, owner: 'library', carried: 'target' },
  { name: 'deleted', keys: 'id', since: 10, owner: 'library', carried: null },
  { name: 'deletedRows', keys: 'id', since: 10, owner: 'library', carried: null },
];

/**
 * The store's version. Version 14 stores parts as part@6. Raising it closes tabs that run an older version, so they cannot write the older
 * format.
 */
export const DATA_VERSION = 14;

/** All rows of a part, by the name of their table. */
export type RowsOfPart = Readonly<Record<string, readonly unknown[]>>;

/** The tables that rows of parts are in. */
export const tablesOfParts = (db: Dexie, specs: readonly TableSpec[]): Table[] =>
  specs.filter(isOfParts).map((spec) => db.table(spec.name));

/** Takes everything of a part out of these tables, within a transaction of theirs. */
export async function takeOutPart(db: Dexie, partId: string, specs: readonly TableSpec[]): Promise<RowsOfPart> {
  const owned = specs.filter(isOfParts);
  // All are read before any is deleted: the rows of one may be found by another's.
  const found = await Promise.all(owned.map(async (spec) => [spec.name, await (await spec.ofPart(db, partId)).toArray()] as const));
  for (const spec of [...owned].reverse()) await (await spec.ofPart(db, partId)).delete();
  return Object.fromEntries(found.filter(([, rows]) => rows.length > 0));
}

/** Puts it back, within a transaction of theirs. */
export async function putInPart(db: Dexie, rows: RowsOfPart): Promise<void> {
  for (const [name, some] of Object.entries(rows)) await db.table(name).bulkPut([...some]);
}

/** Takes everything of a part out of these tables, all of it or nothing; the result puts it back. */
export async function removeOfPart(db: Dexie, partId: string, specs: readonly TableSpec[]): Promise<() => Promise<void>> {
  const tables = tablesOfParts(db, specs);
  const rows = await db.transaction('rw', tables, async () => takeOutPart(db, partId, specs));
  return () => db.transaction('rw', tables, async () => putInPart(db, rows));
}
