import fc from 'fast-check';
import { Document, type Diffing, type Finished, type Transaction } from './document';
import { historyOf } from './history';
import { sweepOf } from './sweep';

/** Numbers, whose diff is their difference. */
const NUMBERS: Diffing<number, number> = {
  diff: (before, after) => after - before || null,
  apply: (value, diff) => value + diff,
  invert: (diff) => -diff,
  join: (a, b) => a + b,
};

function counter() {
  const finished: Finished<number, number>[] = [];
  const shown = { value: 0, place: 'start', underway: null as string | null, undo: [] as string[], redo: [] as string[] };
  const doc = new Document<number, number, string>(NUMBERS, 0, {
    surroundings: () => shown.place,
    finished: (edit) => finished.push(edit),
    show({ value, underway, history }, back) {
      Object.assign(shown, {
        value,
        underway: underway && `${underway.kind} ${underway.label}`,
        undo: history.undo.map((e) => e.label),
        redo: history.redo.map((e) => e.label),
        ...(back ? { place: back.to } : {}),
      });
    },
  });
  return { doc, shown, finished };
}

const plus = (n: number) => (value: number) => value + n;

test('a transaction is one step, however often it was shown; one that leads nowhere is none', () => {
  const { doc, shown, finished } = counter();
  const drag = doc.open('Add', 'drag');
  for (const n of [1, 2, 3]) drag.preview(plus(n), `Add ${n}`);
  expect(shown).toMatchObject({ value: 3, underway: 'drag Add 3', undo: [] });
  drag.commit();
  doc.open('Nothing', 'drag').commit();
  expect(shown).toMatchObject({ value: 3, underway: null, undo: ['Add 3'] });
  expect(finished).toEqual([{ label: 'Add 3', diff: 3, after: 3, step: 'do' }]);
});

test('opening another keeps what is under way under its own name, and tells; its handle is dead', () => {
  const { doc, shown } = counter();
  const told: string[] = [];
  const trial = doc.open('Try ten', 'trial', (how) => told.push(how));
  trial.preview(plus(10));
  const drag = doc.open('Tempo', 'drag', (how) => told.push(how));
  drag.preview(plus(1));
  trial.preview(plus(500));
  trial.cancel();
  expect([trial.isOpen, drag.isOpen, shown.value]).toEqual([false, true, 11]);
  doc.undo();
  expect(shown).toMatchObject({ value: 10, undo: ['Try ten'], underway: null });
  expect(told).toEqual(['kept', 'put back']);
  // Who ends its own is not told.
  doc.open('Own', 'step', () => told.push('own')).commit();
  expect(told).toHaveLength(2);
});

test('steps and cancelled edits lead back to what surrounded them', () => {
  const { doc, shown } = counter();
  doc.run('One', plus(1), () => (shown.place = 'after one'));
  shown.place = 'elsewhere';
  const drag = doc.open('Two', 'drag');
  shown.place = 'far';
  drag.cancel();
  expect(shown.place).toBe('elsewhere');
  doc.undo();
  expect([shown.value, shown.place]).toEqual([0, 'start']);
  doc.redo();
  expect([shown.value, shown.place]).toEqual([1, 'after one']);
});

test('an amendment is undone together with its step, also after a reload; after an undo it becomes a separate step', () => {
  const { doc, shown, finished } = counter();
  doc.run('One', plus(1));
  doc.amend('More', plus(10));
  expect(shown).toMatchObject({ value: 11, undo: ['One'] });
  expect(finished.map(({ label, diff, step }) => [label, diff, step])).toEqual([
    ['One', 1, 'do'],
    ['One', 10, 'amend'],
  ]);
  expect(historyOf(finished, NUMBERS, () => ({ before: '', after: '' })).undo.map((e) => [e.label, e.diff])).toEqual([['One', 11]]);
  doc.undo();
  expect(shown).toMatchObject({ value: 0, undo: [], redo: ['One'] });
  doc.redo();
  expect(shown.value).toBe(11);
  doc.run('Two', plus(2));
  doc.undo();
  doc.amend('Own', plus(100));
  expect(shown).toMatchObject({ value: 111, undo: ['One', 'Own'] });
  doc.amend('Nothing', plus(0));
  expect(shown.undo).toEqual(['One', 'Own']);
});

