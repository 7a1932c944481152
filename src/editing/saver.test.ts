import { NamedError } from '@/core/errors';
import { smallPart } from '@tests/support/arbitraries';
import { Saver, type FinishedEdit, type SaveState } from './saver';

const after = smallPart([['kick', 0, 100]]);
const edit = (label: string): FinishedEdit => ({ label, diff: { removed: [], added: [], fields: {} }, after, step: 'do' });
const settle = () => new Promise((done) => setImmediate(done));

/** A store that keeps numbers and labels: its answers can be held back or be refusals. */
function saver() {
  const kept = new Map<number, string>();
  const rows: number[] = [];
  const states: string[] = [];
  const back: (() => void)[] = [];
  const unchosen: { part: unknown; steps: readonly string[] }[] = [];
  const now = { refuse: null as NamedError | null, refuseRow: null as NamedError | null, answer: () => {} };
  let hold: Promise<void> | null = null;
  const it = new Saver(
    {
      appendEdits: async (_id, seq, edits) => {
        const { refuse } = now;
        if (!refuse) edits.forEach((e, i) => kept.set(seq + i, e.label));
        await hold;
        if (refuse) throw refuse;
      },
      settleHead: async (_id, _seq, last) => {
        if (now.refuseRow) throw now.refuseRow;
        rows.push(last);
      },
      dropEdits: async (_id, seq, last) => {
        for (let i = seq; i <= last; i++) kept.delete(i);
      },
      whenBack: (hear) => void back.push(hear),
      keepUnchosen: (_id, part, steps) => void unchosen.push({ part, steps }),
      dropUnchosen: () => void unchosen.splice(0),
    },
    'x',
    7,
    (s: SaveState) => states.push(s.kind === 'failed' ? s.error.code : s.kind),
  );
  const pause = () => (hold = new Promise((done) => (now.answer = done)));
  return { it, kept, rows, states, now, pause, back, unchosen };
}

test('each edit is handed over at once; "saved" is said when the row is up to all of them', async () => {
  const { it, kept, rows, states, now, pause } = saver();
  void pause();
  for (const label of ['a', 'b', 'c', 'd']) it.save(edit(label));
  expect([...kept]).toEqual([
    [8, 'a'],
    [9, 'b'],
    [10, 'c'],
    [11, 'd'],
  ]);
  await settle();
  expect([states, rows]).toEqual([['saving'], []]);
  now.answer();
  await settle();
  expect([states, rows]).toEqual([['saving', 'saved'], [11]]);
});

test('an edit behind a refused one is taken out again, and both are written when tried again', async () => {
  const { it, kept, rows, now } = saver();
  now.refuse = new NamedError('store-full');
  it.save(edit('a'));
  now.refuse = null;
  it.save(edit('b'));
  expect([...kept]).toEqual([[9, 'b']]);
  await settle();
  expect([kept.size, rows]).toEqual([0, []]);
  it.save(edit('c'));
  it.retry();
  await settle();
  expect([[...kept], rows]).toEqual([
    [
      [8, 'a'],
      [9, 'b'],
      [10, 'c'],
    ],
    [10],
  ]);
});

test('another tab went on from an edit that had arrived: it stays, and only what came after is held back', async () => {
  const { it, kept, rows, states, now } = saver();
  it.save(edit('a'));
  // The other tab has read a, and has written its own edit 9.
  kept.set(9, 'theirs');
  now.refuse = new NamedError('changed-elsewhere');
  it.save(edit('b'));
  await settle();
  expect([[...kept], rows, states.at(-1)]).toEqual([
    [
      [8, 'a'],
      [9, 'theirs'],
    ],
    [8],
    'changed-elsewhere',
  ]);
});

test('edits wait in order after a refusal and are written when tried again', async () => {
  const { it, kept, states, now } = saver();
  now.refuse = new NamedError('store-full');
  it.save(edit('a'));
  await settle();
  it.save(edit('b'));
  await settle();
  expect(kept.size).toBe(0);
  now.refuse = null;
  it.retry();
  await settle();
  expect([...kept.values()]).toEqual(['a', 'b']);
  expect(states).toEqual(['saving', 'store-full', 'saving', 'saved']);
});

test('another tab’s edit or deletion is told at once; our own is not taken for one', async () => {
  const { it, kept, states, now, pause } = saver();
  void pause();
  it.save(edit('a'));
  it.hear(8);
  now.answer();
  await settle();
  it.hear(8);
  expect(states).toEqual(['saving', 'saved']);
  it.hear(null);
  it.save(edit('b'));
  await settle();
  expect([states.at(-1), kept.size]).toEqual(['deleted-elsewhere', 1]);
  // Put back as it was: all goes on.
  it.hear(8);
  await settle();
  expect([...kept]).toEqual([
    [8, 'a'],
    [9, 'b'],
  ]);
  it.hear(11);
  expect(states.at(-1)).toBe('changed-elsewhere');
});

test('let go: what waits is forgotten, and nothing more is written', async () => {
  const { it, kept, states, now } = saver();
  now.refuse = new NamedError('changed-elsewhere');
  it.save(edit('a'));
  await settle();
  it.letGo();
  now.refuse = null;
  it.retry();
  it.save(edit('b'));
  await settle();
  expect([kept.size, states.at(-1)]).toEqual([0, 'saved']);
});

test('what was refused for room is tried again without a word, until it arrives', async () => {
  const { it, kept, states, now, back } = saver();
  now.refuse = new NamedError('store-lost');
  it.save(edit('a'));
  await settle();
  back.shift()!();
  await settle();
  it.save(edit('b'));
  expect([states, back.length]).toEqual([['saving', 'store-lost'], 1]);
  now.refuse = null;
  back.shift()!();
  await settle();
  expect([states, [...kept], back.length]).toEqual([
    ['saving', 'store-lost', 'saved'],
    [
      [8, 'a'],
      [9, 'b'],
    ],
    0,
  ]);
  // A call that comes too late changes nothing.
  it.save(edit('c'));
  await settle();
  expect([...kept.values()]).toEqual(['a', 'b', 'c']);
});

test('where another tab went on, what stands here is kept at once and with each further edit, until one is chosen', async () => {
  const { it, now, unchosen, back } = saver();
  now.refuse = new NamedError('changed-elsewhere');
  it.save(edit('a'));
  await settle();
  const later = smallPart([['snare', 1, 50]]);
  it.save({ ...edit('b'), after: later });
  expect(unchosen).toEqual([
    { part: after, steps: ['a'] },
    { part: later, steps: ['a', 'b'] },
  ]);
  expect(back).toEqual([]);
  it.goOnFrom(12);
  expect(unchosen).toEqual([]);
});

test('what is tried again waits until what was written behind the refusal is out of the store', async () => {
  const { it, kept, now } = saver();
  let release = () => {};
  const taken = new Promise<void>((done) => (release = done));
  const store = (it as unknown as { store: { dropEdits: (id: string, seq: number, last: number) => Promise<void> } }).store;
  const drop = store.dropEdits.bind(store);
  store.dropEdits = async (id, seq, last) => {
    await taken;
    return drop(id, seq, last);
  };
  now.refuse = new NamedError('store-full');
  it.save(edit('a'));
  now.refuse = null;
  it.save(edit('b'));
  await settle();
  // Taking edit 9 out is under way: written now, it would be taken out again.
  it.retry();
  it.save(edit('c'));
  await settle();
  expect([...kept]).toEqual([[9, 'b']]);
  release();
  await settle();
  await it.idle;
  await settle();
  expect([...kept]).toEqual([
    [8, 'a'],
    [9, 'b'],
    [10, 'c'],
  ]);
});
