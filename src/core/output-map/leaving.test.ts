import { smallPart } from '@tests/support/arbitraries';
import { exportPart } from '../smf/export-part';
import { NO_TARGET } from '../model/output-map';
import type { Part } from '../model/part';
import { tracksOf } from '@tests/support/read-midi';
import { channelFor, keysFor, keysOfRows, velocityFor } from './leaving';

const part = smallPart([
  ['kick', 0, 100],
  ['snare', 1, 90],
  ['hat-closed', 2, 80],
  ['crash', 3, 70],
]);
/** Rows from the top of the Bench down. */
const rows = part.rows.map((r) => r.voice);

test('one key after another, from the lowest row up; none is over 127', () => {
  const from = (first: number) => rows.map((row) => keysFor(part, { keys: { kind: 'chromatic', from: first } })(row, 35));
  expect(from(60)).toEqual([63, 62, 61, 60]);
  expect(from(126)).toEqual([127, 127, 127, 126]);
  expect(from(127)).toEqual([127, 127, 127, 127]);
});

test('rows of breaks have no key elsewhere: they take none of those that follow one another', () => {
  const broken: Part = {
    ...part,
    breaks: [{ id: 'b', pieces: [] }] as never,
    rows: part.rows.map((r) => (r.voice === 'snare' ? { ...r, plays: { break: 'b' } as never } : r)),
  };
  const keyOf = keysFor(broken, { keys: { kind: 'chromatic', from: 60 } });
  expect([keyOf('kick', 35), keyOf('snare', 99), keyOf(rows[1]!, 35)]).toEqual([60, 99, 62 - Number(rows[1] !== 'crash')]);
  expect(Object.keys(keysOfRows(broken, { keys: { kind: 'hits' } }))).not.toContain('snare');
});

test('a named row has its key; its voice, then what stands for it; others keep theirs', () => {
  const keyOf = keysFor(part, { keys: { kind: 'rows', rows: { 'hat-closed': 22, snare: 31 } } });
  expect([keyOf('snare', 38), keyOf('hat-closed', 42), keyOf('kick', 36)]).toEqual([31, 22, 36]);
  // A second row of the snare is the snare.
  expect(keyOf('snare:40', 40)).toBe(31);
});

test('as the hits are, or as General MIDI has them', () => {
  expect(keysFor(part, { keys: { kind: 'hits' } })('kick', 35)).toBe(35);
  const general = keysFor(part, { keys: { kind: 'general-midi' } });
  expect([general('kick', 35), general('kick', 36), general('kick', 99)]).toEqual([35, 36, 36]);
});

test('a row’s own channel comes first, then that of all rows of its voice, then the map’s', () => {
  const map = { channel: 10, channels: { kick: 2, 'snare:*': 3 } };
  expect(['kick', 'snare', 'snare:40', 'crash'].map((row) => channelFor(map, row))).toEqual([2, 3, 3, 10]);
});

test('velocities go through the curve and stay within 1 to 127', () => {
  expect([1, 64, 127].map((v) => velocityFor({ curve: { power: 1, floor: 20, ceiling: 100 } }, v))).toEqual([20, 60, 100]);
});

test('a pitch written as other keys stays within 0 to 127', () => {
  const pitched: Part = {
    ...part,
    target: { ...NO_TARGET, keys: { kind: 'chromatic', from: 120 } },
    hits: part.hits.map((h, i) => ({ ...h, pitch: i === 0 ? -24 : 24 })),
  };
  const keys = tracksOf(exportPart(pitched, { pitch: 'keys' }).bytes)
    .flat()
    .flatMap((e) => (e.type === 'noteOn' ? [e.noteNumber] : []));
  expect(Math.max(...keys)).toBe(127);
  expect(Math.min(...keys)).toBe(96);
});
