import { createStore } from 'zustand/vanilla';

/** What lies under the database: the browser's IndexedDB, or memory where that is forbidden. Dexie asks here each time. */
interface BackingRecord {
  indexedDB: IDBFactory;
  IDBKeyRange: typeof IDBKeyRange;
}

let memory: BackingRecord | null = null;

const backing = (): BackingRecord => memory ?? { indexedDB: globalThis.indexedDB, IDBKeyRange: globalThis.IDBKeyRange };

/** True where the browser forbids storage and everything is kept in memory. */
export const isInMemory = (): boolean => memory !== null;

/** The factory that is in use now. */
export const factory: IDBFactory = {
  open: (name, version) => backing().indexedDB.open(name, version),
  deleteDatabase: (name) => backing().indexedDB.deleteDatabase(name),
  cmp: (a, b) => backing().indexedDB.cmp(a, b),
  databases: () => backing().indexedDB.databases(),
};

/** The key ranges that go with it. */
export const keyRange = {
  bound: (lower: unknown, upper: unknown, lowerOpen?: boolean, upperOpen?: boolean) =>
    backing().IDBKeyRange.bound(lower, upper, lowerOpen, upperOpen),
  lowerBound: (lower: unknown, open?: boolean) => backing().IDBKeyRange.lowerBound(lower, open),
  upperBound: (upper: unknown, open?: boolean) => backing().IDBKeyRange.upperBound(upper, open),
  only: (value: unknown) => backing().IDBKeyRange.only(value),
} as unknown as typeof IDBKeyRange;

/** Where work is kept: not known yet, in the browser, or only in memory. */
export type Keeping = 'opening' | 'browser' | 'memory';

/**
 * The state of the store: `silent` while an answer takes longer than {@link PATIENCE_MS}, `copyBehind` while the second copy could not be
 * written.
 */
export const storeHealth = createStore<{ keeping: Keeping; silent: boolean; copyBehind: boolean }>(() => ({
  keeping: 'opening',
  silent: false,
  copyBehind: false,
}));

const PATIENCE_MS = 5000;
let overdue = 0;

/** Watches one answer of the store; the result says that it came. */
export function watched(): () => void {
  let late = false;
  const timer = setTimeout(() => {
    late = true;
    overdue++;
    storeHealth.setState({ silent: true });
  }, PATIENCE_MS);
  return () => {
    clearTimeout(timer);
    if (late && --overdue === 0) storeHealth.setState({ silent: false });
  };
}

interface Openable {
  open(): PromiseLike<unknown>;
  close(options: { disableAutoOpen: boolean }): void;
}

let opening: Promise<void> | null = null;

/** Opens the store once; where the browser forbids it, all is kept in memory from then on, and {@link storeHealth} says so. */
export function opened(database: Openable): Promise<void> {
  opening ??= (async () => {
    const answered = watched();
    try {
      await database.open();
      storeHealth.setState({ keeping: 'browser' });
    } catch {
      const fake = await import('fake-indexeddb');
      memory = { indexedDB: fake.indexedDB, IDBKeyRange: fake.IDBKeyRange };
      database.close({ disableAutoOpen: false });
      await database.open();
      storeHealth.setState({ keeping: 'memory' });
    } finally {
      answered();
    }
  })();
  return opening;
}

export const isOpened = (): boolean => storeHealth.getState().keeping !== 'opening';

let asked = false;

/** Asks the browser, once, not to clear what is kept here. */
export function askToStay(): void {
  if (asked || typeof navigator === 'undefined') return;
  asked = true;
  // The answer changes nothing that could be said or done here.
  void navigator.storage?.persist?.().catch(() => false);
}
