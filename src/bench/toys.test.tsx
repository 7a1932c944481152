/** One of each kind of thing, made here alone and handed in through the lists: each works like those that ship. */
import 'fake-indexeddb/auto';
import { Tooltip } from 'radix-ui';
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
import { Bench } from './Bench';
import { SidePanel } from './chrome/SidePanel';
import { BENCH_FEATURES } from './features/all';
import type { BenchFeature } from './shared/feature';
import { keysOfFeatures } from './shared/feature-keys';
import { drawFrame } from './stems/drawing/draw-frame';
import type { Palette } from './stems/drawing/palette';
import { makeScene } from './stems/geometry/scene';
import { offeredOf, optionsOf } from './dialogs/export/all';
import type { ExporterSpec } from './dialogs/export/exporter';
import { keyOf, type Context, type KeySpec } from './shared/key-spec';
import { KeySheet } from './keys/KeysDialog';
import type { PageSpec } from './shared/feature';
import { MOVE_FACES } from './features/feel/moves/all';
import { viewOfMove, MoveNumber, Words, type MoveView } from './features/feel/moves/move-view';
import { MovePicture } from './features/feel/MovePicture';
import { createBenchStore, type BenchStore } from './store/bench-store';
import { BenchProvider } from './store/context';

jest.mock('@/ui/notify', () => ({ say: () => {}, showError: () => {} }));
// What the audio thread is given is nothing that these toys ask for.
jest.mock('@/sound/engine', () => ({ soundEngine: () => ({ subscribe: () => () => {}, status: 'off' }) }));
jest.mock('react-hotkeys-hook', () => ({ useHotkeys: () => {} }));
jest.mock('next/navigation', () => ({ useRouter: () => ({}) }));
jest.mock('sonner', () => ({ toast: () => {} }));

/** A canvas that draws nowhere: every method does nothing, every property can be set. */
const canvasDouble = (): CanvasRenderingContext2D =>
  new Proxy({ measureText: () => ({ width: 8 }) } as Record<string | symbol, unknown>, {
    get: (target, name) => target[name] ?? (() => undefined),
    set: (target, name, value) => ((target[name] = value), true),
  }) as unknown as CanvasRenderingContext2D;

const toyTakes = (features: readonly BenchFeature[], store: BenchStore, name: string): boolean =>
  features.some((f) => f.drop?.(store, new File([], name)));

const part = smallPart([
  ['kick', 0, 100],
  ['snare', 1, 90],
]);
const bench = (): BenchStore =>
  createBenchStore('x', { part, head: 0 }, false, { appendEdits: async () => {}, settleHead: async () => {} } as never);
// Markup is made of a store's first state unless it is told otherwise.
const shown = (store: BenchStore, node: ReactNode): string =>
  renderToStaticMarkup(
    <Tooltip.Provider>
      <BenchProvider value={{ ...store, getInitialState: store.getState }}>{node}</BenchProvider>
    </Tooltip.Provider>,
  );

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

test('a whole feature: page, dialog, key, overlay, dropped file and menu entries from one object in the list', () => {
  const store = bench();
  const done: string[] = [];
  const toy: BenchFeature = {
    id: 'toy',
    pages: [{ id: 'toy', title: 'Toy', letter: 'y', about: 'A page to play with.', Page: () => <p>played with</p> }],
    dialogs: { 'toy-box': () => <p>the box is open</p> },
    strips: [{ id: 'toy', where: 'above', Strip: () => <p>over the stems</p> }],
    overlays: [() => done.push('drawn')],
    keys: [{ keys: ['y'], group: 'Edit', text: 'Play', run: () => done.push('key') }],
    drop: (_store, file) => file.name.endsWith('.toy') && done.push(file.name) > 0,
    menus: { hits: [{ text: 'Play with these', run: () => done.push('menu') }] },
  };
  store.getState().setUi({ page: 'toy', dialog: 'toy-box' });
  const features = [...BENCH_FEATURES, toy];
  const html = shown(store, <Bench features={features} />);
  for (const text of ['played with', 'the box is open', 'over the stems']) expect(html).toContain(text);

  const keys = keysOfFeatures(features);
  const press = (key: string, leading = false) =>
    keyOf({ key, shiftKey: false, ctrlKey: false, metaKey: false, altKey: false } as KeyboardEvent, keys, leading);
  press('y')?.run?.({ store } as Context);
  store.getState().setUi({ page: 'feel' });
  press('y', true)?.run?.({ store } as Context);
  expect(store.getState().ui.page).toBe('toy');

  const state = store.getState();
  drawFrame(
    canvasDouble(),
    {} as Palette,
    makeScene({ ...state, view: { ...state.view, pixelsPerQuarter: 40 } }, 400, 200),
    state,
    400,
    200,
    toy.overlays,
  );
  expect([toyTakes(features, store, 'a.toy'), toyTakes(features, store, 'a.mid')]).toEqual([true, false]);
  toy.menus!.hits![0]!.run(store, {});
  expect(done).toEqual(['key', 'drawn', 'a.toy', 'menu']);
});

test('without takes and breaks the Bench stands: no page, no strip, no key of theirs', () => {
  const store = bench();
  const rest = BENCH_FEATURES.filter((f) => f.id !== 'takes' && f.id !== 'breaks');
  const html = shown(store, <Bench features={rest} />);
  const tabs = [...html.matchAll(/role="tab"/g)].length;
  expect(tabs).toBe(rest.flatMap((f) => f.pages ?? []).length);
  expect(keysOfFeatures(rest).map((k) => k.text)).not.toContain('Open the page Takes');
  expect(html).toContain('small');
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
