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
  const first = await versions.keep(id, 'First', part, 1000);
  await versions.keep(id, 'Second', { ...part, bars: 3 }, 2000);
  await versions.keep('another', 'Elsewhere', part, 3000);
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