test('a command that throws leaves nothing under way', () => {
  const { doc, shown, finished } = counter();
  expect(() =>
    doc.run('Fails', () => {
      throw new Error('no');
    }),
  ).toThrow('no');
  expect([shown.value, shown.underway, finished]).toEqual([0, null, []]);
});

test('what comes from elsewhere is no step, and an edit under way goes on from it', () => {
  const { doc, shown } = counter();
  const drag = doc.open('Two', 'drag');
  drag.preview(plus(2));
  doc.receive(plus(100));
  expect(shown.value).toBe(102);
  drag.commit();
  doc.undo();
  expect([shown.value, shown.undo]).toEqual([100, []]);
});

test('a control opens an edit with its first change, and another once that is over', () => {
  const { doc, shown } = counter();
  const [tempo, swing] = [sweepOf(doc.open.bind(doc), 'drag'), sweepOf(doc.open.bind(doc), 'drag')];
  tempo.done();
  tempo.show('Tempo', plus(1));
  tempo.show('Tempo', plus(2));
  swing.show('Swing', plus(10));
  tempo.show('Tempo', plus(3));
  swing.cancel();
  tempo.done();
  tempo.done();
  expect([shown.value, shown.undo]).toEqual([15, ['Tempo', 'Swing', 'Tempo']]);
});

type Act = (doc: Document<number, number, string>, handles: Transaction<number>[]) => void;

test('whatever is done in whatever order: all undone is the start, all kept edits lead to what is seen', () => {
  const any = fc.nat(20);
  const acts: fc.Arbitrary<Act> = fc.oneof(
    fc.constant<Act>((doc, handles) => void handles.push(doc.open('drag', 'drag'))),
    fc.tuple(any, fc.integer({ min: -3, max: 3 })).map(
      ([i, n]): Act =>
        (_doc, handles) =>
          handles[i % Math.max(1, handles.length)]?.preview(plus(n)),
    ),
    any.map(
      (i): Act =>
        (_doc, handles) =>
          handles[i % Math.max(1, handles.length)]?.commit(),
    ),
    any.map(
      (i): Act =>
        (_doc, handles) =>
          handles[i % Math.max(1, handles.length)]?.cancel(),
    ),
    fc.integer({ min: -3, max: 3 }).map(
      (n): Act =>
        (doc) =>
          doc.run('run', plus(n)),
    ),
    fc.constantFrom<Act>(
      (doc) => doc.undo(),
      (doc) => doc.redo(),
      (doc) => doc.settle(),
      (doc) => doc.putBack(),
    ),
  );
  fc.assert(
    fc.property(fc.array(acts, { maxLength: 40 }), (list) => {
      const { doc, shown, finished } = counter();
      const handles: Transaction<number>[] = [];
      for (const act of list) act(doc, handles);
      doc.settle();
      expect(handles.filter((h) => h.isOpen)).toEqual([]);
      expect(finished.reduce((value, { diff }) => value + diff, 0)).toBe(shown.value);
      // Read back from what was kept, the history is the same.
      const again = historyOf(finished, NUMBERS, () => ({ before: '', after: '' }));
      expect([again.undo.map((e) => e.diff), again.redo.map((e) => e.diff)]).toEqual([steps(doc, 'undo'), steps(doc, 'redo')]);
      while (shown.undo.length > 0) doc.undo();
      expect(shown.value).toBe(0);
    }),
  );
});

/** The diffs of a document's history. */
const steps = (doc: Document<number, number, string>, side: 'undo' | 'redo') => doc.history[side].map((e) => e.diff);
