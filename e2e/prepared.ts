import type { Page } from '@playwright/test';
import { importPart } from '../src/core/smf/import-part';
import { drumLanes, listLanes } from '../src/core/smf/lanes';
import { readSmf } from '../src/core/smf/read';
import type { Part } from '../src/core/model/part';
import { emptyPart, FIRST_BEGINNING, type Beginning } from '../src/core/part/empty-part';
import { summarize } from '../src/storage/summary';
import { DATA_VERSION, TABLES } from '../src/storage/tables';

/** A browser's store that has a part already: flows that are not about importing begin on its Bench. */

/** Dexie counts versions in tens. */
const VERSION = 10 * DATA_VERSION;
let made = 0;

/** Puts a part, and the song that it came from, into the page's store, as an import would. @returns its id */
export async function preparePart(page: Page, part: Part, song?: Uint8Array): Promise<string> {
  const id = `prepared-${++made}`;
  await prepareRows(page, { ...rowsOf(id, part), ...(song ? { songs: [{ id, bytes: [...song] }] } : {}) });
  return id;
}

/** Puts many parts there at once, each under a name and a number of its own. */
export const prepareParts = (page: Page, parts: readonly (readonly [name: string, part: Part])[]): Promise<void> => {
  const all = parts.map(([name, part], n) => rowsOf(`many-${n}`, { ...part, name }, Date.now() - n * 60_000));
  return prepareRows(page, { parts: all.flatMap((r) => r.parts), bodies: all.flatMap((r) => r.bodies) });
};

const rowsOf = (id: string, part: Part, now = Date.now()) => ({
  parts: [{ id, name: part.name, createdAt: now, updatedAt: now, head: 0, summary: summarize(part) }],
  bodies: [{ id, seq: 0, part }],
});

/** Writes rows as the store has them, before the product opens it. */
async function prepareRows(page: Page, data: Readonly<Record<string, readonly object[]>>): Promise<void> {
  // The smallest document of the same origin.
  await page.goto('/icon.svg');
  await page.evaluate(
    ({ version, tables, rows }) =>
      new Promise<void>((done, fail) => {
        const open = indexedDB.open('nod-sway', version);
        open.onerror = () => fail(open.error);
        open.onupgradeneeded = () => {
          const pathOf = (written: string) => (written.startsWith('[') ? written.slice(1, -1).split('+') : written);
          for (const { name, keys } of tables) {
            const [primary, ...indexes] = keys.split(', ');
            const store = open.result.createObjectStore(name, { keyPath: pathOf(primary!) });
            for (const index of indexes) store.createIndex(index, pathOf(index));
          }
        };
        open.onsuccess = () => {
          const tx = open.result.transaction(Object.keys(rows), 'readwrite');
          for (const [table, list] of Object.entries(rows))
            for (const row of list)
              tx.objectStore(table).put('bytes' in row ? { ...row, bytes: Uint8Array.from(row.bytes as number[]) } : row);
          tx.onabort = () => fail(tx.error);
          tx.oncomplete = () => {
            open.result.close();
            done();
          };
        };
      }),
    { version: VERSION, tables: TABLES.map(({ name, keys }) => ({ name, keys })), rows: data },
  );
}

/** The part that importing a file makes. */
export function partOfMidi(fileName: string, bytes: Uint8Array): Part {
  const file = readSmf(bytes);
  return importPart(file, { name: fileName.replace(/\.midi?$/i, ''), fileName, lanes: drumLanes(file, listLanes(file)) }).part;
}

export const newPart = (change: Partial<Beginning> = {}): Part => emptyPart({ ...FIRST_BEGINNING, ...change });
