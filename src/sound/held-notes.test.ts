import fc from 'fast-check';
import { HeldNotes } from './held-notes';

type Sent = [bytes: readonly number[], page: number];
const setup = () => {
  const sent: Sent[] = [];
  return { sent, notes: new HeldNotes((bytes, page) => sent.push([[...bytes], page])) };
};

test('an end is given when it is nearly due, a stroke of the same key brings it forward', () => {
  const { sent, notes } = setup();
  notes.begin(9, 38, 100, 400);
  notes.endUntil(399);
  expect(sent).toEqual([]);
  notes.begin(9, 38, 250, 300);
  expect(sent).toEqual([[[0x89, 38, 64], 250]]);
  notes.begin(2, 38, 260, 280);
  notes.endUntil(300);
  expect(sent.slice(1)).toEqual([
    [[0x89, 38, 64], 300],
    [[0x82, 38, 64], 280],
  ]);
});

test('what sounds when it is stopped ends then', () => {
  const { sent, notes } = setup();
  notes.begin(9, 36, 0, 1000);
  notes.begin(9, 42, 10, 2000);
  notes.endAll(50);
  notes.endUntil(5000);
  expect(sent).toEqual([
    [[0x89, 36, 64], 50],
    [[0x89, 42, 64], 50],
  ]);
});

test('each note that begins ends once, and never behind the next of its key', () => {
  fc.assert(
    fc.property(
      fc.array(
        fc.record({
          key: fc.integer({ min: 36, max: 38 }),
          gap: fc.integer({ min: 1, max: 200 }),
          length: fc.integer({ min: 1, max: 500 }),
        }),
        { maxLength: 40 },
      ),
      (strokes) => {
        const { sent, notes } = setup();
        let page = 0;
        const begun = strokes.map(({ key, gap, length }) => {
          page += gap;
          notes.endUntil(page);
          notes.begin(9, key, page, page + length);
          return { key, page, end: page + length };
        });
        notes.endUntil(Infinity);
        expect(sent).toHaveLength(strokes.length);
        for (const [i, note] of begun.entries()) {
          const next = begun.slice(i + 1).find((n) => n.key === note.key);
          const expected = Math.min(note.end, next?.page ?? Infinity);
          expect(sent.some(([[, key], at]) => key === note.key && at === expected)).toBe(true);
        }
      },
    ),
  );
});
