import type { PartDiff } from '@/core/part/diff';
import { smallPart } from '@tests/support/arbitraries';
import { Follower } from './follow';
import type { KeptStep } from './history';
import { Saver } from './saver';
import { mayBeHalfDone, settleAll } from './settle';

const settle = () => new Promise((done) => setImmediate(done));
const after = smallPart([['kick', 0, 100]]);
const step = (label: string): KeptStep<PartDiff> => ({ label, diff: { removed: [], added: [], fields: {} } });

/** A follower of a store that has edits up to a number, the first of them perhaps gone. */
function follower({ gone = 0 } = {}) {
  const now = { free: true, taken: [] as string[], reread: 0, asked: [] as [number, number][], answer: Promise.resolve() };
  const saver = new Saver(
    { appendEdits: () => new Promise(() => {}), settleHead: async () => {}, dropEdits: async () => {} },
    'x',
    3,
    () => {},
  );
  const it = new Follower(
    {
      editsFrom: async (_id, first, last) => {
        now.asked.push([first, last]);
        await now.answer;
        if (first <= gone) throw new Error('gone');
        return Array.from({ length: last - first + 1 }, (_, i) => step(`edit ${first + i}`));
      },
    },
    'x',
    () => saver,
    { isFree: () => now.free, take: (steps) => now.taken.push(...steps.map((s) => s.label)), reread: () => void now.reread++ },
  );
  return { it, saver, now };
}

test('edits are taken once and in their order, whatever is heard meanwhile', async () => {
  const { it, saver, now } = follower();
  let open = () => {};
  now.answer = new Promise((done) => (open = done));
  it.hear(5);
  it.hear(7);
  it.hear(6);
  open();
  await settle();
  expect(now.taken).toEqual(['edit 4', 'edit 5', 'edit 6', 'edit 7']);
  expect(saver.common).toBe(7);
  it.hear(7);
  await settle();
  expect([now.taken.length, now.asked]).toEqual([
    4,
    [
      [4, 5],
      [6, 7],
    ],
  ]);
});

test('while something is half done nothing is taken; what begins while edits are read stops them, too', async () => {
  const { it, now } = follower();
  now.free = false;
  it.hear(4);
  await settle();
  expect(now.asked).toEqual([]);
  let open = () => {};
  now.answer = new Promise((done) => (open = done));
  now.free = true;
  void it.goOn();
  now.free = false;
  open();
  await settle();
  expect(now.taken).toEqual([]);
  now.free = true;
  await it.goOn();
  expect(now.taken).toEqual(['edit 4']);
});

test('where edits are gone the whole is read again; where something waits to be saved nothing is', async () => {
  const { it, now } = follower({ gone: 4 });
  it.hear(6);
  await settle();
  expect([now.taken, now.reread]).toEqual([[], 1]);
  const other = follower();
  other.saver.save({ label: 'mine', diff: step('mine').diff, after, step: 'do' });
  other.it.hear(4);
  await settle();
  expect([other.now.taken, other.now.reread, other.saver.common]).toEqual([[], 0, 3]);
});

test('before a page is loaded anew all that is half done is kept; a reason not to stops it', () => {
  const done: string[] = [];
  const stops = [mayBeHalfDone(() => (done.push('drag'), null)), mayBeHalfDone(() => 'A take is being recorded.')];
  expect(settleAll()).toBe('A take is being recorded.');
  stops[1]!();
  expect([settleAll(), done]).toEqual([null, ['drag', 'drag']]);
  stops[0]!();
  expect([settleAll(), done.length]).toEqual([null, 2]);
});
