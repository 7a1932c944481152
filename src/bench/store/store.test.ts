import { addVelocity } from '@/core/commands/hits';
import { setTempo } from '@/core/commands/settings';
import type { Part } from '@/core/model/part';
import { bpm } from '@/core/units';
import type { FinishedEdit } from '@/editing/saver';
import type { Left } from '@/editing/left-behind';
import { sweepOf } from '@/editing/sweep';
import type { KeptStep } from '@/editing/history';
import type { PartDiff } from '@/core/part/diff';
import { smallPart } from '@tests/support/arbitraries';
import { silenceReason } from '../playback/silence';
import { tapTempo } from '../chrome/tap-tempo';
import { createBenchStore, heldBench } from './bench-store';
import { benchHistoryOf, leftOfEdits } from './surroundings';

const part = smallPart([
  ['kick', 0, 100],
  ['snare', 1, 90],
]);
const all = new Set(part.hits.map((h) => h.id));
const quiet = (p: Part) => addVelocity(p, all, -1);
const settle = () => new Promise((done) => setImmediate(done));

function bench(): { saves: [number, string][]; store: ReturnType<typeof createBenchStore> } {
  const saves: [number, string][] = [];
  const store = createBenchStore('x', { part, head: 7 }, false, {
    appendEdits: async (_id: string, seq: number, edits: { label: string }[]) => edits.forEach((e, i) => saves.push([seq + i, e.label])),
    settleHead: async () => {},
  } as never);
  return { saves, store };
}

test('a gesture is one entry and one record in the store, however many previews it had', async () => {
  const { store, saves } = bench();
  const s = store.getState;
  const drag = s().open('softer', 'drag');
  for (let i = 1; i <= 30; i++) drag.preview((p) => addVelocity(p, all, -i));
  expect(s().part.hits.map((h) => h.velocity)).toEqual([70, 60]);
  drag.commit();
  expect(s().history.undo).toHaveLength(1);
  s().undo();
  expect(s().part).toEqual(part);
  s().redo();
  expect(s().part.hits.map((h) => h.velocity)).toEqual([70, 60]);
  await settle();
  expect(saves).toEqual([
    [8, 'softer'],
    [9, 'Undo softer'],
    [10, 'softer'],
  ]);
});

test('a gesture that changed nothing leaves no entry; undo during a gesture cancels it', async () => {
  const { store, saves } = bench();
  const s = store.getState;
  s().run('nothing', (p) => ({ ...p }));
  s().open('softer', 'drag').preview(quiet);
  s().undo();
  expect(s().part).toBe(part);
  expect(s().history).toEqual({ undo: [], redo: [] });
  await settle();
  expect(saves).toEqual([]);
});

test('undo brings the selection back, a new edit drops what could be redone', () => {
  const { store } = bench();
  const s = store.getState;
  s().select(['h0']);
  s().run('softer', quiet);
  s().select(['h1']);
  s().undo();
  expect([...s().selection]).toEqual(['h0']);
  s().run('softer still', quiet);
  expect(s().history.redo).toEqual([]);
});

test('a trial that is open when a sweep begins is a step of its own, under its own name', () => {
  const { store } = bench();
  const s = store.getState;
  const trial = s().open('Try a groove', 'trial');
  trial.preview(quiet);
  const tempo = sweepOf(s().open, 'drag');
  tempo.show('Tempo', (p) => setTempo(p, bpm(90)));
  tempo.show('Tempo', (p) => setTempo(p, bpm(80)));
  trial.cancel();
  tempo.done();
  expect(s().history.undo.map((e) => e.label)).toEqual(['Try a groove', 'Tempo']);
  s().undo();
  expect(s().part.hits.map((h) => h.velocity)).toEqual([99, 89]);
  // Another's sweep is neither finished nor put back.
  const swing = sweepOf(s().open, 'drag');
  swing.show('Swing', quiet);
  tempo.cancel();
  tempo.done();
  expect(s().underway?.label).toBe('Swing');
  expect([swing, tempo].map((sweep) => sweep.owns(s().underway))).toEqual([true, false]);
  swing.cancel();
  expect(s().underway).toBeNull();
});

test('every silence has its reason', () => {
  const transport = { loop: true, fromBar: 0, toBar: 1, order: false, cursor: 0 as never, version: 'performed' as const };
  const reason = (p: Part, t = transport, status: Parameters<typeof silenceReason>[2] = 'ready') => silenceReason(p, t, status);
  expect(reason(part)).toBeNull();
  expect(reason(part, transport, 'blocked')).toContain('browser');
  expect(reason({ ...part, hits: [] })).toContain('no hits yet');
  expect(reason({ ...part, bars: 2 }, { ...transport, fromBar: 1, toBar: 2 })).toContain('other bars');
  expect(reason({ ...part, rows: part.rows.map((r) => ({ ...r, muted: true })) })).toContain('muted');
  expect(reason({ ...part, rows: [...part.rows, { voice: 'crash', soloed: true }] })).toContain('soloed');
  expect(reason(addVelocity(part, all, -126))).toContain('too soft');
});

