import 'fake-indexeddb/auto';
import { addVelocity } from '@/core/commands/hits';
import type { Part } from '@/core/model/part';
import { ticks, TICKS_PER_QUARTER } from '@/core/units';
import { partStore } from '@/storage/part-store';
import { smallPart } from '@tests/support/arbitraries';
import type { Playback } from '../playback/use-playback';
import { createBenchStore, type BenchStore } from '../store/bench-store';
import { compareIdea, dropIdea, ideaToSection, keepAsPart, keepIdeaAsPattern, newIdea, stepIdea, takeIdea } from './ideas';

const said: string[] = [];
const undo: (() => void)[] = [];
jest.mock('@/ui/notify', () => ({
  say: (text: string) => said.push(text),
  tell: (text: string, { onClick }: { onClick: () => void }) => {
    said.push(text);
    undo.push(onClick);
  },
  showError: (e: unknown) => {
    throw e;
  },
}));
beforeEach(() => {
  said.length = 0;
  undo.length = 0;
});

const BAR = 4 * TICKS_PER_QUARTER;
const part: Part = smallPart(
  Array.from({ length: 8 }, (_, i) => ['kick', 2 * i, 100 - i] as const),
  { bars: 4 },
);

/** A Bench on a part in the store; ideas are opened at once. */
async function opened(): Promise<{ store: BenchStore; playback: Playback; whens: string[] }> {
  const id = await partStore.create(part);
  const store = createBenchStore(id, await partStore.load(id), false, partStore);
  const whens: string[] = [];
  const playback = {
    conductor: {
      openIdea: (idea: string | null, when: string) => {
        whens.push(when);
        store.getState().openIdea(idea);
      },
    },
  } as unknown as Playback;
  store.getState().setTransport({ loop: true, fromBar: 1, toBar: 3 });
  return { store, playback, whens };
}
const velocities = (p: Part) => p.hits.map((h) => h.velocity);

test('a new idea is a copy of the loop, kept in the store, and opened with the next bar', async () => {
  const { store, playback, whens } = await opened();
  await newIdea(store, playback);
  const { ideas, idea, part: shown, id } = store.getState();
  expect(ideas.map((i) => [i.letter, i.bars])).toEqual([['A', 2]]);
  expect([idea, whens]).toEqual([ideas[0]!.id, ['bar']]);
  expect([shown.bars, shown.origin, velocities(shown)]).toEqual([2, BAR, [98, 97, 96, 95]]);
  expect((await partStore.ideas(id)).map((i) => i.letter)).toEqual(['A']);
});

test('without a loop the bar at the playing position is copied; a loop is cut to the part', async () => {
  const { store, playback } = await opened();
  store.getState().setTransport({ loop: false, cursor: ticks(3.5 * BAR) });
  await newIdea(store, playback);
  expect([store.getState().part.bars, store.getState().part.origin]).toEqual([1, 3 * BAR]);
});

test('one steps through the part and its ideas, round and back', async () => {
  const { store, playback } = await opened();
  stepIdea(store, playback, 1, 'now');
  expect(said.at(-1)).toContain('no ideas yet');
  await newIdea(store, playback);
  store.getState().openIdea(null);
  await newIdea(store, playback);
  const [a, b] = store.getState().ideas.map((i) => i.id);
  const seen: (string | null)[] = [];
  for (const by of [1, 1, 1, -1]) {
    stepIdea(store, playback, by, 'now');
    seen.push(store.getState().idea);
  }
  expect(seen).toEqual([null, a, b, a]);
});

test('an idea that is taken stands in the bars it came from: one step of the part, and the rest is left', async () => {
  const { store, playback } = await opened();
  await newIdea(store, playback);
  store.getState().run('softer', (p) => addVelocity(p, new Set(p.hits.map((h) => h.id)), -50));
  takeIdea(store, playback, store.getState().ideas[0]!);
  const { part: now, idea, history } = store.getState();
  expect([idea, velocities(now)]).toEqual([null, [100, 99, 48, 47, 46, 45, 94, 93]]);
  expect(history.undo.at(-1)?.label).toBe('Use idea 1 in bars 2 to 3');
  store.getState().undo();
  expect(velocities(store.getState().part)).toEqual(velocities(part));
});

