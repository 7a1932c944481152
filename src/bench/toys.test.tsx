/** One of each kind of thing, made here alone and handed in through the lists: each works like those that ship. */
import 'fake-indexeddb/auto';
import type { ReactNode } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { firstMove, number, type MoveSpec } from '@/core/feel/move-spec';
import { HOUSE_GROOVES } from '@/core/groove/house-grooves';
import { addMove } from '@/core/commands/moves';
import { EMPTY_FEEL, type Move, type MoveBase } from '@/core/model/feel';
import type { Ornament } from '@/core/model/ornament';
import { MOVES } from '@/core/moves/all';
import { ORNAMENTS } from '@/core/ornament/all';
import { strokeOf, within, type OrnamentSpec } from '@/core/ornament/ornament-spec';
import { strokesOfHit } from '@/core/ornament/strokes';
import { effectOfMove } from '@/core/perform/effect';
import { performPart } from '@/core/perform/perform';
import { feelSchemaOf, parseFeel } from '@/formats/feel-format';
import { NodSwayDatabase } from '@/storage/database';
import { PartStore } from '@/storage/part-store';
import { TABLES, type TableSpec } from '@/storage/tables';
import { smallPart } from '@tests/support/arbitraries';
import { SidePanel } from './chrome/SidePanel';
import { offeredOf, optionsOf } from './dialogs/export/all';
import type { ExporterSpec } from './dialogs/export/exporter';
import { keyOf, type Context, type KeySpec } from './keys/key-spec';
import { KeySheet } from './keys/KeysDialog';
import type { PageSpec } from './pages/all';
import { MOVE_FACES } from './pages/feel/moves/all';
import { viewOfMove, MoveNumber, Words, type MoveView } from './pages/feel/moves/move-view';
import { MovePicture } from './pages/feel/MovePicture';
import { createBenchStore, type BenchStore } from './store/bench-store';
import { BenchProvider } from './store/context';

jest.mock('@/ui/notify', () => ({ say: () => {}, showError: () => {} }));
// What the audio thread is given is nothing that these toys ask for.
jest.mock('@/sound/engine', () => ({ soundEngine: () => ({}) }));

const part = smallPart([
  ['kick', 0, 100],
  ['snare', 1, 90],
]);
const bench = (): BenchStore =>
  createBenchStore('x', { part, head: 0 }, false, { appendEdits: async () => {}, settleHead: async () => {} } as never);
// Markup is made of a store's first state unless it is told otherwise.
const shown = (store: BenchStore, node: ReactNode): string =>
  renderToStaticMarkup(<BenchProvider value={{ ...store, getInitialState: store.getState }}>{node}</BenchProvider>);

interface HushMove extends MoveBase {
  kind: 'hush';
  /** Velocity taken off. */
  by: number;
}

const hush: MoveSpec<HushMove & Move> = {
  kind: 'hush' as never,
  members: { by: number(0, 60) } as never,
  plain: { kind: 'hush', by: 0 } as never,
  first: () => ({ by: 20 }) as never,
  salt: 'hush',
  draws: false,
  apply(move, { range, loudness }, inScope) {
    for (let i = range.from; i < range.to; i++) if (inScope(i)) loudness[i] = (loudness[i] as number) - (move as unknown as HushMove).by;
  },
};
const moves = [...MOVES, hush] as unknown as readonly MoveSpec[];

test('a move: read from a file, added, performed, told, said and pictured', () => {
  const feel = parseFeel(
    { format: 'nod-sway/feel@3', moves: [{ kind: 'hush', by: 30, scope: { voices: ['snare'] } }, { kind: 'hush' }] },
    feelSchemaOf(moves),
  );
  expect(feel.moves).toEqual([
    { kind: 'hush', by: 30, scope: { voices: ['snare'] } },
    { kind: 'hush', by: 0 },
  ]);
  expect(() => parseFeel({ format: 'nod-sway/feel@3', moves: [{ kind: 'hush', by: 61 }] }, feelSchemaOf(moves))).toThrow(/by/);
  expect(() => parseFeel(feel)).toThrow();

  const added = addMove({ ...part, feel: EMPTY_FEEL }, firstMove(hush, part, { loopBars: 1, groove: HOUSE_GROOVES[0]! }));
  const performed = performPart(added, undefined, moves);
  expect([...performed.velocities]).toEqual([80, 70]);
  expect(effectOfMove(added, performed, 0, moves)).toMatchObject({ hits: 2, meanVelocity: 20 });

  const face: MoveView<HushMove> = {
    spec: hush,
    word: 'Hush',
    about: 'Takes loudness away.',
    also: ['quiet'],
    Sentence: ({ move, edit }) => (
      <Words>
        softer by <MoveNumber spec={hush} move={move} edit={edit} name="by" label="Hush" unit="steps" />
      </Words>
    ),
    picture: ({ by }) => [{ x: 10, lean: 0, height: 20 - by / 4 }],
    brief: ({ by }) => `${by} softer`,
  };
  const faces = [...MOVE_FACES, face as unknown as MoveView];
  const { Sentence } = viewOfMove(faces, 'hush');
  const edit = { sweep: () => {}, done: () => {}, cancel: () => {}, set: () => {} };
  expect(renderToStaticMarkup(<Sentence move={added.feel.moves[0] as Move} edit={edit} />)).toMatch(/softer by .*value="20"/);
  expect(renderToStaticMarkup(<MovePicture move={added.feel.moves[0] as Move} face={viewOfMove(faces, 'hush')} />)).toContain(
    '<circle cx="10"',
  );
});

