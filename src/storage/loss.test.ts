import 'fake-indexeddb/auto';
import { Dexie } from 'dexie';
import { diffParts } from '@/core/part/diff';
import { addVelocity } from '@/core/commands/hits';
import { smallPart } from '@tests/support/arbitraries';
import { NodSwayDatabase } from './database';
import { addMissingDemos, seedOnFirstVisit } from './demo-seed';
import { dismissLoss, libraryLoss } from './library-mark';
import { PartStore } from './part-store';
import { Recovery } from './recovery';
import { UnchosenStore } from './unchosen-store';
import { VersionStore } from './version-store';

/** What pages keep outside of the database. */
const outside = new Map<string, string>();
beforeAll(() => {
  Object.assign(globalThis, {
    localStorage: {
      getItem: (k: string) => outside.get(k) ?? null,
      setItem: (k: string, v: string) => void outside.set(k, v),
      removeItem: (k: string) => void outside.delete(k),
    },
  });
});
beforeEach(() => {
  outside.clear();
  dismissLoss();
});

const part = smallPart([
  ['kick', 0, 100],
  ['snare', 1, 90],
]);
const all = new Set(part.hits.map((h) => h.id));
let number = 0;

/** The browser throws a database away under an open connection. */
async function throwAway(db: NodSwayDatabase) {
  db.close({ disableAutoOpen: false });
  await Dexie.delete(db.name);
}

test('what a tab has read or written is written back into a database that was thrown away; what it has not is named', async () => {
  const name = `loss-${number++}`;
  const before = new NodSwayDatabase(name);
  const store = new PartStore(before);
  const [kept, gone] = [
    await store.create({ ...part, name: 'Bilge Pump' }, { song: Uint8Array.of(1, 2, 3) }),
    await store.create({ ...part, name: 'Anchor Watch' }),
  ];
  await new VersionStore(before).keep(kept, { name: 'First', part });
  before.close();

  const db = new NodSwayDatabase(name);
  const tab = new PartStore(db);
  // The Shelf's lines of both were read, but only one part was opened.
  expect(await tab.list()).toHaveLength(2);
  const { part: open } = await tab.load(kept);
  await tab.song(kept);
  await new VersionStore(db).list(kept);
  const softer = addVelocity(open, all, -5);
  await tab.appendEdits(kept, 1, [{ label: 'softer', diff: diffParts(open, softer)!, after: softer, step: 'do' }]);
  outside.set(
    'nod-sway:library',
    JSON.stringify({
      parts: [
        [kept, 'Bilge Pump'],
        [gone, 'Anchor Watch'],
      ],
      others: { grooves: 2 },
    }),
  );

  await throwAway(db);
  // The next thing that is asked for finds what was written back.
  expect((await tab.list()).map((row) => row.name)).toEqual(['Bilge Pump']);
  expect(await tab.load(kept)).toEqual({ part: softer, head: 1 });
  expect(await tab.song(kept)).toEqual(Uint8Array.of(1, 2, 3));
  expect((await new VersionStore(db).list(kept)).map((v) => v.name)).toEqual(['First']);
  expect(libraryLoss.getState().lost).toEqual({ parts: [[gone, 'Anchor Watch']], others: { grooves: 2 } });
});

test('rows that were deleted do not come back', async () => {
  const db = new NodSwayDatabase(`loss-${number++}`);
  const store = new PartStore(db);
  const [one, two] = [await store.create(part), await store.create(part)];
  await store.remove(one);
  await db.flags.bulkPut([
    { name: 'a', at: 1 },
    { name: 'b', at: 1 },
    { name: 'c', at: 1 },
  ]);
  await db.flags.where('name').between('a', 'b', true, true).delete();
  await throwAway(db);
  expect((await store.list()).map((row) => row.id)).toEqual([two]);
  expect((await db.flags.toArray()).map((flag) => flag.name)).toEqual(['c']);
});

test('a library that was here and is gone at the start is said, survives the next start, and no demos are laid over it', async () => {
  outside.set('nod-sway:library', JSON.stringify({ parts: [['x', 'Bilge Pump']], others: {} }));
  const db = new NodSwayDatabase(`loss-${number++}`);
  const store = new PartStore(db);
  const versions = new VersionStore(db);
  const load = () => Promise.resolve([{ id: 'demo', about: '', part }]);
  await seedOnFirstVisit(store, versions, load);
  expect([(await store.list()).length, libraryLoss.getState().lost?.parts]).toEqual([0, [['x', 'Bilge Pump']]]);
  db.close();
  libraryLoss.setState({ lost: null });
  const next = new NodSwayDatabase(db.name);
  const again = new PartStore(next);
  await again.list();
  expect(libraryLoss.getState().lost?.parts).toEqual([['x', 'Bilge Pump']]);
  // Restored, it is lost no more.
  await again.create(part, { id: 'x' });
  next.close();
  const last = new NodSwayDatabase(db.name);
  await new PartStore(last).list();
  expect(libraryLoss.getState().lost).toBeNull();
  expect(await addMissingDemos(new PartStore(last), new VersionStore(last), load)).toBe(1);
});

test('a state that waits for a choice is kept at once, replaced by the next, offered to others only when its tab is gone', async () => {
  const db = new NodSwayDatabase(`loss-${number++}`);
  const unchosen = new UnchosenStore(db);
  await unchosen.keep('p', part, ['one']);
  const later = addVelocity(part, all, -9);
  await unchosen.keep('p', later, ['one', 'two']);
  await unchosen.keep('p~A', part, ['idea']);
  expect((await unchosen.left('p')).map(({ part: was, steps }) => [was, steps])).toEqual([[later, ['one', 'two']]]);
  const [left] = await unchosen.left('p');
  await unchosen.settle(left!.id, true);
  expect(await unchosen.left('p')).toEqual([]);
  expect((await new VersionStore(db).list('p')).map((v) => v.part)).toContainEqual(later);
  await unchosen.keep('p', part, ['three']);
  await unchosen.drop('p');
  expect(await unchosen.left('p')).toEqual([]);
});

test('a store that refuses is tried again until it takes a write; then all who wait hear of it once', async () => {
  jest.useFakeTimers();
  try {
    let refusals = 3;
    const log: string[] = [];
    const recovery = new Recovery({
      isOpen: () => true,
      open: () => Promise.resolve(),
      close: () => void log.push('close'),
      probe: () => (refusals-- > 0 ? Promise.reject(new Error('full')) : Promise.resolve()),
    });
    recovery.onRefusal = () => void log.push('refused');
    recovery.whenBack(() => void log.push('back'));
    recovery.whenBack(() => void log.push('back too'));
    await jest.advanceTimersByTimeAsync(60_000);
    expect(log).toEqual(['close', 'refused', 'close', 'refused', 'close', 'refused', 'back', 'back too']);
  } finally {
    jest.useRealTimers();
  }
});