test('what the part does not take from an idea is said', async () => {
  const { store, playback } = await opened();
  await newIdea(store, playback);
  takeIdea(store, playback, store.getState().ideas[0]!);
  expect(said.at(-1)).not.toContain('stayed');
  store.getState().openIdea(store.getState().ideas[0]!.id);
  store.getState().run('kit', (p) => ({ ...p, kit: 'Beacon', feel: { ...p.feel, seed: 99 } }));
  takeIdea(store, playback, store.getState().ideas[0]!);
  expect(said.at(-1)).toContain('feel and sound stayed with the idea');
  expect(store.getState().part.feel.seed).toBe(part.feel.seed);
});

test('an idea becomes a section behind the last bar', async () => {
  const { store, playback } = await opened();
  await newIdea(store, playback);
  ideaToSection(store, playback, store.getState().ideas[0]!);
  const { part: now } = store.getState();
  expect([now.bars, now.sections?.at(-1)]).toMatchObject([6, { name: 'Idea 1', from: 5, bars: 2 }]);
  expect(velocities(now).slice(8)).toEqual([98, 97, 96, 95]);
});

test('compared with an idea, at equal loudness; once more ends it', async () => {
  const { store, playback } = await opened();
  await newIdea(store, playback);
  const [idea] = store.getState().ideas;
  store.getState().openIdea(null);
  compareIdea(store, idea!);
  expect(store.getState().ui.other).toMatchObject({ id: idea!.id, equal: true, part: idea!.part });
  compareIdea(store, idea!);
  expect(store.getState().ui.other).toBeNull();
  store.getState().openIdea(idea!.id);
  compareIdea(store, null);
  expect(store.getState().ui.other?.part).toBe(store.getState().main);
});

test('a deleted idea goes, its letter is not used again at once, and Undo brings it back', async () => {
  const { store, playback } = await opened();
  await newIdea(store, playback);
  const [idea] = store.getState().ideas;
  await dropIdea(store, playback, idea!);
  expect([store.getState().ideas, store.getState().idea]).toEqual([[], null]);
  expect(await partStore.ideas(store.getState().id)).toEqual([]);
  await newIdea(store, playback);
  expect(store.getState().ideas.map((i) => i.letter)).toEqual(['B']);
  undo[0]!();
  for (let i = 0; i < 200 && store.getState().ideas.length < 2; i++) await new Promise((done) => setImmediate(done));
  expect(
    store
      .getState()
      .ideas.map((i) => i.letter)
      .sort(),
  ).toEqual(['A', 'B']);
});

test('there are sixteen at most, and none is made, taken or deleted while a take is recorded', async () => {
  const { store, playback } = await opened();
  for (let i = 0; i < 16; i++) await newIdea(store, playback);
  await newIdea(store, playback);
  expect([store.getState().ideas.length, said.at(-1)]).toEqual([16, 'There are sixteen ideas: delete one first.']);
  const [first] = store.getState().ideas;
  const before = store.getState().main;
  store.setState({ recording: true });
  takeIdea(store, playback, first!);
  ideaToSection(store, playback, first!);
  keepIdeaAsPattern(store, playback, first!);
  await dropIdea(store, playback, first!);
  expect([store.getState().main, store.getState().ideas.length]).toEqual([before, 16]);
});

test('kept as a pattern: all of its hits are chosen, and the pattern book is open', async () => {
  const { store, playback } = await opened();
  await newIdea(store, playback);
  keepIdeaAsPattern(store, playback, store.getState().ideas[0]!);
  expect([store.getState().selection.size, store.getState().ui.dialog]).toEqual([4, 'patterns']);
});

test('kept as a part: it begins with its first bar', async () => {
  const id = await keepAsPart(part, 'Two bars', { from: 1, to: 3 });
  const { part: kept } = await partStore.load(id);
  expect([kept.name, kept.bars, kept.origin, kept.hits.map((h) => h.tick / BAR)]).toEqual(['Two bars', 2, 0, [0, 0.5, 1, 1.5]]);
});
