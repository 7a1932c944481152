import 'fake-indexeddb/auto';
import { createHash } from 'node:crypto';
import { drum, wavFile } from '@tests/support/sound-files';
import { smallPart } from '@tests/support/arbitraries';
import { HOUSE_GROOVES } from '@/core/groove/house-grooves';
import { isNamedError } from '@/core/errors';
import type { OwnSound } from '@/core/model/own-sound';
import { USUAL_GUARDS, type Take } from '@/core/model/take';
import { patternOf } from '@/core/commands/patterns';
import { putTake } from '@/core/take/use-take';
import { milliseconds, seconds, ticks, TICKS_PER_QUARTER } from '@/core/units';
import { STRAIGHT_CURVE } from '@/core/velocity-curve';
import { LibraryWriter, isLibrary } from '@/formats/library-zip';
import type { LibraryEntry } from '@/formats/library-file';
import { NodSwayDatabase } from '@/storage/database';
import { DeletedStore } from '@/storage/deleted-store';
import { FeelStore } from '@/storage/feel-store';
import { GrooveStore } from '@/storage/groove-store';
import { KitStore } from '@/storage/kit-store';
import { PatternStore } from '@/storage/pattern-store';
import { RecordingStore } from '@/storage/recording-store';
import { ShelfStore } from '@/storage/shelf-store';
import { SoundStore } from '@/storage/sound-store';
import { TABLES } from '@/storage/tables';
import { OutputMapStore } from '@/storage/output-map-store';
import { WholeParts } from '@/storage/whole-part';
import { READY_TARGETS } from '@/core/output-map/ready';
import { zipSync } from 'fflate';
import { makeBackup } from './backup';
import type { Here, How } from './kinds/kind';
import { lookAtLibrary, restoreLibrary } from './restore';

let n = 0;
const browser = (remembered: Record<string, string> = {}): Here => {
  const kept = { ...remembered };
  return { db: new NodSwayDatabase(`keep-${n++}`), remembered: kept, remember: (values) => Object.assign(kept, values) };
};

const sampleOf = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');
const hit = wavFile(4000, drum(200));
const loop = wavFile(9000, drum(120));
const take: Take = {
  id: 'take-1',
  name: 'Take 1',
  recordedAt: 1_700_000_000_000,
  input: 'Pads',
  tempo: [{ tick: ticks(0), microsecondsPerQuarter: 500_000 }],
  meter: [{ tick: ticks(0), numerator: 4, denominator: 4 }],
  origin: ticks(0),
  start: ticks(0),
  end: ticks(4 * TICKS_PER_QUARTER),
  latencyMs: milliseconds(0),
  curve: STRAIGHT_CURVE,
  guards: USUAL_GUARDS,
  passes: 1,
  complete: true,
};
const events = [{ at: seconds(0.5), kind: 'note' as const, key: 38, value: 90 }];
const plain = smallPart(
  [
    ['kick', 0, 100],
    ['snare', 1, 90],
  ],
  { bars: 1 },
);

/** A browser with one of everything. @returns the parts' ids */
async function filled(here: Here): Promise<string[]> {
  const { db } = here;
  const whole = new WholeParts(db);
  const sound: OwnSound = {
    id: 'tin',
    name: 'Tin',
    voice: 'snare',
    kit: 'shed',
    layers: [{ upTo: 127, takes: [{ sample: sampleOf(hit), name: 'tin.wav', level: -20 }] }],
  };
  await new SoundStore(db).keep({
    kit: { id: 'shed', name: 'Tin shed' },
    sounds: [sound, { ...sound, id: 'loose', name: 'Loose tin', kit: undefined }],
    samples: new Map([[sampleOf(hit), hit as Uint8Array<ArrayBuffer>]]),
  });
  await new RecordingStore(db).keep({
    id: sampleOf(loop),
    blob: new Blob([loop as Uint8Array<ArrayBuffer>]),
    name: 'Loop',
    seconds: 0.2,
    at: 5,
  });
  const a = await whole.create(
    {
      part: { ...putTake(plain, take, events), name: 'Bilge Pump', ownKit: { id: 'shed', name: 'Tin shed' } },
      song: undefined,
      versions: [
        { name: 'Later', at: 9, part: plain },
        { name: 'First', at: 9, part: plain },
      ],
      takes: [{ take, events }],
      ideas: [{ letter: 'B', bars: 1, part: plain }],
    },
    { id: 'part-a' },
  );
  const b = await whole.create({ part: { ...plain, name: 'Rope Walk' } });
  await new ShelfStore(db).tag([b], { add: ['verse'] });
  await new GrooveStore(db).put({ id: 'g', groove: { ...HOUSE_GROOVES[0]!, name: 'Mine' }, tags: ['late'], createdAt: 1, updatedAt: 2 });
  await new FeelStore(db).save({ name: 'Loose', feel: plain.feel });
  await new KitStore(db).save({ name: 'Pads', voices: { 36: 'kick' } });
  await new PatternStore(db).save({ name: 'Two', pattern: patternOf(plain, new Set(plain.hits.map((h) => h.id)), 'Two')! });
  await new OutputMapStore(db).save({ ...READY_TARGETS[0]!, name: 'Cellar' });
  await db.inputs.put({ id: 'Pads', latencyMs: 12, curve: STRAIGHT_CURVE, guards: USUAL_GUARDS });
  return [a, b];
}

