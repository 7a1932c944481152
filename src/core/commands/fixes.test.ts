import { smallPart } from '@tests/support/arbitraries';
import { handsOfPart } from '../analysis/hands-of-part';
import type { Part } from '../model/part';
import { fixConflict, fixesFor } from './fixes';

const first = (part: Part) => handsOfPart(part).conflicts[0]!;
const voices = (part: Part) => part.hits.map((h) => h.voice).sort();

test('three hands: the least important goes, which is what keeps time, else the softest', () => {
  const busy = smallPart([
    ['snare', 0, 100],
    ['crash', 0, 110],
    ['hat-closed', 0, 120],
  ]);
  expect(voices(fixConflict(busy, first(busy), 'leave-out'))).toEqual(['crash', 'snare']);
  const jam = smallPart([
    ['snare', 0, 100],
    ['crash', 0, 110],
    ['tom-floor', 0, 60],
    ['kick', 0, 30],
  ]);
  expect(voices(fixConflict(jam, first(jam), 'leave-out'))).toEqual(['crash', 'kick', 'snare']);
});

test('a hat goes to its pedal, an open one is closed; afterwards it can be played', () => {
  const busy = smallPart([
    ['snare', 0, 100],
    ['crash', 0, 110],
    ['hat-closed', 0, 90],
  ]);
  expect(fixesFor(first(busy)).map((m) => m.kind)).toEqual(['pedal', 'leave-out', 'flam']);
  const pedal = fixConflict(busy, first(busy), 'pedal');
  expect(voices(pedal)).toEqual(['crash', 'hat-pedal', 'snare']);
  expect(pedal.rows.some((r) => r.voice === 'hat-pedal')).toBe(true);
  const open = smallPart([
    ['hat-open', 0, 90],
    ['hat-pedal', 0, 90],
  ]);
  expect(fixesFor(first(open)).map((m) => m.kind)).toEqual(['close', 'leave-out']);
  for (const fixed of [pedal, fixConflict(open, first(open), 'close')]) expect(handsOfPart(fixed).conflicts).toEqual([]);
});

test('three hands: a flam of the weightiest takes both, the others leave, and it can be played', () => {
  const jam = smallPart([
    ['snare', 0, 100],
    ['crash', 0, 90],
    ['hat-closed', 0, 120],
    ['kick', 0, 80],
    ['snare', 1, 90],
  ]);
  const fixed = fixConflict(jam, first(jam), 'flam');
  expect(fixed.hits.map((h) => [h.voice, h.ornament?.kind])).toEqual(
    expect.arrayContaining([
      ['kick', undefined],
      ['snare', 'flam'],
      ['snare', undefined],
    ]),
  );
  expect(fixed.hits).toHaveLength(3);
  expect(handsOfPart(fixed).conflicts).toEqual([]);
  const locked: Part = { ...jam, hits: jam.hits.map((h) => (h.voice === 'crash' ? { ...h, locked: true } : h)) };
  expect(fixConflict(locked, first(locked), 'flam').hits).toEqual(locked.hits);
});

test('a roll is thinned; what is locked stays', () => {
  const part = smallPart([
    ['snare', 0, 100],
    ['snare', 1, 100],
  ]);
  const rolled: Part = {
    ...part,
    hits: part.hits.map((h, i) => (i === 0 ? { ...h, ornament: { kind: 'roll', strokes: 32, speed: 0, to: 1, bend: 0 } } : h)),
  };
  const conflict = first(rolled);
  expect(fixesFor(conflict)[0]?.kind).toBe('thin');
  const thinned = fixConflict(rolled, conflict, 'thin');
  expect(thinned.hits[0]!.ornament).toMatchObject({ strokes: 16 });
  const locked: Part = { ...rolled, hits: rolled.hits.map((h) => ({ ...h, locked: true })) };
  expect(fixConflict(locked, conflict, 'thin').hits).toEqual(locked.hits);
});
