import 'fake-indexeddb/auto';
import { setStep } from '@/core/groove/edit';
import { houseId, HOUSE_GROOVES } from '@/core/groove/house-grooves';
import { addVelocity } from '@/core/commands/hits';
import { diffParts } from '@/core/part/diff';
import type { Part } from '@/core/model/part';
import { changeMove, removeMove } from '@/core/commands/moves';
import { putGroove } from '@/core/commands/grooves';
import { NamedError } from '@/core/errors';
import type { GrooveMove } from '@/core/model/feel';
import { NodSwayDatabase } from '@/storage/database';
import { GrooveStore, type KeptGroove } from '@/storage/groove-store';
import { PartStore } from '@/storage/part-store';
import { unsavedParts } from '@/editing/unsaved';
import { smallPart } from '@tests/support/arbitraries';
import { createGroovesStore, freeName, shownGroove } from './grooves-store';
import { handGroove, heardParts } from './heard';

const hold = HOUSE_GROOVES[0]!;
const part = smallPart([
  ['hat-closed', 0, 100],
  ['hat-closed', 0.25, 100],
  ['snare', 1, 100],
]);

async function place(name: string) {
  const db = new NodSwayDatabase(name);
  const [parts, grooves] = [new PartStore(db), new GrooveStore(db)];
  const store = createGroovesStore(parts, grooves);
  store.getState().setOwn([]);
  const id = await parts.create(part);
  store.getState().setStand({ id, ...(await parts.load(id)) });
  return { store, parts, grooves, id, state: store.getState };
}

/** The store is written behind the screen, one thing after the other. */
async function settled<T>(read: () => Promise<T>, wanted: (value: T) => boolean): Promise<T> {
  for (let i = 0; ; i++) {
    await new Promise((done) => setImmediate(done));
    const value = await read();
    if (wanted(value) || i > 500) return value;
  }
}

test('changing built-in makes a copy; each change is one step, kept in the store, and undone there too', async () => {
  const { state, grooves } = await place('edits');
  state().edit('Lean of 2', (g) => setStep(g, null, 4, { offset: 0.2 }));
  const drag = state().openGroove('Level of 2');
  drag.preview((g) => setStep(g, null, 4, { level: 0.5 }));
  drag.preview((g) => setStep(g, null, 4, { level: 0.6 }));
  expect(shownGroove(state()).steps[4]).toMatchObject({ offset: 0.2, level: 0.6 });
  drag.commit();
  expect(state().history.undo.map((e) => e.label)).toEqual(['Lean of 2', 'Level of 2']);
  expect(
    (
      await settled(
        () => grooves.list(),
        (l) => l[0]?.groove.steps[4]?.level === 0.6,
      )
    ).map((k) => [k.groove.name, k.groove.steps[4]]),
  ).toEqual([['Lower Hold 2', { offset: 0.2, level: 0.6, n: 1 }]]);
  state().undo();
  expect(shownGroove(state()).steps[4]!.level).toBe(hold.steps[4]!.level);
  state().undo();
  expect([state().own, state().chosen]).toEqual([[], houseId('Lower Hold')]);
  expect(
    await settled(
      () => grooves.list(),
      (l) => l.length === 0,
    ),
  ).toEqual([]);
  state().redo();
  expect(freeName(state(), 'Lower Hold')).toBe('Lower Hold 3');
});

test('a cancelled gesture and one that changes nothing leave no step', async () => {
  const { state } = await place('cancelled');
  const drag = state().openGroove('Lean');
  drag.preview((g) => setStep(g, null, 0, { offset: 0.4 }));
  expect(shownGroove(state()).steps[0]!.offset).toBe(0.4);
  expect([state().own, state().chosen]).toEqual([[], houseId('Lower Hold')]);
  drag.cancel();
  expect(shownGroove(state())).toBe(hold);
  state().edit('Same', (g) => ({ ...g }));
  expect([state().own, state().history.undo]).toEqual([[], []]);
});

test('used on the part: written as its next edit; a sweep of its amounts is one step; undone as an edit more', async () => {
  const { state, parts, id } = await place('used');
  state().run('Play the hats like Hold', (p) => putGroove(p, hold, { voices: ['hat-closed'], lean: 0.6, level: 1 }).part);
  const sweep = state().openPart('Change the lean');
  for (const lean of [0.7, 0.8, 0.9]) sweep.preview((p) => changeMove<GrooveMove>(p, 0, { lean }));
  sweep.commit();
  expect(state().history.undo.map((e) => e.label)).toEqual(['Play the hats like Hold', 'Change the lean']);
  const stored = await settled(
    () => parts.load(id),
    (s) => s.head === 2,
  );
  expect([stored.head, stored.part]).toEqual([2, state().stand!.part]);
  state().undo();
  state().undo();
  expect(state().stand!.part).toEqual(part);
  expect(
    (
      await settled(
        () => parts.load(id),
        (s) => s.head === 4,
      )
    ).part,
  ).toEqual(part);
});

