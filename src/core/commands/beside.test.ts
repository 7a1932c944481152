import fc from 'fast-check';
import { smallPart } from '@tests/support/arbitraries';
import { endOfPart } from '../part/part-time';
import { rowsBeside } from './beside';

let n = 0;
const newId = () => `new-${n++}`;
const part = smallPart(
  [
    ['kick', 0, 100],
    ['snare', 1, 90],
  ],
  { bars: 1 },
);

test('rows of the same voice become further rows with keys of their own; others keep theirs', () => {
  const other = smallPart(
    [
      ['snare', 1, 80],
      ['shaker', 0.5, 70],
    ],
    { bars: 1 },
  );
  const both = rowsBeside(part, other, 0, newId);
  expect(both.hits.map((h) => [h.voice, h.tick / 20160 / 4, h.velocity])).toEqual([
    ['kick', 0, 100],
    ['shaker', 0.5, 70],
    ['snare', 1, 90],
    ['snare:2', 1, 80],
  ]);
  const keys = new Map(both.hits.map((h) => [h.voice, h.key]));
  expect(new Set(keys.values()).size).toBe(4);
  expect(part.hits.every((h) => both.hits.includes(h))).toBe(true);
});

test('a longer part makes it grow; a later bar takes it there', () => {
  const other = smallPart(
    [
      ['shaker', 0, 70],
      ['shaker', 7, 70],
    ],
    { bars: 2 },
  );
  expect(rowsBeside(part, other, 0, newId).bars).toBe(2);
  const later = rowsBeside({ ...part, bars: 2 }, other, 1, newId);
  expect([later.bars, later.hits.filter((h) => h.voice === 'shaker').map((h) => h.tick / 20160 / 4)]).toEqual([3, [4, 11]]);
});

test('nothing of the part changes, and every hit of the other is there once (property)', () => {
  const voices = fc.constantFrom('kick', 'snare', 'hat-closed', 'shaker');
  const hits = fc.uniqueArray(fc.tuple(voices, fc.integer({ min: 0, max: 15 }), fc.integer({ min: 1, max: 127 })), {
    maxLength: 20,
    selector: ([v, s]) => `${v} ${s}`,
  });
  fc.assert(
    fc.property(hits, hits, (a, b) => {
      const one = smallPart(
        a.map(([v, s, vel]) => [v, s / 4, vel]),
        { bars: 1 },
      );
      const other = smallPart(
        b.map(([v, s, vel]) => [v, s / 4, vel]),
        { bars: 1 },
      );
      const both = rowsBeside(one, other, 0, newId);
      expect(both.hits.length).toBe(one.hits.length + other.hits.length);
      expect(one.hits.every((h) => both.hits.includes(h))).toBe(true);
      expect(endOfPart(both)).toBe(endOfPart(one));
    }),
  );
});