test('an ornament: a stroke an eighth behind the hit', () => {
  const shadow: OrnamentSpec<{ kind: 'shadow'; level: number }> = {
    kind: 'shadow',
    members: { level: within([0.1, 1]) },
    ready: [{ word: 'shadow', ornament: { kind: 'shadow', level: 0.5 } }],
    word: () => 'shadow',
    count: () => 2,
    strokes: (_part, _index, { level }, main) => [main, strokeOf(main, main.tick + 40_320, main.velocity * level, Infinity)],
  };
  const specs = [...ORNAMENTS, shadow as unknown as OrnamentSpec];
  const carrying = {
    ...part,
    hits: part.hits.map((h, i) => (i === 0 ? { ...h, ornament: shadow.ready[0]!.ornament as unknown as Ornament } : h)),
  };
  expect(strokesOfHit(carrying, performPart(carrying), 0, specs).map((s) => [s.tick, s.velocity])).toEqual([
    [0, 100],
    [40_320, 50],
  ]);
});

test('a page of the side panel: its entry, its figure, its content', () => {
  const store = bench();
  store.getState().select(['h0', 'h1']);
  const page: PageSpec = {
    id: 'toy',
    title: 'Toy',
    letter: 'y',
    about: 'A page to play with.',
    figure: (s) => String(s.selection.size),
    Page: () => <p>played with</p>,
  };
  store.getState().setUi({ page: 'toy' });
  const html = shown(store, <SidePanel pages={[page]} />);
  expect(html).toMatch(/role="tab"[^>]*><span[^>]*>To<span[^>]*>y<\/span><\/span><span[^>]*>2</);
  expect(html).toContain('played with');
});

test('an export: offered where it is available, with its options, and run', async () => {
  const toy: ExporterSpec<{ loud: boolean }> = {
    id: 'count',
    title: 'A count of hits',
    about: 'Text',
    isAvailable: ({ part: p }) => p.hits.length > 0,
    initial: () => ({ loud: true }),
    run: async ({ part: p }, { loud }) => ({
      data: `${p.hits.length}${loud ? '!' : ''}`,
      fileName: 'count.txt',
      type: 'text/plain',
      said: ['Counted.'],
    }),
  };
  const all = [toy as unknown as ExporterSpec];
  const source = { id: 'x', part, hasSong: false, selection: new Set<string>() };
  expect(offeredOf(all, { ...source, part: { ...part, hits: [] } })).toEqual([]);
  const [offered] = offeredOf(all, source);
  expect(await offered!.run(source, optionsOf(all, source), { signal: new AbortController().signal, onProgress: () => {} })).toMatchObject({
    data: '2!',
    said: ['Counted.'],
  });
});

test('a key: found by its press, run and held, told on the sheet', () => {
  const store = bench();
  const told: string[] = [];
  const specs: readonly KeySpec[] = [
    { keys: ['shift+y'], group: 'Keep', text: 'Play with a toy', run: ({ store: s }) => told.push(s.getState().part.name) },
    { keys: ['z'], group: 'Keep', text: 'Hold: a toy', hold: (_c, down) => told.push(down ? 'down' : 'up') },
  ];
  const press = (key: string, shiftKey = false) =>
    keyOf({ key, shiftKey, ctrlKey: false, metaKey: false, altKey: false } as KeyboardEvent, specs);
  const context = { store } as Context;
  press('Y', true)?.run?.(context);
  press('z')?.hold?.(context, true);
  press('z')?.hold?.(context, false);
  expect([told, press('y')]).toEqual([['small', 'down', 'up'], undefined]);
  const html = renderToStaticMarkup(<KeySheet specs={specs} />);
  expect(html).toMatch(/Shift Y.*Play with a toy/);
});

test('a table of the store: an older store gets it, its rows go with their part and come back', async () => {
  const name = 'with-a-toy';
  const older = new NodSwayDatabase(name);
  const id = await new PartStore(older).create(part);
  older.close();
  const toy: TableSpec = {
    name: 'toys',
    keys: 'id, partId',
    since: 99,
    owner: 'part',
    carried: null,
    ofPart: (db, partId) => db.table('toys').where('partId').equals(partId),
  };
  const db = new NodSwayDatabase(name, [...TABLES, toy]);
  const store = new PartStore(db);
  expect((await store.load(id)).part).toEqual(part);
  await db.table('toys').bulkAdd([
    { id: 1, partId: id },
    { id: 2, partId: 'another' },
  ]);
  const putBack = await store.remove(id);
  expect(await db.table('toys').toArray()).toEqual([{ id: 2, partId: 'another' }]);
  await putBack();
  expect(await db.table('toys').count()).toBe(2);
  expect((await store.load(id)).part).toEqual(part);
});
