import fc from 'fast-check';
import { partArbitrary, smallPart } from '@tests/support/arbitraries';
import { HOUSE_GROOVES } from '../groove/house-grooves';
import { sampleGroove } from '../groove/sample';
import { homesOf } from '../homes/homes';
import { performPart } from '../perform/perform';
import { milliseconds } from '../units';
import { placementOf } from './placement';
import { playedByGroove } from './played-by-groove';

const groove = HOUSE_GROOVES.find((g) => g.beats === 4 && g.stepsPerBeat === 4)!;

test('each hit leans as the groove says of its place, and nothing done by hand is left', () => {
  const part = smallPart(Array.from({ length: 16 }, (_, i) => ['hat-closed', i / 4, 60 + i] as const));
  const nudged = { ...part, hits: part.hits.map((h) => ({ ...h, nudge: { ms: milliseconds(9), velocity: -20 } })) };
  const found = placementOf(playedByGroove(nudged, groove));
  // At 120 BPM a quarter is 500 ms.
  Array.from(found.leans).forEach((lean, i) => expect(lean).toBeCloseTo(sampleGroove(groove, i / 4, 'hat-closed')!.offset * 500, 1));
  // The row's mean velocity, 67.5 rounded up, times the step's level.
  Array.from(found.velocities).forEach((v, i) =>
    expect(Math.abs(v - Math.min(127, 68 * sampleGroove(groove, i / 4, 'hat-closed')!.level))).toBeLessThanOrEqual(0.5),
  );
});

test('the lines of hits stay, whatever they are', () => {
  fc.assert(
    fc.property(partArbitrary, (part) => {
      const played = playedByGroove(part, groove);
      expect(played.hits.map((h) => [h.id, h.voice])).toEqual(part.hits.map((h) => [h.id, h.voice]));
      expect([...homesOf(played).ticks]).toEqual([...homesOf(part).ticks]);
      expect(performPart(played).ticks).toHaveLength(part.hits.length);
    }),
    { numRuns: 300 },
  );
});