test('taps: three give a tempo, a pause starts anew', () => {
  const run = (times: number[]) => times.reduce((r, t) => tapTempo(r.taps, t), { taps: [] as number[], bpm: null as number | null });
  expect(run([0, 500]).bpm).toBeNull();
  expect(run([0, 510, 990, 1500]).bpm).toBe(120);
  expect(run([0, 500, 1000, 9000]).bpm).toBeNull();
});

test('an idea has its own steps, selection and loop; what is done to it is saved under its own id', async () => {
  const saves: string[] = [];
  const store = createBenchStore('x', { part, head: 7 }, false, {
    appendEdits: async (id: string, seq: number, edits: { label: string }[]) =>
      edits.forEach((e, i) => saves.push(`${id} ${seq + i} ${e.label}`)),
    settleHead: async () => {},
  } as never);
  const s = store.getState;
  s().addIdea({ id: 'x~a', partId: 'x', letter: 'A', bars: 1, part, head: 0 });
  s().run('in the part', quiet);
  s().select(['h0']);
  s().openIdea('x~a');
  expect([s().part, s().history.undo, [...s().selection]]).toEqual([part, [], []]);
  s().run('in the idea', (p) => addVelocity(p, all, -20));
  s().undo();
  s().undo();
  expect(s().part).toEqual(part);
  s().redo();
  expect([s().main.hits.map((h) => h.velocity), s().ideas[0]!.part.hits.map((h) => h.velocity)]).toEqual([
    [99, 89],
    [80, 70],
  ]);
  s().openIdea(null);
  expect([s().part.hits.map((h) => h.velocity), s().history.undo.map((e) => e.label), [...s().selection]]).toEqual([
    [99, 89],
    ['in the part'],
    ['h0'],
  ]);
  await settle();
  expect(saves).toEqual(['x 8 in the part', 'x~a 1 in the idea', 'x~a 2 Undo in the idea', 'x~a 3 in the idea']);
  expect(s().save).toEqual({ kind: 'saved' });
  s().openIdea('x~a');
  s().dropIdea('x~a');
  expect([s().idea, s().ideas, s().part.hits.map((h) => h.velocity)]).toEqual([null, [], [99, 89]]);
});

test('an idea that cannot be saved is told, and held', async () => {
  const refuse = async (id: string) => (id === 'x~a' ? Promise.reject(new Error('no')) : undefined);
  const store = createBenchStore('held', { part, head: 0 }, false, { appendEdits: refuse, settleHead: async () => {} } as never);
  store.getState().addIdea({ id: 'x~a', partId: 'held', letter: 'A', bars: 1, part, head: 0 });
  store.getState().openIdea('x~a');
  store.getState().run('softer', quiet);
  store.getState().openIdea(null);
  store.getState().run('softer', quiet);
  await settle();
  expect(store.getState().save.kind).toBe('failed');
  expect(heldBench('held')).toBe(store);
});

test('what was undone and left behind by something new can be brought back', () => {
  const { store } = bench();
  const s = store.getState;
  s().run('one', quiet);
  s().run('two', quiet);
  s().run('three', quiet);
  for (let i = 0; i < 2; i++) s().undo();
  s().run('another', (p) => addVelocity(p, all, 5));
  expect(s().left.map((l) => [l.label, l.steps, l.value().hits[0]!.velocity])).toEqual([['three', 2, 97]]);
  for (let i = 0; i < 30; i++) {
    s().undo();
    s().run(`n${i}`, (p) => addVelocity(p, all, -i - 1));
  }
  expect([s().left.length, s().left.at(-1)!.label]).toEqual([20, 'n28']);
});

