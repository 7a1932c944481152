import 'fake-indexeddb/auto';
import { addVelocity } from '@/core/commands/hits';
import { diffParts } from '@/core/part/diff';
import { smallPart } from '@tests/support/arbitraries';
import { NodSwayDatabase } from './database';
import { DeletedStore, KEPT_MS } from './deleted-store';
import { PartStore } from './part-store';
import { ShelfStore } from './shelf-store';
import { VersionStore } from './version-store';

let n = 0;
function fresh() {
  const db = new NodSwayDatabase(`deleted-${n++}`);
  return { db, parts: new PartStore(db), drawer: new DeletedStore(db), shelf: new ShelfStore(db), versions: new VersionStore(db) };
}

const part = smallPart([
  ['kick', 0, 100],
  ['snare', 1, 90],
]);

test('parts go into the drawer with all that is theirs, and come back with it', async () => {
  const { parts, drawer, shelf, versions, db } = fresh();
  const [a, b] = [await parts.create(part, { song: Uint8Array.of(1, 2) }), await parts.create(part)];
  await versions.keep(a, { name: 'First', part });
  await parts.createIdea(part, { partId: a, letter: 'A', bars: 1 });
  await shelf.rename(a, 'Bilge Pump');
  await drawer.remove([a, b], 1000);
  expect([
    (await parts.list()).length,
    await db.bodies.count(),
    await db.edits.count(),
    await db.versions.count(),
    await db.songs.count(),
  ]).toEqual([0, 0, 0, 0, 0]);
  expect((await drawer.list()).map((d) => [d.at, d.row.name]).sort()).toEqual(
    [
      [1000, 'Bilge Pump'],
      [1000, part.name],
    ].sort(),
  );
  await drawer.putBack([a]);
  expect([
    (await parts.load(a)).part.name,
    (await parts.song(a))?.length,
    (await versions.list(a)).length,
    (await parts.ideas(a)).length,
  ]).toEqual(['Bilge Pump', 2, 1, 1]);
  expect((await parts.recentEdits(a, 1)).map((e) => e.label)).toEqual(['Rename the part']);
  expect((await drawer.list()).map((d) => d.id)).toEqual([b]);
  await drawer.forget([b]);
  expect([await db.deleted.count(), await db.deletedRows.count()]).toEqual([0, 0]);
});

test('where the Shelf has one of the same number by now, the two change places', async () => {
  const { parts, drawer, shelf } = fresh();
  await parts.create(part, { id: 'demo-x' });
  await shelf.rename('demo-x', 'Mine');
  await drawer.remove(['demo-x']);
  await parts.create(part, { id: 'demo-x' });
  await drawer.putBack(['demo-x']);
  expect([(await parts.list()).map((r) => r.name), (await drawer.list()).map((d) => d.row.name)]).toEqual([['Mine'], [part.name]]);
});

test('after thirty days a deleted part is gone', async () => {
  const { parts, drawer } = fresh();
  const [a, b] = [await parts.create(part), await parts.create(part)];
  await drawer.remove([a], 0);
  await drawer.remove([b], 1000);
  await drawer.forgetOld(KEPT_MS + 1);
  expect((await drawer.list()).map((d) => d.id)).toEqual([b]);
});

test('renaming is an edit like any other; the name is cut where it is too long, and an empty one changes nothing', async () => {
  const { parts, shelf } = fresh();
  const id = await parts.create(part);
  await shelf.rename(id, '  ');
  expect((await parts.load(id)).head).toBe(0);
  await shelf.rename(id, ' Rope Walk ');
  const { part: now, head } = await parts.load(id);
  expect([now.name, head, (await parts.list())[0]!.name]).toEqual(['Rope Walk', 1, 'Rope Walk']);
  const after = addVelocity(now, new Set(now.hits.map((h) => h.id)), -1);
  await parts.appendEdits(id, 2, [{ label: 'Softer', diff: diffParts(now, after)!, after, step: 'do' }]);
});

test('tags are put on many parts and taken off, and that is put back', async () => {
  const { parts, shelf } = fresh();
  const [a, b] = [await parts.create(part), await parts.create(part)];
  await shelf.tag([a], { add: ['verse'] });
  const putBack = await shelf.tag([a, b], { add: ['loud', 'late'], remove: ['verse'] });
  const tags = async () => Object.fromEntries((await parts.list()).map((r) => [r.id, r.tags]));
  expect(await tags()).toEqual({ [a]: ['late', 'loud'], [b]: ['late', 'loud'] });
  await putBack();
  expect(await tags()).toEqual({ [a]: ['verse'], [b]: [] });
});

test('a copy has song, versions, ideas and tags of its own', async () => {
  const { parts, shelf, versions } = fresh();
  const id = await parts.create(part, { song: Uint8Array.of(7) });
  await versions.keep(id, { name: 'First', part });
  await parts.createIdea(part, { partId: id, letter: 'B', bars: 1 });
  await shelf.tag([id], { add: ['verse'] });
  const copy = await shelf.duplicate(id, (name) => `${name} (copy)`);
  expect([
    (await parts.load(copy)).part.name,
    (await parts.song(copy))?.[0],
    (await versions.list(copy)).map((v) => v.name),
    (await parts.ideas(copy)).map((i) => i.letter),
  ]).toEqual([`${part.name} (copy)`, 7, ['First'], ['B']]);
  expect((await parts.list()).find((r) => r.id === copy)?.tags).toEqual(['verse']);
  expect((await versions.list(id)).length).toBe(1);
});
