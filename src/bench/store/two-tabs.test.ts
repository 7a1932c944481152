import 'fake-indexeddb/auto';
import { addVelocity } from '@/core/commands/hits';
import { setTempo } from '@/core/commands/settings';
import type { Part } from '@/core/model/part';
import { startTempo } from '@/core/commands/settings';
import { bpm } from '@/core/units';
import { NodSwayDatabase } from '@/storage/database';
import { PartStore } from '@/storage/part-store';
import { smallPart } from '@tests/support/arbitraries';
import { createBenchStore, type BenchStore } from './bench-store';

const part = smallPart([
  ['kick', 0, 100],
  ['snare', 1, 90],
]);
const softer = (p: Part) => addVelocity(p, new Set(p.hits.map((h) => h.id)), -10);
const faster = (p: Part) => setTempo(p, bpm(150));
const levels = (tab: BenchStore) => tab.getState().part.hits.map((h) => h.velocity);
const tempo = (tab: BenchStore) => Math.round(startTempo(tab.getState().part));

/** Waits until something holds, as far as the store's answers go. */
async function until(holds: () => boolean): Promise<void> {
  for (let i = 0; i < 2000 && !holds(); i++) await new Promise((done) => setImmediate(done));
  expect(holds()).toBe(true);
}
const kept = (tab: BenchStore) => until(() => tab.getState().save.kind === 'saved');

let n = 0;
/** Two tabs on one part; what one keeps is told to the other by hand. */
async function twoTabs() {
  const parts = new PartStore(new NodSwayDatabase(`two-tabs-${n++}`));
  const id = await parts.create(part);
  const tab = async () => createBenchStore(id, await parts.load(id), false, parts);
  return { parts, id, here: await tab(), there: await tab() };
}

test('an idle tab follows each edit, steps back among them, and undoes what the other did', async () => {
  const { here, there, parts, id } = await twoTabs();
  here.getState().run('Soften', softer);
  await kept(here);
  there.getState().select(['h0', 'h1']);
  there.getState().hear(1);
  await until(() => levels(there)[0] === 90);
  here.getState().undo();
  here.getState().run('Faster', faster);
  await kept(here);
  there.getState().hear(3);
  await until(() => tempo(there) === 150);
  expect([levels(there), there.getState().save.kind]).toEqual([[100, 90], 'saved']);
  there.getState().undo();
  await kept(there);
  expect(tempo(there)).toBe(Math.round(startTempo(part)));
  expect((await parts.load(id)).head).toBe(4);
});

test('while something is half done the tab waits; put back, it follows', async () => {
  const { here, there } = await twoTabs();
  const trial = there.getState().open('Try softer', 'trial');
  trial.preview(softer);
  here.getState().run('Faster', faster);
  await kept(here);
  there.getState().hear(1);
  await new Promise((done) => setImmediate(done));
  expect([levels(there), tempo(there)]).toEqual([[90, 80], Math.round(startTempo(part))]);
  trial.cancel();
  await until(() => tempo(there) === 150);
  expect(levels(there)).toEqual([100, 90]);
});

test('kept, both have gone on: nothing is written over, and either is taken', async () => {
  for (const which of ['mine', 'theirs'] as const) {
    const { here, there, parts, id } = await twoTabs();
    const drag = there.getState().open('Soften', 'drag');
    drag.preview(softer);
    here.getState().run('Faster', faster);
    await kept(here);
    there.getState().hear(1);
    drag.commit();
    await until(() => there.getState().conflict === id);
    expect(there.getState().bothOf(id)).toMatchObject({ steps: ['Soften'], common: 0 });
    // What is done meanwhile waits, too.
    there.getState().run('Softer still', softer);
    await there.getState().takeOf(id, which);
    await kept(there);
    expect(there.getState().conflict).toBeNull();
    const stored = await parts.load(id);
    const [velocity, bpmNow] = [stored.part.hits[0]!.velocity, Math.round(startTempo(stored.part))];
    expect([velocity, bpmNow, stored.head]).toEqual(which === 'mine' ? [80, Math.round(startTempo(part)), 2] : [100, 150, 1]);
    expect(there.getState().part).toEqual(stored.part);
    if (which === 'mine') {
      there.getState().undo();
      expect([levels(there)[0], tempo(there)]).toEqual([100, 150]);
    }
  }
});

test('the other went on from an edit that was still on its way: that is no conflict', async () => {
  const { here, there, parts, id } = await twoTabs();
  here.getState().run('Soften', softer);
  here.getState().hear(2);
  await kept(here);
  there.getState().hear(1);
  await until(() => levels(there)[0] === 90);
  there.getState().run('Faster', faster);
  await kept(there);
  here.getState().hear(2);
  await until(() => tempo(here) === 150);
  expect([here.getState().conflict, (await parts.load(id)).head]).toEqual([null, 2]);
});

test('a part that is taken away and put there anew, as a restore does it, is read again; with edits of its own the tab keeps what it has', async () => {
  const { here, there, parts, id } = await twoTabs();
  here.getState().run('Soften', softer);
  await kept(here);
  there.getState().hear(1);
  await until(() => levels(there)[0] === 90);
  await parts.remove(id);
  for (const tab of [here, there]) tab.getState().hear(null);
  expect(here.getState().save).toMatchObject({ kind: 'failed', error: { code: 'deleted-elsewhere' } });
  there.getState().run('Softer still', softer);
  await parts.create(faster(part), { id, head: 2 });
  here.getState().hear(2);
  there.getState().hear(2);
  await until(() => tempo(here) === 150);
  expect([levels(here), here.getState().save.kind]).toEqual([[100, 90], 'saved']);
  here.getState().run('Soften', softer);
  await kept(here);
  expect((await parts.load(id)).head).toBe(3);
  expect([levels(there)[0], there.getState().save.kind]).toEqual([80, 'failed']);
});
