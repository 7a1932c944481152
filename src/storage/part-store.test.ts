import 'fake-indexeddb/auto';
import { readFileSync } from 'node:fs';
import { addVelocity, removeHits } from '@/core/commands/hits';
import { setTempo } from '@/core/commands/settings';
import { applyDiff, diffParts, invertDiff } from '@/core/part/diff';
import { PART_FORMAT, type Part } from '@/core/model/part';
import { exportPart } from '@/core/smf/export-part';
import { bpm } from '@/core/units';
import { demoCues } from '@/demo/cues';
import type { FinishedEdit } from '@/editing/saver';
import { smallPart } from '@tests/support/arbitraries';
import { NodSwayDatabase, type EditRow } from './database';
import { addMissingDemos, seedOnFirstVisit } from './demo-seed';
import { versionStore } from './version-store';
import { PartStore } from './part-store';
import { summarize, type PartSummary } from './summary';

let number = 0;
const fresh = (): { db: NodSwayDatabase; store: PartStore } => {
  const db = new NodSwayDatabase(`test-${number++}`);
  return { db, store: new PartStore(db) };
};

const part = smallPart([
  ['kick', 0, 100],
  ['snare', 1, 90],
  ['kick', 2, 80],
]);
const all = new Set(part.hits.map((h) => h.id));

/** Writes edits and brings the row up to them, as the saver does. */
async function saveEdits(store: PartStore, id: string, seq: number, edits: readonly FinishedEdit[]): Promise<void> {
  await store.appendEdits(id, seq, edits);
  await store.settleHead(id, seq, seq + edits.length - 1, edits.at(-1)!.after);
}

/** Saves each step as an edit; gives the last part. */
async function edit(store: PartStore, id: string, from: Part, steps: ((p: Part) => Part)[], head = 0): Promise<Part> {
  let now = from;
  for (const [i, step] of steps.entries()) {
    const next = step(now);
    await saveEdits(store, id, head + i + 1, [{ label: 'step', diff: diffParts(now, next)!, after: next, step: 'do' }]);
    now = next;
  }
  return now;
}

test('edits are read back on top of the part they were made on', async () => {
  const { store } = fresh();
  const id = await store.create(part, { song: Uint8Array.of(1, 2, 3) });
  const last = await edit(store, id, part, [
    (p) => addVelocity(p, all, -5),
    (p) => setTempo(p, bpm(90)),
    (p) => removeHits(p, new Set([part.hits[1]!.id])),
  ]);
  const loaded = await store.load(id);
  expect(loaded).toEqual({ part: last, head: 3 });
  expect(await store.song(id)).toEqual(Uint8Array.of(1, 2, 3));
  expect((await store.list()).map((r) => [r.name, r.summary.hits, r.summary.tempo])).toEqual([['small', 2, 90]]);
});

test('an edit that does not follow the last one is refused, and nothing of it is kept', async () => {
  const { store } = fresh();
  const id = await store.create(part);
  const mine = await edit(store, id, part, [(p) => addVelocity(p, all, -5)]);
  await expect(edit(store, id, part, [(p) => addVelocity(p, all, 7)])).rejects.toMatchObject({ code: 'changed-elsewhere' });
  expect((await store.load(id)).part).toEqual(mine);
});

test('edits that are ahead of the row, as a killed tab leaves them, are there; what lies behind a gap is not', async () => {
  const { store } = fresh();
  const id = await store.create(part);
  const done = (from: Part, to: Part) => ({ label: 'step', diff: diffParts(from, to)!, after: to, step: 'do' as const });
  const [a, b] = [addVelocity(part, all, -5), addVelocity(part, all, -9)];
  await store.appendEdits(id, 1, [done(part, a), done(a, b)]);
  await store.appendEdits(id, 4, [done(part, addVelocity(part, all, -20))]);
  expect(await store.load(id)).toEqual({ part: b, head: 2 });
  const c = setTempo(b, bpm(77));
  await saveEdits(store, id, 3, [done(b, c)]);
  expect(await store.load(id)).toEqual({ part: c, head: 3 });
});

