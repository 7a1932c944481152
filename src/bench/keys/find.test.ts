import { smallPart } from '@tests/support/arbitraries';
import { createBenchStore } from '../store/bench-store';
import { keyText } from '../words/key-text';
import { BENCH_FEATURES } from '../features/all';
import { keysOfFeatures } from '../shared/feature-keys';
import { KEYS } from './keys';
import { keyOf, type Context, type KeySpec } from '../shared/key-spec';
import { MORE } from './more';
import { rank } from './rank';

jest.mock('@/ui/notify', () => ({ say: () => {}, sayWith: () => {}, showError: () => {} }));
jest.mock('@/sound/engine', () => ({ soundEngine: () => ({}) }));

const ALL: readonly KeySpec[] = [...KEYS, ...keysOfFeatures(BENCH_FEATURES), ...MORE];
const best = (written: string): string | undefined =>
  ALL.filter((s) => s.run && s.shown !== null)
    .map((s) => ({ text: s.text, score: rank(s.text, written, [...(s.also ?? [])]) }))
    .filter((f) => f.score > 0)
    .sort((a, b) => b.score - a.score)[0]?.text;

test('the trade’s words and ours lead to the same thing', () => {
  expect([best('quantize'), best('tighten'), best('snap')]).toEqual(
    Array(3).fill('Quantize now: move the selection, or all hits, onto the shown grid'),
  );
  expect(best('add quantize')).toBe('Add quantize');
  expect([best('humanize'), best('randomize timing')]).toEqual(Array(2).fill('Add humanize'));
  expect([best('swing'), best('shuffle')]).toEqual(Array(2).fill('Add swing'));
  expect([best('merge duplicate'), best('ghost notes'), best('velocity compress'), best('time signature')]).toEqual([
    'Merge duplicate hits',
    'Suggest ghost notes',
    'Shape velocities: compress, randomize, ramp, accent',
    'Time signature, pickup, and where the bars start',
  ]);
  expect([best('undo'), best('export'), best('xyzzy')]).toEqual(['Undo', 'Export', undefined]);
});

test('every word must fit; whole words of the sentence count most', () => {
  expect([
    rank('Add humanize', 'human', ['random']),
    rank('Add humanize', 'humanize'),
    rank('Add', 'random', ['random']),
    rank('Add', 'ran', ['random']),
    rank('Add', 'add nothing'),
    rank('Add', ''),
  ]).toEqual([0.9, 1, 0.8, 0.6, 0, 1]);
});

test('no two things that are found are called alike, and each is a sentence of its own', () => {
  const texts = ALL.filter((s) => s.shown !== null).map((s) => s.text);
  expect(texts.filter((t, i) => texts.indexOf(t) !== i)).toEqual([]);
  for (const text of texts) expect(text).toMatch(/^[A-Z]/);
});

test('P leads: the letter after it opens a page, alone it does something else', () => {
  const event = (key: string) => ({ key, ctrlKey: false, metaKey: false, shiftKey: false, altKey: false }) as KeyboardEvent;
  expect(keyOf(event('f'), ALL, true)?.text).toBe('Open the page Feel');
  expect(keyOf(event('f'), ALL)?.text).toMatch(/^Paint hits/);
  const store = createBenchStore('x', { part: smallPart([['kick', 0, 90]]), head: 0 }, false, {
    appendEdits: async () => {},
    settleHead: async () => {},
  } as never);
  keyOf(event('b'), ALL, true)?.run?.({ store } as Context);
  expect([store.getState().ui.page, store.getState().ui.goTo]).toEqual(['bars', { page: 'bars', section: null, n: 1 }]);
});

test('keys are written as the platform writes them', () => {
  expect([
    keyText('mod+shift+z', false),
    keyText('mod+shift+z', true),
    keyText('p h', false),
    keyText('delete', true),
    keyText('space', false),
  ]).toEqual(['Ctrl Shift Z', '⌘⇧Z', 'P H', '⌦', 'Space']);
});
