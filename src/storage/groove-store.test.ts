import 'fake-indexeddb/auto';
import { HOUSE_GROOVES } from '@/core/groove/house-grooves';
import { NodSwayDatabase } from './database';
import { GrooveStore, type KeptGroove } from './groove-store';

const kept = (id: string, name: string): KeptGroove => ({
  id,
  groove: { ...HOUSE_GROOVES[0]!, name },
  tags: ['lazy'],
  createdAt: 1,
  updatedAt: 2,
});

test('grooves are kept whole, listed by name, replaced by id, taken away; one that does not read is left out', async () => {
  const db = new NodSwayDatabase('grooves');
  const store = new GrooveStore(db);
  await store.put(kept('b', 'Bowsprit 10'));
  await store.put(kept('a', 'Bowsprit 9'));
  await db.grooves.put({ id: 'c', groove: { format: 'nod-sway/groove@9' }, tags: [], createdAt: 0, updatedAt: 0 });
  expect(await store.list()).toEqual([kept('a', 'Bowsprit 9'), kept('b', 'Bowsprit 10')]);
  await store.put(kept('b', 'Anchor'));
  await store.remove('a');
  expect((await store.list()).map((k) => k.groove.name)).toEqual(['Anchor']);
});