const allNew = async (here: Here, file: Blob): Promise<Map<number, How>> =>
  new Map((await lookAtLibrary(here, file)).things.flatMap((t, i) => (t.standing === 'new' ? [[i, 'add'] as const] : [])));
const bytesOf = async (blob: Blob): Promise<Buffer> => Buffer.from(await blob.arrayBuffer());
const codeOf = async (work: () => Promise<unknown>): Promise<string> => {
  try {
    await work();
    return 'none';
  } catch (e) {
    return isNamedError(e) ? `${e.code}: ${e.message}` : String(e);
  }
};

test('a backup that is restored in a fresh browser, and backed up there again, is the same byte by byte', async () => {
  const here = browser({ 'nod-sway:hands': '{"lead":"left"}' });
  await filled(here);
  const first = await makeBackup(here, null, undefined, 1000);
  expect([first.counts, first.left]).toEqual([
    { sound: 2, break: 1, groove: 1, feel: 1, 'key map': 1, pattern: 1, target: 1, part: 2, setting: 1 },
    [],
  ]);
  expect(await isLibrary(first.blob)).toBe(true);
  const there = browser();
  const wishes = await allNew(there, first.blob);
  expect(wishes.size).toBe(11);
  expect(await restoreLibrary(there, first.blob, wishes)).toEqual({ taken: 11, failed: [] });
  expect(there.remembered).toEqual({ 'nod-sway:hands': '{"lead":"left"}' });
  const again = await makeBackup(there, null, undefined, 1000);
  expect(Buffer.compare(await bytesOf(first.blob), await bytesOf(again.blob))).toBe(0);
  // All that was carried is in its table there.
  for (const spec of TABLES.filter((t) => t.carried !== null && t.name !== 'edits' && t.name !== 'songs'))
    expect([spec.name, await there.db.table(spec.name).count()]).toEqual([spec.name, await here.db.table(spec.name).count()]);
  expect((await lookAtLibrary(there, first.blob)).things.every((t) => t.standing === 'same')).toBe(true);
});

