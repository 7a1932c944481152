import 'fake-indexeddb/auto';
import { Dexie } from 'dexie';
import { IDBFactory, IDBKeyRange } from 'fake-indexeddb';
import fc from 'fast-check';
import { addVelocity } from '@/core/commands/hits';
import { diffParts } from '@/core/part/diff';
import { smallPart } from '@tests/support/arbitraries';
import { NodSwayDatabase } from './database';
import { DeletedStore } from './deleted-store';
import { libraryLoss } from './library-mark';
import { PartStore } from './part-store';
import { NOT_COPIED, type OpenPlace } from './second-copy';
import { TABLES } from './tables';
import { storeHealth } from './storage-backend';
import { VersionStore } from './version-store';

const part = smallPart([
  ['kick', 0, 100],
  ['snare', 1, 90],
]);
const all = new Set(part.hits.map((h) => h.id));
let number = 0;

interface Kept {
  name: string;
  place: OpenPlace;
}

const somewhere = (): Kept => {
  const indexedDB = new IDBFactory();
  return { name: `copied-${number++}`, place: () => Promise.resolve({ indexedDB, IDBKeyRange }) };
};
const opened = ({ name, place }: Kept): NodSwayDatabase => new NodSwayDatabase(name, TABLES, place);

/** The browser finds its database damaged and throws it away. */
async function throwAway(db: NodSwayDatabase): Promise<void> {
  db.close();
  await Dexie.delete(db.name);
}

const isCopied = (table: { name: string }): boolean => !NOT_COPIED.includes(table.name);

/** All rows that are copied, by table. */
const rowsOf = async (db: Dexie): Promise<Record<string, unknown[]>> =>
  Object.fromEntries(await Promise.all(db.tables.filter(isCopied).map(async (table) => [table.name, await table.toArray()] as const)));

async function copyOf({ name, place }: Kept): Promise<Record<string, unknown[]>> {
  const db = new Dexie(name, (await place())!);
  await db.open();
  const rows = await rowsOf(db);
  db.close();
  return rows;
}

const edit = (store: PartStore, id: string, seq: number, by: number): Promise<void> => {
  const after = addVelocity(part, all, by);
  return store.appendEdits(id, seq, [{ label: 'softer', diff: diffParts(part, after)!, after, step: 'do' }]);
};

test('a library whose database is gone comes back from its second copy: parts, edits, versions, deleted parts', async () => {
  const kept = somewhere();
  const db = opened(kept);
  const store = new PartStore(db);
  const id = await store.create({ ...part, name: 'Bilge Pump' }, { song: Uint8Array.of(1, 2, 3) });
  const deleted = await store.create({ ...part, name: 'Anchor Watch' });
  await edit(store, id, 1, -5);
  await store.settleHead(id, 1, 1, addVelocity(part, all, -5));
  await new VersionStore(db).keep(id, { name: 'First', part });
  await new DeletedStore(db).remove([deleted]);
  await store.setFlag('demo-seeded');
  await db.recordings.put({ id: 'r' as never, blob: new Blob(['x']), name: 'loop', seconds: 1, at: 1 });
  await db.copy.settled();
  const before = await rowsOf(db);
  await throwAway(db);

  const next = opened(kept);
  const again = new PartStore(next);
  expect((await again.list()).map((row) => row.name)).toEqual([part.name]);
  expect((await again.load(id)).part.hits.map((h) => h.velocity)).toEqual([95, 85]);
  expect(await again.song(id)).toEqual(Uint8Array.of(1, 2, 3));
  expect((await new DeletedStore(next).list()).map((d) => d.row.name)).toEqual(['Anchor Watch']);
  expect(await rowsOf(next)).toEqual(before);
  expect(await next.recordings.count()).toBe(0);
  expect(libraryLoss.getState()).toEqual({ lost: null, restored: { parts: 1, files: 0 } });
});

test('an edit that the store has answered is in the copy, even where the tab is killed before its line of the Shelf is written', async () => {
  const kept = somewhere();
  const db = opened(kept);
  const store = new PartStore(db);
  const id = await store.create(part);
  await edit(store, id, 1, -7);
  await db.copy.settled();
  await throwAway(db);
  const { part: found, head } = await new PartStore(opened(kept)).load(id);
  expect([head, ...found.hits.map((h) => h.velocity)]).toEqual([1, 93, 83]);
});

