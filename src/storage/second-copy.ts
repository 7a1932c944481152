import {
  Dexie,
  type DBCore,
  type DBCoreKeyRange,
  type DBCoreMutateRequest,
  type DBCoreTable,
  type DBCoreTransaction,
  type Middleware,
  type Table,
} from 'dexie';
import { storeHealth } from './storage-backend';
import { DATA_VERSION, type TableSpec } from './tables';

/** The storage that holds the copy, separate from the library's. */
export interface CopyPlace {
  indexedDB: IDBFactory;
  IDBKeyRange: typeof IDBKeyRange;
}

/** Opens that storage; null if the browser has none. */
export type OpenPlace = () => Promise<CopyPlace | null>;

interface WithBuckets {
  storageBuckets?: { open(name: string, options: { persisted: boolean }): Promise<{ indexedDB: IDBFactory }> };
}

/**
 * A separate storage bucket (W3C Storage Buckets API). Its database uses different files: if the browser deletes one of the two, the other
 * remains.
 */
export const inOwnBucket: OpenPlace = async () => {
  const buckets = (globalThis.navigator as (Navigator & WithBuckets) | undefined)?.storageBuckets;
  if (!buckets) return null;
  const { indexedDB } = await buckets.open('second-copy', { persisted: true });
  return { indexedDB, IDBKeyRange: globalThis.IDBKeyRange };
};

/** Recordings and samples come from files on the user's disk and are too large to store twice. */
export const NOT_COPIED: readonly string[] = ['recordings', 'samples'];

/** Rows changed by a transaction: by key, or all within a range. */
interface Touched {
  table: string;
  keys: readonly unknown[];
  range?: DBCoreKeyRange;
}

/** Changes that are written to the copy together. */
interface Batch {
  touched: Touched[];
  written: Promise<void>;
}

/** Rows read or written at a time, to limit memory. */
const CHUNK = 40;
/** Saving waits for the copy at most this long, so a copy that hangs cannot block it. */
const PATIENCE_MS = 3000;
/** After a failed write the copy is compared with the library again, at growing intervals. */
const FIRST_WAIT_MS = 1000;
const LONGEST_WAIT_MS = 8000;
const LOCK = 'nod-sway:second-copy';

/** Runs work while no other tab writes to the copy. */
const locked = <T>(work: () => Promise<T>): Promise<T> =>
  (globalThis.navigator as Navigator | undefined)?.locks ? (navigator.locks.request(LOCK, work) as Promise<T>) : work();

/**
 * Keeps a second copy of the library. When a transaction completes, the rows it changed are read again and written to the copy, so the last
 * of several tabs writes the current state.
 */
export class SecondCopy {
  private place: Promise<Dexie | null> | null = null;
  private readonly names: readonly string[];
  private readonly open = new Map<DBCoreTransaction, Touched[]>();
  private readonly ending = new Set<Promise<void>>();
  private waiting: Batch | null = null;
  private writing: Promise<void> | null = null;
  private hangs = false;
  private wait = FIRST_WAIT_MS;
  /** The copy could not be read when the library was found empty, so rows that exist only in the copy must not be deleted. */
  private isUnread = false;
  private comparing: ReturnType<typeof setTimeout> | null = null;
  /** Set while restoring: rows from the copy need not be copied back. */
  isPaused = false;

  constructor(
    private readonly main: Dexie,
    private readonly specs: readonly TableSpec[],
    private readonly openPlace: OpenPlace | null,
  ) {
    this.names = specs.map((spec) => spec.name).filter((name) => !NOT_COPIED.includes(name));
  }

  /** The copy's database; null if the browser has no storage for it. Rejects if it cannot be opened now. */
  private copy(): Promise<Dexie | null> {
    return (this.place ??= this.opened().catch((e: unknown) => {
      this.place = null;
      throw e;
    }));
  }

  private async opened(): Promise<Dexie | null> {
    const place = await this.openPlace?.();
    if (!place) return null;
    // Strict: without it, confirmed writes were often lost when the browser was killed on a full disk.
    const db = new Dexie(this.main.name, { ...place, chromeTransactionDurability: 'strict' });
    const stores = this.specs.filter((spec) => this.names.includes(spec.name)).map((spec) => [spec.name, spec.keys] as const);
    db.version(DATA_VERSION).stores(Object.fromEntries(stores));
    // A tab with a newer version of the app may need to upgrade the copy.
    db.on('versionchange', () => db.close());
    await db.open();
    return db;
  }

