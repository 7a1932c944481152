import { smallPart } from '@tests/support/arbitraries';
import { handsOfHits } from '../hands/of-hits';
import { performPart } from '../perform/perform';

/** Sixteenths at 120 BPM, 125 ms apart: hand to hand. */
const sixteenths = smallPart(Array.from({ length: 8 }, (_, i) => ['snare', i / 4, 100] as const));

test('the leading hand is louder than the other; feet and times stay', () => {
  const kicked = smallPart([...sixteenths.hits.map((h) => [h.voice, h.tick / 80640, 100] as const), ['kick', 0, 100] as const]);
  const felt = performPart({ ...kicked, feel: { ...kicked.feel, moves: [{ kind: 'hands', lead: 1.1, weak: 0.9, firstOfTwo: 1 }] } });
  expect(kicked.hits.map((h, i) => [h.voice, felt.velocities[i]])).toEqual(
    kicked.hits.map((h) => [h.voice, h.voice === 'kick' ? 100 : (h.tick / 80640) % 0.5 === 0 ? 110 : 90]),
  );
  expect([...felt.ticks]).toEqual(kicked.hits.map((h) => h.tick));
});

test('of two by one hand the first is louder', () => {
  // At 250 ms apart, on eighths, the leading hand plays them all: the first of the row begins a double.
  const eighths = smallPart(Array.from({ length: 4 }, (_, i) => ['hat-closed', i / 2, 100] as const));
  expect([...handsOfHits(eighths).hands]).toEqual([1, 1, 1, 1]);
  expect([...handsOfHits(eighths).firstOfTwo]).toEqual([1, 0, 0, 0]);
  const felt = performPart({ ...eighths, feel: { ...eighths.feel, moves: [{ kind: 'hands', lead: 1, weak: 1, firstOfTwo: 1.2 }] } });
  expect([...felt.velocities]).toEqual([120, 100, 100, 100]);
});