test('over existing work it says what is new, the same and different, and overwrites nothing unasked', async () => {
  const here = browser();
  const [a] = await filled(here);
  const file = (await makeBackup(here, null)).blob;
  await new ShelfStore(here.db).rename(a!, 'Bilge Pump, mine');
  await new FeelStore(here.db).save({ name: 'Loose', feel: { ...plain.feel, seed: 77 } });
  await new GrooveStore(here.db).remove('g');
  await here.db.inputs.update('Pads', { latencyMs: 30 });
  const { things } = await lookAtLibrary(here, file);
  expect(things.filter((t) => t.standing !== 'same').map((t) => [t.kind, t.name, t.standing])).toEqual([
    ['groove', 'Mine', 'new'],
    ['feel', 'Loose', 'different'],
    ['part', 'Bilge Pump', 'different'],
    ['setting', 'Settings', 'different'],
  ]);
  expect(things.find((t) => t.name === 'Bilge Pump')?.differs).toBe('Called Bilge Pump instead of Bilge Pump, mine');
  await restoreLibrary(here, file, await allNew(here, file));
  const whole = new WholeParts(here.db);
  expect([
    (await whole.parts.load(a!)).part.name,
    (await new FeelStore(here.db).list()).map((f) => f.feel.seed),
    (await here.db.inputs.get('Pads'))?.latencyMs,
    await here.db.grooves.count(),
  ]).toEqual(['Bilge Pump, mine', [77], 30, 1]);

  const wish = (how: How) => new Map(things.flatMap((t, i) => (t.standing === 'different' ? [[i, how] as const] : [])));
  await restoreLibrary(here, file, wish('beside'));
  expect((await whole.parts.list()).map((r) => r.name).sort()).toEqual(['Bilge Pump (backup)', 'Bilge Pump, mine', 'Rope Walk']);
  expect((await new FeelStore(here.db).list()).map((f) => [f.name, f.feel.seed])).toEqual([
    ['Loose', 77],
    ['Loose (backup)', plain.feel.seed],
  ]);
  // The copy beside has takes of its own.
  expect(await here.db.takes.count()).toBe(2);
  await restoreLibrary(here, file, wish('replace'));
  expect([(await whole.parts.load(a!)).part.name, (await here.db.inputs.get('Pads'))?.latencyMs]).toEqual(['Bilge Pump', 12]);
  expect((await new DeletedStore(here.db).list()).map((d) => d.row.name)).toEqual(['Bilge Pump, mine']);
});

test('some parts go with the kits that play them, and with nothing else', async () => {
  const here = browser();
  const [a, b] = await filled(here);
  expect((await makeBackup(here, [a!])).counts).toEqual({ sound: 1, part: 1 });
  expect((await makeBackup(here, [b!])).counts).toEqual({ part: 1 });
});

test('what no longer reads here is named and left out; what does not read there is broken', async () => {
  const here = browser();
  const [a] = await filled(here);
  await here.db.bodies.put({ id: a!, seq: 0, part: { ...plain, bars: -1 } });
  const { blob, left } = await makeBackup(here, null);
  expect(left.map((l) => l.name)).toEqual(['Bilge Pump']);
  const zip = new LibraryWriter();
  await zip.add('parts/x.nodsway.json', '{"format":"nod-sway/part@99"}');
  const entry: LibraryEntry = { kind: 'part', key: 'x', name: 'From tomorrow', file: 'parts/x.nodsway.json' };
  const odd = await zip.close({ format: 'nod-sway/library@1', madeAt: 1, entries: [entry] });
  const there = browser();
  expect((await lookAtLibrary(there, odd)).things).toMatchObject([{ name: 'From tomorrow', standing: 'broken' }]);
  expect(await restoreLibrary(there, odd, new Map([[0, 'add']]))).toMatchObject({ taken: 0, failed: [{ name: 'From tomorrow' }] });
  expect(await restoreLibrary(there, blob, await allNew(there, blob))).toMatchObject({ failed: [] });
});

