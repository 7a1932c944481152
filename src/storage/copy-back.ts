import { Dexie, type Table } from 'dexie';
import type { SecondCopy } from './second-copy';
import type { TableSpec } from './tables';

/** A library with its copy. */
interface Copied {
  copy: SecondCopy;
  specs: readonly TableSpec[];
  isEmpty(): Promise<boolean>;
  table(name: string): Table<unknown, unknown>;
}

const LOCK = 'nod-sway:copy-back';

/**
 * Runs work outside the Dexie zone of a database that is opening, where no other database can be used. Awaiting it returns to the zone.
 */
const outside = <T>(work: () => Promise<T>): PromiseLike<T> =>
  new Dexie.Promise<T>((done, failed) => void setTimeout(() => void work().then(done, failed)));

/** Waits for the lock that only one tab can hold. @returns a function that releases it */
function takeLock(): Promise<() => void> {
  const locks = (globalThis.navigator as Navigator | undefined)?.locks;
  if (!locks) return Promise.resolve(() => undefined);
  return new Promise((taken, failed) => {
    locks
      .request(
        LOCK,
        () =>
          new Promise<void>((done) => {
            taken(done);
          }),
      )
      .catch(failed);
  });
}

/**
 * Restores an empty library from its second copy while it is being opened. One tab does it; the others wait. Shelf rows are written after
 * the data they refer to, and flags last, so a browser that is killed halfway starts over.
 * @returns the number of restored parts
 */
export async function writeBackFromCopy(db: Copied): Promise<number> {
  const { copy } = db;
  if (await outside(() => copy.isEmpty())) return 0;
  const release = await outside(takeLock);
  copy.isPaused = true;
  try {
    // Another tab may have done it.
    if (!(await db.isEmpty())) return 0;
    const last = ['parts', 'flags'];
    const names = [...db.specs.map((spec) => spec.name).filter((name) => !last.includes(name)), ...last];
    let parts = 0;
    for (const name of names)
      for (let after: unknown; ;) {
        const from = after;
        const { rows, last } = await outside(() => copy.next(name, from));
        if (rows.length === 0) break;
        await db.table(name).bulkPut(rows);
        if (name === 'parts') parts += rows.filter((row) => (row as { idea?: unknown }).idea === undefined).length;
        after = last;
      }
    return parts;
  } finally {
    copy.isPaused = false;
    release();
  }
}