test('a row that comes late: another tab has gone on from the edits, and nothing of either is lost', async () => {
  const { store } = fresh();
  const id = await store.create(part);
  const done = (from: Part, to: Part): FinishedEdit => ({ label: 'step', diff: diffParts(from, to)!, after: to, step: 'do' });
  const [a, b] = [addVelocity(part, all, -5), addVelocity(part, all, -9)];
  await store.appendEdits(id, 1, [done(part, a)]);
  // The other tab reads it before the row says so.
  expect((await store.load(id)).head).toBe(1);
  await saveEdits(store, id, 2, [done(a, b)]);
  await store.settleHead(id, 1, 1, a);
  expect(await store.load(id)).toEqual({ part: b, head: 2 });
  await expect(store.appendEdits(id, 2, [done(a, b)])).rejects.toMatchObject({ code: 'changed-elsewhere' });
});

test('a part that was taken away meanwhile: told, and no edit is left behind', async () => {
  const { store, db } = fresh();
  const id = await store.create(part);
  await store.remove(id);
  const next = addVelocity(part, all, -5);
  await expect(saveEdits(store, id, 1, [{ label: 'step', diff: diffParts(part, next)!, after: next, step: 'do' }])).rejects.toMatchObject({
    code: 'deleted-elsewhere',
  });
  expect(await db.edits.count()).toBe(0);
});

test('many edits are folded into one body, and later edits still follow', async () => {
  const { store, db } = fresh();
  const id = await store.create(part);
  const last = await edit(
    store,
    id,
    part,
    Array.from({ length: 70 }, (_, i) => (p: Part) => setTempo(p, bpm(60 + i))),
  );
  expect((await store.load(id)).part).toEqual(last);
  // Folding goes on after the part was handed over; the test's own time limit ends a wait in vain.
  while ((await db.bodies.get(id))?.seq !== 70) await new Promise((done) => setImmediate(done));
  const more = await edit(store, id, last, [(p) => addVelocity(p, all, 3)], 70);
  expect(await store.load(id)).toEqual({ part: more, head: 71 });
  // What was folded in is still there for going back.
  expect((await store.recentEdits(id, 71)).map((e) => e.seq)).toEqual(Array.from({ length: 71 }, (_, i) => i + 1));
});

test('for going back the last 200 edits are kept, up to the one that was loaded', async () => {
  const { store, db } = fresh();
  const id = await store.create(part);
  const last = await edit(
    store,
    id,
    part,
    Array.from({ length: 230 }, (_, i) => (p: Part) => setTempo(p, bpm(60 + (i % 50)))),
  );
  const seqs = async (head: number) => (await store.recentEdits(id, head)).map((e) => e.seq);
  expect(await seqs(230)).toEqual(Array.from({ length: 200 }, (_, i) => i + 31));
  expect((await store.load(id)).part).toEqual(last);
  while ((await db.edits.count()) !== 200) await new Promise((done) => setImmediate(done));
  expect((await store.load(id)).part).toEqual(last);
});

test('what can be undone ends at the edit that was loaded, whatever was written since, and begins after a gap', async () => {
  const { store, db } = fresh();
  const id = await store.create(part);
  await edit(
    store,
    id,
    part,
    Array.from({ length: 5 }, (_, i) => (p: Part) => setTempo(p, bpm(60 + i))),
  );
  const seqs = async (head: number) => (await store.recentEdits(id, head)).map((e) => e.seq);
  expect(await seqs(3)).toEqual([1, 2, 3]);
  await db.edits.delete([id, 2]);
  expect(await seqs(5)).toEqual([3, 4, 5]);
  await db.edits.delete([id, 5]);
  expect(await seqs(5)).toEqual([]);
});

test('a part taken off the shelf can be put back with its edits', async () => {
  const { store } = fresh();
  const id = await store.create(part);
  const last = await edit(store, id, part, [(p) => addVelocity(p, all, -5)]);
  const putBack = await store.remove(id);
  await expect(store.load(id)).rejects.toMatchObject({ code: 'not-found' });
  await putBack();
  expect((await store.load(id)).part).toEqual(last);
});

test('ideas of a part have edits of their own, are not on the shelf, and go and come back with it', async () => {
  const { store, db } = fresh();
  const id = await store.create(part);
  const other = await store.create(part);
  await store.createIdea(part, { partId: other, letter: 'A', bars: 1 });
  const b = await store.createIdea(part, { partId: id, letter: 'B', bars: 2 });
  const a = await store.createIdea(part, { partId: id, letter: 'A', bars: 1 });
  const changed = await edit(store, b, part, [(p) => addVelocity(p, all, -5)]);
  expect(await store.ideas(id)).toEqual([
    { id: a, partId: id, letter: 'A', bars: 1, part, head: 0 },
    { id: b, partId: id, letter: 'B', bars: 2, part: changed, head: 1 },
  ]);
  expect((await store.list()).map((row) => row.id).sort()).toEqual([id, other].sort());
  const putBack = await store.remove(id);
  expect([await store.ideas(id), await db.edits.count(), await db.bodies.count()]).toEqual([[], 0, 2]);
  expect(await store.ideas(other)).toHaveLength(1);
  await putBack();
  expect((await store.ideas(id)).map((i) => i.part)).toEqual([part, changed]);
  const again = await store.remove(b);
  expect((await store.ideas(id)).map((i) => i.letter)).toEqual(['A']);
  await again();
  expect((await store.ideas(id)).map((i) => i.letter)).toEqual(['A', 'B']);
});