test('hostile files: climbing paths, bombs, wrong versions, half files, recordings that are not what they say', async () => {
  const here = browser();
  await filled(here);
  const whole = (await makeBackup(here, null)).blob;
  const list = (change: object) =>
    new TextEncoder().encode(JSON.stringify({ format: 'nod-sway/library@1', madeAt: 1, entries: [], ...change }));
  const zipped = (files: Record<string, Uint8Array>) => new Blob([zipSync(files) as Uint8Array<ArrayBuffer>]);
  const look = (file: Blob) => codeOf(() => lookAtLibrary(here, file));
  expect(await look(zipped({ 'library.json': list({}), '../up.json': new Uint8Array(3) }))).toMatch(/^bad-library: .*points outside/);
  expect(await look(zipped({ 'library.json': list({}), '/etc/up.json': new Uint8Array(3) }))).toMatch(/^bad-library: .*absolute/);
  expect(await look(zipped({ 'library.json': list({}), 'Library.json': list({}) }))).toMatch(/^bad-library: .*twice/);
  expect(await look(zipped({ 'library.json': list({ format: 'nod-sway/library@2' }) }))).toMatch(/^newer-format/);
  expect(await look(zipped({ 'library.json': list({ format: 'nod-sway/part@3' }) }))).toMatch(/^bad-library/);
  expect(await look(zipped({ 'library.json': new TextEncoder().encode('[') }))).toMatch(/^bad-library/);
  expect(await look(zipped({ 'other.json': list({}) }))).toMatch(/^bad-library: .*list/);
  expect(await look(zipped({ 'library.json': list({ entries: [{ kind: 'part', key: 'a', name: 'A', file: 'parts/a.json' }] }) }))).toMatch(
    /^bad-library: .*parts\/a\.json/,
  );
  expect(await look(whole.slice(0, whole.size - 40))).toMatch(/^bad-library/);
  expect(await look(whole.slice(0, 300))).toMatch(/^bad-library/);
  expect(await look(new Blob([]))).toMatch(/^bad-library/);
  // A zip that says its list is small, and unpacks to far more.
  const bomb = zipSync({ 'library.json': new Uint8Array(3_000_000) });
  const view = new DataView(bomb.buffer);
  for (let at = 0; at < bomb.length - 4; at++) if (view.getUint32(at, true) === 3_000_000) view.setUint32(at, 100, true);
  expect(await look(new Blob([bomb as Uint8Array<ArrayBuffer>]))).toMatch(/^bad-library/);
  // One that says that it is larger than there is room for.
  const huge = zipSync({ 'library.json': list({}), 'audio/x.wav': new Uint8Array(7) });
  const big = new DataView(huge.buffer);
  for (let at = huge.length - 200; at < huge.length - 4; at++) if (big.getUint32(at, true) === 7) big.setUint32(at, 0xfffffffe, true);
  expect(await look(new Blob([huge as Uint8Array<ArrayBuffer>]))).toMatch(/^(library-too-large|bad-library)/);
  // A recording that was exchanged.
  const zip = new LibraryWriter();
  await zip.add(`breaks/a.wav`, new Blob([hit as Uint8Array<ArrayBuffer>]));
  const exchanged = await zip.close({
    format: 'nod-sway/library@1',
    madeAt: 1,
    entries: [{ kind: 'break', key: 'f'.repeat(64), name: 'Loop', file: 'breaks/a.wav' }],
  });
  expect(await restoreLibrary(browser(), exchanged, new Map([[0, 'add']]))).toMatchObject({
    taken: 0,
    failed: [{ name: 'Loop', why: expect.stringContaining('not what its name says') as string }],
  });
});

test('any byte that is changed ends in a result or a named error', async () => {
  const here = browser();
  await filled(here);
  const bytes = await bytesOf((await makeBackup(here, null)).blob);
  const there = browser();
  for (let i = 0; i < 60; i++) {
    const damaged = Buffer.from(bytes);
    const at = Math.floor((i * 7919 * 31) % damaged.length);
    damaged[at] = (damaged[at]! + 1 + (i % 200)) % 256;
    expect(await codeOf(() => lookAtLibrary(there, new Blob([damaged])))).toMatch(/^(none|bad-library|newer-format|library-too-large)/);
  }
});

test('the edits of a part that is replaced go on counting: a tab that had it open is behind, not ahead', async () => {
  const here = browser();
  const [a] = await filled(here);
  const { blob: file } = await makeBackup(here, null);
  const { parts } = new WholeParts(here.db);
  for (let seq = 1; seq <= 5; seq++) {
    const after = { ...plain, name: `Bilge Pump ${seq}` };
    await parts.appendEdits(a!, seq, [
      { label: 'Rename', diff: { removed: [], added: [], fields: { name: after.name } } as never, after, step: 'do' },
    ]);
    await parts.settleHead(a!, seq, seq, after);
  }
  const { things } = await lookAtLibrary(here, file);
  const wishes = new Map(things.flatMap((t, i) => (t.standing === 'different' ? [[i, 'replace'] as const] : [])));
  await restoreLibrary(here, file, wishes);
  const { part, head } = await parts.load(a!);
  expect([part.name, head]).toEqual(['Bilge Pump', 6]);
  // An edit by a tab that knew of five is refused, the next of one that knows of the replaced part is not.
  const edit = { label: 'Late', diff: { removed: [], added: [], fields: {} }, after: part, step: 'do' as const };
  await expect(parts.appendEdits(a!, 6, [edit]).then(() => parts.settleHead(a!, 6, 6, part))).rejects.toMatchObject({
    code: 'changed-elsewhere',
  });
  await parts.appendEdits(a!, 7, [edit]);
  await parts.settleHead(a!, 7, 7, part);
  expect((await parts.load(a!)).head).toBe(7);
});
