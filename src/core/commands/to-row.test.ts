import fc from 'fast-check';
import { newIds, smallPart } from '@tests/support/arbitraries';
import type { Hit, Part } from '../model/part';
import { copyToRow, moveToRow } from './to-row';

const base = smallPart([
  ['kick', 0, 100],
  ['snare', 1, 90],
  ['snare', 2, 80],
  ['rim', 2, 60],
]);
const snares = new Set(base.hits.filter((h) => h.voice === 'snare').map((h) => h.id));
const told = (part: Part) => part.hits.map((h) => [h.voice, h.tick / 80_640, h.velocity, h.key]);
const rim = base.hits.find((h) => h.voice === 'rim')!.key;

test('hits move to a row with its key, at their times; what stands there is replaced, or they stay', () => {
  const replaced = moveToRow(base, snares, 'rim', 'replace');
  expect(told(replaced.part)).toEqual([
    ['kick', 0, 100, 36],
    ['rim', 1, 90, rim],
    ['rim', 2, 80, rim],
  ]);
  expect([replaced.replaced, replaced.leftOut, new Set(replaced.ids)]).toEqual([1, 0, snares]);
  const joined = moveToRow(base, snares, 'rim', 'join');
  expect(
    told(joined.part)
      .map(([voice, beat]) => `${voice} ${beat}`)
      .sort(),
  ).toEqual(['kick 0', 'rim 1', 'rim 2', 'snare 2']);
  expect([joined.replaced, joined.leftOut]).toEqual([0, 1]);
});

test('copies leave their hits where they are and are free; hits of the row itself are not doubled', () => {
  const locked: Part = { ...base, hits: base.hits.map((h): Hit => (h.voice === 'snare' ? { ...h, locked: true } : h)) };
  const all = new Set(locked.hits.map((h) => h.id));
  const { part, ids } = copyToRow(locked, all, 'rim', 'replace', newIds());
  expect(part.hits.filter((h) => h.voice === 'snare')).toEqual(locked.hits.filter((h) => h.voice === 'snare'));
  expect(part.hits.filter((h) => ids.includes(h.id)).map((h) => [h.voice, h.tick / 80_640, h.locked])).toEqual([
    ['rim', 0, undefined],
    ['rim', 1, undefined],
    ['rim', 2, undefined],
  ]);
  // Locked hits do not move.
  expect(moveToRow(locked, snares, 'rim', 'replace').part).toBe(locked);
});

test('nothing is lost: every hit is there after a move, but those that were replaced', () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.constantFrom('kick', 'snare', 'rim'), fc.nat(7)), { minLength: 1, maxLength: 14 }),
      fc.constantFrom('replace', 'join'),
      (some, onto) => {
        const part = smallPart(some.map(([voice, at]) => [voice, at / 4, 90]));
        const ids = new Set(part.hits.filter((h) => h.voice !== 'rim').map((h) => h.id));
        const { part: moved, replaced } = moveToRow(part, ids, 'rim', onto as 'join');
        expect(moved.hits.length).toBe(part.hits.length - replaced);
        expect(moved.hits.map((h) => h.tick)).toEqual([...moved.hits.map((h) => h.tick)].sort((a, b) => a - b));
      },
    ),
  );
});
