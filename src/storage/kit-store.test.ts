import 'fake-indexeddb/auto';
import { GALLEY_KIT, GENERAL_MIDI_KIT } from '@/core/key-map';
import { NodSwayDatabase } from './database';
import { KitStore } from './kit-store';

test('key maps are kept by name, replaced, taken away and put back', async () => {
  const store = new KitStore(new NodSwayDatabase('kits'));
  await store.save({ ...GALLEY_KIT, name: 'Hold' });
  await store.save({ ...GENERAL_MIDI_KIT, name: 'Bilge' });
  await store.save({ name: 'Hold', voices: { 36: 'kick' } });
  expect((await store.list()).map((k) => k.name)).toEqual(['Bilge', 'Hold']);
  const [, hold] = await store.list();
  expect(hold?.voices).toEqual({ 36: 'kick' });
  const putBack = await store.remove(hold!);
  expect(await store.list()).toHaveLength(1);
  await putBack();
  expect((await store.list())[1]).toEqual({ name: 'Hold', voices: { 36: 'kick' } });
  await store.rename(hold!, 'Aft');
  expect(await store.list()).toEqual([
    { name: 'Aft', voices: { 36: 'kick' } },
    { name: 'Bilge', voices: GENERAL_MIDI_KIT.voices },
  ]);
});
