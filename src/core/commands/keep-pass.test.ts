import fc from 'fast-check';
import { newIds, partArbitrary, smallPart } from '@tests/support/arbitraries';
import { EMPTY_FEEL } from '../model/feel';
import type { Part } from '../model/part';
import { performPart } from '../perform/perform';
import { TICKS_PER_QUARTER } from '../units';
import { soundingPart } from '../song/sounding';
import { keptPass } from './keep-pass';

const notes = (part: Part, of = performPart(part)) =>
  part.hits
    .map((h, i) => [h.voice, Math.floor((of.ticks[i] as number) + 0.5), of.velocities[i]] as const)
    .sort((a, b) => a[1] - b[1] || (a[0] < b[0] ? -1 : 1) || (a[2] as number) - (b[2] as number));

test('a pass that is kept sounds as it sounded, in every pass', () => {
  fc.assert(
    fc.property(partArbitrary, fc.integer({ min: 1, max: 9 }), (random, pass) => {
      const plain: Part = {
        ...random,
        hits: random.hits.map(({ ornament: _ornament, ...h }, i) => ({
          ...h,
          ...(i % 3 === 0 ? { chance: 50 } : i % 3 === 1 ? { passes: { every: 2, at: [1] } } : {}),
        })),
      };
      const kept = keptPass(plain, { from: 0, to: 1, pass }, newIds());
      const bar = (plain.meter[0]!.numerator * 4 * TICKS_PER_QUARTER) / plain.meter[0]!.denominator;
      const sounding = soundingPart(plain, pass);
      expect(notes(kept)).toEqual(notes(sounding, performPart({ ...sounding, round: { pass, shift: (pass - 1) * bar } })));
      expect(kept.hits.some((h) => h.chance || h.passes)).toBe(false);
      expect(kept.feel).toEqual({ ...EMPTY_FEEL, seed: plain.feel.seed });
    }),
    { numRuns: 60 },
  );
});

test('what came round in it stands there as hits of its own', () => {
  const part: Part = { ...smallPart([['kick', 0, 100]]), rows: [{ voice: 'kick', cycle: { grid: '1/8', steps: 3 } }] };
  const kept = keptPass(part, { from: 0, to: 1, pass: 2 }, newIds());
  expect(kept.hits.map((h) => [h.id, h.tick / 20_160])).toEqual([
    ['h0', 0],
    ['n0', 6],
    ['n1', 12],
  ]);
  expect(kept.rows).toEqual([{ voice: 'kick' }]);
});

test('muted hits stay muted in their places', () => {
  const base = smallPart([
    ['kick', 0, 100],
    ['snare', 1, 90],
  ]);
  const part: Part = { ...base, hits: base.hits.map((h) => (h.voice === 'snare' ? { ...h, muted: true, chance: 50 } : h)) };
  const kept = keptPass(part, { from: 0, to: 1, pass: 1 }, newIds());
  const snare = part.hits.find((h) => h.voice === 'snare')!;
  const { chance: _chance, ...plain } = snare;
  expect(kept.hits.find((h) => h.voice === 'snare')).toEqual(plain);
  expect(kept.hits.length).toBe(2);
});