test('what is heard: the groove tried on ticked rows, the blend, or the part as it is', async () => {
  const { state } = await place('heard');
  state().set({ ticked: new Set(['hat-closed']), lean: 0.5 });
  expect(heardParts(state()).grooved.feel.moves).toEqual([
    { kind: 'groove', groove: hold, lean: 0.5, level: 1, scope: { voices: ['hat-closed'] } },
  ]);
  expect(heardParts(state()).plain).toBe(state().stand!.part);
  state().set({ blend: { with: houseId('Ballast'), share: 1 } });
  expect(handGroove(state()).steps).toEqual(HOUSE_GROOVES[1]!.steps);
  state().set({ trying: false });
  expect(heardParts(state()).grooved).toBe(state().stand!.part);
  state().setStand(null);
  expect(heardParts(state()).plain.hits.length).toBeGreaterThan(20);
});

test('the store’s word counts only once everything is written', async () => {
  const { state, grooves } = await place('late word');
  state().keep('Keep', { ...hold, name: 'Bowsprit' });
  state().setOwn([]);
  expect(state().own!.map((k) => k.groove.name)).toEqual(['Bowsprit']);
  await settled(
    () => grooves.list(),
    (l) => l.length === 1,
  );
  expect(
    await settled(
      () => Promise.resolve(state().save.kind),
      (k) => k === 'saved',
    ),
  ).toBe('saved');
});

test('a store that refuses is told, and nothing is lost: tried again, all is written in order', async () => {
  const { parts, grooves, id } = await place('refusing');
  let refuse = true;
  const picky = {
    parts: {
      load: (x: string) => parts.load(x),
      appendEdits: (...given: Parameters<PartStore['appendEdits']>) =>
        refuse ? Promise.reject(new NamedError('store-full')) : parts.appendEdits(...given),
      settleHead: (...given: Parameters<PartStore['settleHead']>) => parts.settleHead(...given),
      dropEdits: (...given: Parameters<PartStore['dropEdits']>) => parts.dropEdits(...given),
    } as unknown as PartStore,
    grooves: {
      put: (kept: KeptGroove) => (refuse ? Promise.reject(new NamedError('store-full')) : grooves.put(kept)),
    } as unknown as GrooveStore,
  };
  const { getState: state } = createGroovesStore(picky.parts, picky.grooves);
  const saving = (kind: string) =>
    settled(
      () => Promise.resolve(state().save.kind),
      (k) => k === kind,
    );
  state().setOwn([]);
  state().setStand({ id, ...(await parts.load(id)) });
  state().run('Put Hold', (p) => putGroove(p, hold, { lean: 1, level: 1 }).part);
  expect(await saving('failed')).toBe('failed');
  expect([...unsavedParts.getState().keys()]).toEqual([id]);
  expect(unsavedParts.getState().get(id)!.part!()).toBe(state().stand!.part);
  state().run('Take it off', (p) => removeMove(p, 0));
  state().undo();
  state().keep('Keep', { ...hold, name: 'Bowsprit' });
  await new Promise((done) => setImmediate(done));
  refuse = false;
  state().retrySave();
  expect(await saving('saved')).toBe('saved');
  expect(await parts.load(id)).toEqual({ part: state().stand!.part, head: 3 });
  expect((await grooves.list()).map((k) => k.groove.name)).toEqual(['Bowsprit']);
  expect(unsavedParts.getState().size).toBe(0);
});

/** Another tab softens the hits of the part. */
async function softenElsewhere(parts: PartStore, id: string, head: number): Promise<Part> {
  const before = (await parts.load(id)).part;
  const after = addVelocity(before, new Set(before.hits.map((h) => h.id)), -10);
  await parts.appendEdits(id, head, [{ label: 'Soften', diff: diffParts(before, after)!, after, step: 'do' }]);
  await parts.settleHead(id, head, head, after);
  return after;
}

test('what another tab does to the part on the stand is followed, and its step can be undone here', async () => {
  const { state, parts, id } = await place('elsewhere');
  const theirs = await softenElsewhere(parts, id, 1);
  state().hear(1);
  expect(
    await settled(
      () => Promise.resolve(state().stand!.part),
      (p) => p.hits[0]!.velocity === 90,
    ),
  ).toEqual(theirs);
  state().run('Put Hold', (p) => putGroove(p, hold, { lean: 1, level: 1 }).part);
  expect(
    (
      await settled(
        () => parts.load(id),
        (p) => p.head === 2,
      )
    ).part.feel.moves,
  ).toHaveLength(1);
  state().undo();
  state().undo();
  expect(state().stand!.part).toEqual(part);
});

test('when both changed the part nothing is overwritten, and the user can continue with either', async () => {
  const { state, parts, id } = await place('both');
  const edit = state().openPart('Put Hold');
  edit.preview((p) => putGroove(p, hold, { lean: 1, level: 1 }).part);
  await softenElsewhere(parts, id, 1);
  state().hear(1);
  edit.commit();
  expect(
    await settled(
      () => Promise.resolve(state().save),
      (s) => s.kind === 'failed',
    ),
  ).toMatchObject({ error: { code: 'changed-elsewhere' } });
  expect((await parts.load(id)).head).toBe(1);
  expect(state().bothOf()).toMatchObject({ steps: ['Put Hold'], common: 0 });
  await state().takeOf('mine');
  const now = await settled(
    () => parts.load(id),
    (p) => p.head === 2,
  );
  expect([now.part.feel.moves.length, now.part.hits[0]!.velocity]).toEqual([1, 100]);
  state().undo();
  expect([state().stand!.part.feel.moves.length, state().stand!.part.hits[0]!.velocity]).toEqual([0, 90]);
});
