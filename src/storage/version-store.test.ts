import 'fake-indexeddb/auto';
import { smallPart } from '@tests/support/arbitraries';
import { NodSwayDatabase } from './database';
import { PartStore } from './part-store';
import { VersionStore } from './version-store';

const part = smallPart([['kick', 0, 100]]);

test('versions are kept by part, the newest first, renamed, taken away and put back; they go and come with their part', async () => {
  const db = new NodSwayDatabase('versions');
  const [parts, versions] = [new PartStore(db), new VersionStore(db)];
  const id = await parts.create(part);
  const first = await versions.keep(id, { name: 'First', part, at: 1000 });
  await versions.keep(id, { name: 'Second', part: { ...part, bars: 3 }, at: 2000 });
  await versions.keep('another', { name: 'Elsewhere', part, at: 3000 });
  const names = async () => (await versions.list(id)).map((v) => v.name);
  expect(await names()).toEqual(['Second', 'First']);
  expect((await versions.list(id))[0]?.part).toEqual({ ...part, bars: 3 });
  await versions.rename(first, 'The first');
  const putBack = await versions.remove(first);
  expect(await names()).toEqual(['Second']);
  await putBack();
  expect(await names()).toEqual(['Second', 'The first']);
  const restore = await parts.remove(id);
  expect(await names()).toEqual([]);
  await restore();
  expect(await names()).toEqual(['Second', 'The first']);
});

test('how a part came is known by its origin, whatever it is called; rows of before by their name', async () => {
  const db = new NodSwayDatabase('origins');
  const [parts, versions] = [new PartStore(db), new VersionStore(db)];
  const origins = async (id: string) => (await versions.list(id)).map((v) => [v.name, v.origin]);
  const now = await parts.create(part);
  const own = await versions.keepImported(now, part, 1000);
  await versions.keep(now, { name: 'As imported', part, at: 2000 });
  await versions.rename(own, 'From the studio');
  expect(await origins(now)).toEqual([
    ['As imported', undefined],
    ['From the studio', 'import'],
  ]);
  const before = await parts.create(part);
  await db.versions.add({ id: 'old', partId: before, name: 'As imported', at: 1, part });
  await db.versions.add({ id: 'later', partId: before, name: 'Version 2', at: 2, part });
  expect(await origins(before)).toEqual([
    ['Version 2', undefined],
    ['As imported', 'import'],
  ]);
});