describe('going back after a reload', () => {
  /** Does some steps, keeps what the store was told, and opens the part anew from it. */
  function reopened(steps: (s: ReturnType<typeof createBenchStore>) => void) {
    const kept: KeptStep<PartDiff>[] = [];
    const tell = async (_id: string, _seq: number, edits: readonly FinishedEdit[]) =>
      edits.forEach(({ label, diff, step }) => kept.push({ label, diff, step }));
    const before = createBenchStore('x', { part, head: 0 }, false, { appendEdits: tell, settleHead: async () => {} } as never);
    steps(before);
    return settle().then(() => {
      const after = createBenchStore('x', { part: before.getState().part, head: kept.length }, false, {
        appendEdits: tell,
        settleHead: async () => {},
      } as never);
      after.getState().adoptHistory(benchHistoryOf(kept));
      return { before: before.getState, after: after.getState };
    });
  }
  const labels = (h: { label: string }[] | readonly { label: string }[]) => h.map((e) => e.label);

  test('steps back and forward are where they were', async () => {
    const { before, after } = await reopened((s) => {
      for (const name of ['one', 'two', 'three', 'four']) s.getState().run(name, quiet);
      s.getState().undo();
      s.getState().undo();
      s.getState().redo();
    });
    expect(labels(after().history.undo)).toEqual(labels(before().history.undo));
    expect(labels(after().history.undo)).toEqual(['one', 'two', 'three']);
    expect(labels(after().history.redo)).toEqual(['four']);
    after().undo();
    after().undo();
    after().undo();
    expect(after().part).toEqual(part);
    for (let i = 0; i < 4; i++) after().redo();
    expect(after().part.hits.map((h) => h.velocity)).toEqual([96, 86]);
  });

  test('what was left behind is known after a reload too', async () => {
    const kept: KeptStep<PartDiff>[] = [];
    const before = createBenchStore('x', { part, head: 0 }, false, {
      appendEdits: async (_id: string, _seq: number, edits: readonly FinishedEdit[]) =>
        edits.forEach(({ label, diff, step }) => kept.push({ label, diff, step })),
      settleHead: async () => {},
    } as never).getState;
    for (const by of [-1, -2, -3]) before().run(`by ${by}`, (p) => addVelocity(p, all, by));
    before().undo();
    before().undo();
    before().run('by 7', (p) => addVelocity(p, all, 7));
    before().undo();
    before().run('by 9', (p) => addVelocity(p, all, 9));
    await settle();
    const told = (list: readonly Left<Part>[]) => list.map((l) => [l.label, l.steps, l.value()]);
    expect(told(leftOfEdits(kept, before().part))).toEqual(told(before().left));
    expect(before().left.map((l) => [l.label, l.steps, l.value().hits[0]!.velocity])).toEqual([
      ['by -3', 2, 94],
      ['by 7', 1, 106],
    ]);
  });

  test('what was done before the older steps arrived comes on top of them, and nothing is ahead', async () => {
    const { after } = await reopened((s) => {
      s.getState().run('one', quiet);
      s.getState().run('two', quiet);
      s.getState().undo();
    });
    const early = createBenchStore('x', { part: after().part, head: 3 }, false, {
      appendEdits: async () => {},
      settleHead: async () => {},
    } as never);
    early.getState().run('fresh', quiet);
    early.getState().adoptHistory(after().history);
    expect(labels(early.getState().history.undo)).toEqual(['one', 'fresh']);
    expect(early.getState().history.redo).toEqual([]);
    early.getState().undo();
    early.getState().undo();
    expect(early.getState().part).toEqual(part);
  });

  test('a list that begins in the middle still leads back and forward', () => {
    const lower = (to: number): FinishedEdit['diff'] => ({
      removed: [part.hits[0]!],
      added: [{ ...part.hits[0]!, velocity: to as never }],
      fields: {},
    });
    expect(labels(benchHistoryOf([{ label: 'Undo lost', diff: lower(50), step: 'undo' }]).redo)).toEqual(['lost']);
    expect(labels(benchHistoryOf([{ label: 'found', diff: lower(50), step: 'redo' }]).undo)).toEqual(['found']);
  });
});

test('a loop that reaches beyond a shorter part ends with it; one that lay beyond it is its last bar', () => {
  const store = createBenchStore('x', { part: { ...part, bars: 8 }, head: 0 }, false, {
    appendEdits: async () => {},
    settleHead: async () => {},
  } as never);
  const loop = () => [store.getState().transport.fromBar, store.getState().transport.toBar];
  const shorten = (bars: number) => store.getState().run('Length', (p) => ({ ...p, bars }));
  store.getState().setTransport({ loop: true, fromBar: 2, toBar: 6 });
  shorten(6);
  expect(loop()).toEqual([2, 6]);
  shorten(4);
  expect(loop()).toEqual([2, 4]);
  shorten(2);
  expect(loop()).toEqual([1, 2]);
  shorten(1);
  expect(loop()).toEqual([0, 1]);
});

test('the loop of last time is kept where the part still has its bars, else its first four are looped', () => {
  const opened = (loop: unknown, bars = 8) => {
    const {
      fromBar,
      toBar,
      loop: on,
    } = createBenchStore('y', { part: { ...part, bars }, head: 0, loop } as never, false, {
      appendEdits: async () => {},
      settleHead: async () => {},
    } as never).getState().transport;
    return [on, fromBar, toBar];
  };
  expect(opened({ loop: false, fromBar: 2, toBar: 8 })).toEqual([false, 2, 8]);
  for (const loop of [
    undefined,
    { loop: true, fromBar: 2, toBar: 9 },
    { loop: true, fromBar: 3, toBar: 3 },
    { loop: true, fromBar: -1, toBar: 3 },
    { loop: true, fromBar: 0.5, toBar: 3 },
    { loop: true, fromBar: 0, toBar: 2.5 },
  ])
    expect(opened(loop)).toEqual([true, 0, 4]);
  expect(opened(undefined, 3)).toEqual([true, 0, 3]);
});
