import { NamedError } from '@/core/errors';
import { smallPart } from '@tests/support/arbitraries';
import type { FinishedEdit } from './part-store';
import { Saver, type SaveState } from './saver';

const after = smallPart([['kick', 0, 100]]);
const edit = (label: string): FinishedEdit => ({ label, diff: { removed: [], added: [], fields: {} }, after, step: 'do' });
const settle = () => new Promise((done) => setImmediate(done));

function saver() {
  const written: [number, string[]][] = [];
  const states: string[] = [];
  const now = { refuse: null as NamedError | null, answer: () => {} };
  let hold: Promise<void> | null = null;
  const it = new Saver(
    {
      saveEdits: async (_id, seq, edits) => {
        await hold;
        if (now.refuse) throw now.refuse;
        written.push([seq, edits.map((e) => e.label)]);
      },
    },
    'x',
    7,
    (s: SaveState) => states.push(s.kind === 'failed' ? s.error.code : s.kind),
  );
  const pause = () => (hold = new Promise((done) => (now.answer = done)));
  return { it, written, states, now, pause };
}

test('what waits while the store is busy is written together, and "saved" is said only then', async () => {
  const { it, written, states, now, pause } = saver();
  pause();
  for (const label of ['a', 'b', 'c', 'd']) it.save(edit(label));
  await settle();
  expect(states).toEqual(['saving']);
  now.answer();
  await settle();
  expect(written).toEqual([[8, ['a']], [9, ['b', 'c', 'd']]]);
  expect(states).toEqual(['saving', 'saved']);
});

test('edits wait in order after a refusal and are written when tried again', async () => {
  const { it, written, states, now } = saver();
  now.refuse = new NamedError('store-full');
  it.save(edit('a'));
  await settle();
  it.save(edit('b'));
  await settle();
  expect(written).toEqual([]);
  now.refuse = null;
  it.retry();
  await settle();
  expect(written).toEqual([[8, ['a', 'b']]]);
  expect(states).toEqual(['saving', 'store-full', 'saving', 'saved']);
});

test('another tab’s edit or deletion is told at once; our own is not taken for one', async () => {
  const { it, written, states, now, pause } = saver();
  pause();
  it.save(edit('a'));
  it.hear(8);
  now.answer();
  await settle();
  it.hear(8);
  expect(states).toEqual(['saving', 'saved']);
  it.hear(null);
  it.save(edit('b'));
  await settle();
  expect([states.at(-1), written.length]).toEqual(['deleted-elsewhere', 1]);
  // Put back as it was: all goes on.
  it.hear(8);
  await settle();
  expect(written.at(-1)).toEqual([9, ['b']]);
  it.hear(11);
  expect(states.at(-1)).toBe('changed-elsewhere');
});

test('let go: what waits is forgotten, and nothing more is written', async () => {
  const { it, written, states, now } = saver();
  now.refuse = new NamedError('changed-elsewhere');
  it.save(edit('a'));
  await settle();
  it.letGo();
  now.refuse = null;
  it.retry();
  it.save(edit('b'));
  await settle();
  expect([written, states.at(-1)]).toEqual([[], 'saved']);
});