test('a body that was damaged in the store is a named error', async () => {
  const { store, db } = fresh();
  const id = await store.create(part);
  await db.bodies.put({ id, seq: 0, part: { ...part, bars: -1 } });
  await expect(store.load(id)).rejects.toMatchObject({ code: 'bad-part' });
});

const cues = () => Promise.resolve(demoCues());

test('a first visit in two tabs at once, or one cut short, ends with the six demo parts', async () => {
  const { store } = fresh();
  await Promise.all([seedOnFirstVisit(store, versionStore, cues), seedOnFirstVisit(store, versionStore, cues)]);
  expect(await store.list()).toHaveLength(6);
  await store.remove('demo-low-tide');
  await seedOnFirstVisit(store, versionStore, cues);
  expect(await store.list()).toHaveLength(5);
});

test('the pictures that come along with the demo parts are those of their hits', () => {
  const kept = JSON.parse(readFileSync('public/demo/parts.json', 'utf8')) as { part: Part; summary: PartSummary }[];
  for (const { part: demo, summary } of kept) expect(summary).toEqual(JSON.parse(JSON.stringify(summarize(demo))));
});

test('demo parts are added once, as what they claim to be', async () => {
  const { store } = fresh();
  expect(await addMissingDemos(store, versionStore, cues)).toBe(6);
  expect(await addMissingDemos(store, versionStore, cues)).toBe(0);
  const all = demoCues();
  const flat = all.find((c) => c.id === 'demo-gangway-strut')!;
  expect(new Set(flat.part.hits.map((h) => h.velocity))).toEqual(new Set([100]));
  expect(flat.part.hits.every((h) => h.tick % 20160 === 0)).toBe(true);
  expect(flat.song?.length).toBeGreaterThan(500);
  expect(all.map((c) => [c.part.name, c.part.meter[0]!.numerator, c.part.meter[0]!.denominator])).toEqual([
    ['Gangway Strut', 4, 4],
    ['Low Tide', 6, 8],
    ['Net Menders', 2, 4],
    ['Fog Signal', 7, 8],
    ['Galley Brushes', 3, 4],
    ['Harbour Lights', 4, 4],
  ]);
});

test('a part of part@2 opens with its edits, goes back past them, and is kept in the newest format from then on', async () => {
  const { body, seq, edits, midi } = JSON.parse(readFileSync('tests/fixtures/journal-2.json', 'utf8')) as {
    body: Part;
    seq: number;
    edits: Omit<EditRow, 'partId' | 'seq'>[];
    midi: string[];
  };
  const { db, store } = fresh();
  await db.parts.add({ id: 'old', name: 'old', createdAt: 1, updatedAt: 1, head: edits.length, summary: summarize(part) });
  await db.bodies.add({ id: 'old', seq, part: body });
  await db.edits.bulkAdd(edits.map((e, i) => ({ ...e, partId: 'old', seq: i + 1 })));
  const bytes = (p: Part): string => Buffer.from(exportPart(p).bytes).toString('base64');
  const expectAll = async () => {
    const loaded = await store.load('old');
    expect(bytes(loaded.part)).toBe(midi.at(-1));
    let now = loaded.part;
    for (const { seq: n, diff } of (await store.recentEdits('old', loaded.head)).reverse()) {
      now = applyDiff(now, invertDiff(diff));
      expect(bytes(now)).toBe(midi[n - 1]);
    }
    return loaded;
  };
  expect((await expectAll()).wasOlder).toBe(true);
  // It is written anew on the way.
  while (((await db.bodies.get('old'))?.part as Part).format !== PART_FORMAT) await new Promise((go) => setImmediate(go));
  expect((await db.edits.toArray()).map((e) => e.format)).toEqual(edits.map(() => PART_FORMAT));
  expect((await expectAll()).wasOlder).toBeUndefined();
});