  /** Notes rows changed by a transaction; they are copied when it completes. */
  touched(transaction: DBCoreTransaction, change: Touched): void {
    if (!this.openPlace || this.isPaused || !this.names.includes(change.table)) return;
    const known = this.open.get(transaction);
    if (known) return void known.push(change);
    const list = [change];
    this.open.set(transaction, list);
    const ended = new Promise<void>((done) => {
      const end = (isThrough: boolean) => () => {
        this.open.delete(transaction);
        this.ending.delete(ended);
        if (isThrough) this.written(list);
        done();
      };
      const events = transaction as unknown as EventTarget;
      events.addEventListener('complete', end(true));
      events.addEventListener('abort', end(false));
    });
    this.ending.add(ended);
  }

  /** Copies rows that have been written. */
  written(touched: readonly Touched[]): void {
    if (!this.openPlace) return;
    if (this.waiting) return void this.waiting.touched.push(...touched);
    const batch: Batch = { touched: [...touched], written: Promise.resolve() };
    this.waiting = batch;
    batch.written = (this.writing ?? Promise.resolve()).then(async () => {
      this.waiting = null;
      this.writing = batch.written;
      await this.write(batch.touched);
      if (this.writing === batch.written) this.writing = null;
    });
  }

  private async write(touched: readonly Touched[]): Promise<void> {
    try {
      const copy = await this.copy();
      if (copy) await locked(() => this.take(copy, touched));
      this.hangs = false;
    } catch (e) {
      this.failed(e);
    }
  }

  /** A write failed: reopens the copy and compares it with the library until that succeeds. */
  private failed(error: unknown): void {
    console.error(error);
    const place = this.place;
    this.place = null;
    place?.then(
      (copy) => copy?.close(),
      () => undefined,
    );
    this.isBehind();
  }

  private isBehind(): void {
    storeHealth.setState({ copyBehind: true });
    this.compareLater(this.wait);
    this.wait = Math.min(LONGEST_WAIT_MS, this.wait * 2);
  }

  private async take(copy: Dexie, touched: readonly Touched[]): Promise<void> {
    const names = [...new Set(touched.map((t) => t.table))];
    const found = await this.main.transaction('r', names, () =>
      Promise.all(
        names.map(async (name) => {
          const table = this.main.table<unknown, unknown>(name);
          const ranges = touched.flatMap((t) => (t.table === name && t.range ? [t.range] : []));
          const keys = [
            ...new Map(touched.flatMap((t) => (t.table === name ? t.keys : [])).map((key) => [JSON.stringify(key), key])).values(),
          ];
          const rows = await table.bulkGet(keys);
          const kept = await Promise.all(ranges.map((range) => within(table, range).primaryKeys()));
          return {
            name,
            put: rows.filter((row) => row !== undefined),
            gone: keys.filter((_, i) => rows[i] === undefined),
            ranges: ranges.map((range, i) => ({ range, kept: namesOf(kept[i] ?? []) })),
          };
        }),
      ),
    );
    await copy.transaction('rw', names, () =>
      Promise.all(
        found.map(async ({ name, put, gone, ranges }) => {
          const table = copy.table<unknown, unknown>(name);
          for (const { range, kept } of ranges) {
            const keys = await within(table, range).primaryKeys();
            await table.bulkDelete(keys.filter((key) => !kept.has(JSON.stringify(key))));
          }
          await table.bulkDelete(gone);
          await table.bulkPut(put);
        }),
      ),
    );
  }

  /** Waits until everything written so far is in the copy. */
  async settled(): Promise<void> {
    // Inside a transaction there is nothing to wait for yet.
    if (this.hangs || Dexie.currentTransaction || (this.ending.size === 0 && !this.waiting && !this.writing)) return;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const late = new Promise<void>((done) => {
      timer = setTimeout(() => {
        this.hangs = true;
        this.isBehind();
        done();
      }, PATIENCE_MS);
    });
    const all = async () => {
      await Promise.all(this.ending);
      await Promise.all([this.writing, this.waiting?.written]);
    };
    await Promise.race([all(), late]);
    clearTimeout(timer);
  }

  /** Schedules a comparison of the copy with the library. */
  compareLater(afterMs: number): void {
    if (!this.openPlace || this.comparing !== null) return;
    this.comparing = setTimeout(() => {
      this.comparing = null;
      this.compare().then(
        (isDone) => {
          if (!isDone) return;
          this.wait = FIRST_WAIT_MS;
          storeHealth.setState({ copyBehind: false });
        },
        (e: unknown) => this.failed(e),
      );
    }, afterMs);
    // Outside a browser, a waiting timer must not keep the process alive.
    (this.comparing as { unref?: () => void }).unref?.();
  }