test('whatever is written and deleted, once it is settled the copy is the library', async () => {
  const step = fc.record({
    what: fc.constantFrom('create', 'edit', 'remove', 'version', 'range', 'fail'),
    of: fc.nat(3),
    at: fc.nat(9),
  });
  await fc.assert(
    fc.asyncProperty(fc.array(step, { minLength: 3, maxLength: 25 }), async (steps) => {
      const kept = somewhere();
      // Two tabs, at the same time.
      const tabs = [opened(kept), opened(kept)];
      await Promise.all(
        tabs.map(async (db, tab) => {
          const store = new PartStore(db);
          for (const { what, of, at } of steps) {
            const id = `part-${of}`;
            if (what === 'create') await store.create(part, { id }).catch(() => undefined);
            else if (what === 'edit') await edit(store, id, at + 1, -1 - tab).catch(() => undefined);
            else if (what === 'remove') await store.remove(id);
            else if (what === 'version')
              await new VersionStore(db).keep(id, { name: `v${at}`, part, id: `${of}-${at}` }).catch(() => undefined);
            else if (what === 'range') await db.edits.where('[partId+seq]').between([id, 2], [id, at], true, true).delete();
            else
              await db
                .transaction('rw', db.flags, async () => (await db.flags.put({ name: id, at }), Promise.reject(new Error('no'))))
                .catch(() => 0);
          }
        }),
      );
      await Promise.all(tabs.map((db) => db.copy.settled()));
      expect(await copyOf(kept)).toEqual(await rowsOf(tabs[0] as NodSwayDatabase));
      for (const db of tabs) db.close();
    }),
    { numRuns: 30 },
  );
});

test('a copy that missed something is brought up to the library: rows too many, too few, older, and a body with its edits', async () => {
  const kept = somewhere();
  const db = opened(kept);
  const store = new PartStore(db);
  const [id, other] = [await store.create(part, { id: 'one' }), await store.create(part, { id: 'two' })];
  for (let seq = 1; seq <= 3; seq++) await edit(store, id, seq, -seq);
  await db.copy.settled();
  const copy = new Dexie(kept.name, (await kept.place())!);
  await copy.open();
  await copy.table('edits').where('[partId+seq]').between(['one', 2], ['one', 3], true, true).delete();
  await copy.table('bodies').put({ id, seq: 99, part: null });
  await copy.table('parts').put({ id: other, name: 'older' });
  await copy.table('versions').put({ id: 'v', partId: 'gone', name: 'stray', at: 1, part: null });
  await copy.table('flags').put({ name: 'stray', at: 1 });
  await db.copy.compare();
  expect(await rowsOf(copy)).toEqual(await rowsOf(db));
  copy.close();
});

test('a write-back that is cut short starts again: the Shelf shows no part before it is whole', async () => {
  const kept = somewhere();
  const db = opened(kept);
  await new PartStore(db).create(part, { id: 'one' });
  await db.copy.settled();
  await throwAway(db);
  const broken = opened(kept);
  broken.copy.next = (name, after) => (name === 'parts' ? Promise.reject(new Error('killed')) : db.copy.next(name, after));
  await expect(broken.open()).rejects.toThrow('killed');
  broken.close();
  const bare = new NodSwayDatabase(kept.name);
  expect(await bare.parts.count()).toBe(0);
  bare.close();
  expect((await new PartStore(opened(kept)).list()).map((row) => row.id)).toEqual(['one']);
});

test('a copy that never answers holds up nothing for longer than a few seconds, and one that refuses nothing at all', async () => {
  const error = jest.spyOn(console, 'error').mockImplementation(() => undefined);
  const refusing = new NodSwayDatabase(`copied-${number++}`, TABLES, () => Promise.reject(new Error('no')));
  await new PartStore(refusing).create(part, { id: 'one' });
  await refusing.copy.settled();
  expect(storeHealth.getState().copyBehind).toBe(true);
  storeHealth.setState({ copyBehind: false });
  refusing.close();
  const silent = somewhere();
  const db = opened(silent);
  await db.open();
  await db.copy.settled();
  db.copy.written([{ table: 'parts', keys: ['one'] }]);
  (db.copy as unknown as { take: () => Promise<void> }).take = () => new Promise(() => undefined);
  jest.useFakeTimers();
  const waited = db.copy.settled();
  await jest.advanceTimersByTimeAsync(3000);
  await waited;
  expect(storeHealth.getState().copyBehind).toBe(true);
  storeHealth.setState({ copyBehind: false });
  await db.copy.settled();
  jest.useRealTimers();
  db.close();
  error.mockRestore();
});

test('a copy that could not be read when the library was found empty keeps what is in it alone', async () => {
  const error = jest.spyOn(console, 'error').mockImplementation(() => undefined);
  const kept = somewhere();
  const db = opened(kept);
  await new PartStore(db).create(part, { id: 'one' });
  await db.copy.settled();
  await throwAway(db);
  let isBroken = true;
  const next = new NodSwayDatabase(kept.name, TABLES, () => (isBroken ? Promise.reject(new Error('busy')) : kept.place()));
  const store = new PartStore(next);
  await store.create(part, { id: 'two' });
  expect((await store.list()).map((row) => row.id)).toEqual(['two']);
  isBroken = false;
  expect(await next.copy.compare()).toBe(true);
  expect((await copyOf(kept)).parts!.map((row) => (row as { id: string }).id)).toEqual(['one', 'two']);
  next.close();
  storeHealth.setState({ copyBehind: false });
  error.mockRestore();
});