  /** Brings a new or outdated copy up to date with the library. @returns whether it is up to date now */
  async compare(): Promise<boolean> {
    // A closed library is compared when it opens again.
    if (!this.main.isOpen()) return false;
    const copy = await this.copy();
    if (!copy || !this.main.isOpen()) return false;
    const specs = this.specs.filter((spec) => this.names.includes(spec.name));
    const differing = new Map(await Promise.all(specs.map(async (spec) => [spec.name, await this.differing(copy, spec)] as const)));
    // A part's body keeps its key when it changes, so bodies are copied wherever the part's edits differ.
    const moved = new Set((differing.get('edits') ?? []).map((key) => (key as [string, number])[0]));
    differing.set('bodies', [...new Set([...(differing.get('bodies') ?? []), ...moved])]);
    for (const [table, keys] of differing)
      for (let i = 0; i < keys.length; i += CHUNK) await locked(() => this.take(copy, [{ table, keys: keys.slice(i, i + CHUNK) }]));
    return true;
  }

  /** Keys of rows that exist on one side only; for small tables and Shelf rows, also keys of rows that differ. */
  private async differing(copy: Dexie, { name, owner }: TableSpec): Promise<unknown[]> {
    const here = this.main.table<unknown, unknown>(name);
    const there = copy.table<unknown, unknown>(name);
    const [keys, copied] = await Promise.all([here.toCollection().primaryKeys(), there.toCollection().primaryKeys()]);
    const [mine, its] = [namesOf(keys), namesOf(copied)];
    const gone = this.isUnread ? [] : copied.filter((key) => !mine.has(JSON.stringify(key)));
    const differ = [...keys.filter((key) => !its.has(JSON.stringify(key))), ...gone];
    const isSmall = name === 'parts' || (owner === 'library' && name !== 'deletedRows');
    if (!isSmall) return differ;
    const both = keys.filter((key) => its.has(JSON.stringify(key)));
    const [rows, copies] = await Promise.all([here.bulkGet(both), there.bulkGet(both)]);
    return [...differ, ...both.filter((_, i) => JSON.stringify(rows[i]) !== JSON.stringify(copies[i]))];
  }

  /** True if the copy holds no library or cannot be read now. */
  async isEmpty(): Promise<boolean> {
    try {
      const copy = await this.copy();
      return !copy || (await copy.table('parts').count()) === 0;
    } catch (e) {
      this.isUnread = true;
      this.failed(e);
      return true;
    }
  }

  /** The next rows of a table, after a key. */
  async next(name: string, after: unknown): Promise<{ rows: unknown[]; last: unknown }> {
    const copy = await this.copy();
    if (!copy || !this.names.includes(name)) return { rows: [], last: undefined };
    const table = copy.table<unknown, unknown>(name);
    const some = () => (after === undefined ? table.orderBy(':id') : table.where(':id').above(after)).limit(CHUNK);
    const [rows, keys] = await Promise.all([some().toArray(), some().primaryKeys()]);
    return { rows, last: keys.at(-1) };
  }
}

const namesOf = (keys: readonly unknown[]): Set<string> => new Set(keys.map((key) => JSON.stringify(key)));

/** The rows in a range. Dexie's range types: 1 equal, 2 between, 3 any, 4 never. */
function within(table: Table<unknown, unknown>, { type, lower, upper, lowerOpen, upperOpen }: DBCoreKeyRange) {
  const where = table.where(':id');
  if (type === 4) return where.noneOf([]).limit(0);
  if (type === 3 || (lower === undefined && upper === undefined)) return table.toCollection();
  if (type === 1) return where.equals(lower);
  if (lower === undefined) return upperOpen ? where.below(upper) : where.belowOrEqual(upper);
  if (upper === undefined) return lowerOpen ? where.above(lower) : where.aboveOrEqual(lower);
  return where.between(lower, upper, !lowerOpen, !upperOpen);
}

/** Dexie middleware that reports changed rows to the copy. */
export const copying = (copy: SecondCopy): Middleware<DBCore> => ({
  stack: 'dbcore',
  name: 'second-copy',
  create: (core) => ({ ...core, table: (name) => copied(core.table(name), copy) }),
});

function copied(table: DBCoreTable, copy: SecondCopy): DBCoreTable {
  const keysOf = (request: DBCoreMutateRequest): readonly unknown[] => {
    if (request.type === 'delete') return request.keys as unknown[];
    if (request.type === 'deleteRange') return [];
    return (request.values as unknown[]).map((row) => table.schema.primaryKey.extractKey?.(row) as unknown);
  };
  return {
    ...table,
    async mutate(request) {
      const range = request.type === 'deleteRange' ? { range: request.range } : {};
      copy.touched(request.trans, { table: table.name, keys: keysOf(request), ...range });
      return table.mutate(request);
    },
  };
}
