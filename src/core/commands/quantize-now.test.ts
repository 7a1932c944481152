import fc from 'fast-check';
import { smallPart } from '@tests/support/arbitraries';
import { milliseconds, ticks, TICKS_PER_QUARTER as Q } from '../units';
import type { SwingMove } from '../model/feel';
import type { Part } from '../model/part';
import { quantizeNow } from './quantize-now';

const all = (part: Part) => new Set(part.hits.map((h) => h.id));

/** A snare 12 ms after beat 2, a kick on beat 3 that was nudged, a hat 20 ms before the second eighth; 120 BPM. */
const ms = (n: number): number => Math.round((n / 500) * Q);
const base = smallPart([
  ['snare', 1, 90],
  ['kick', 2, 100],
  ['hat-closed', 0.5, 80],
]);
const played: Part = {
  ...base,
  hits: base.hits.map((h) =>
    h.voice === 'snare'
      ? { ...h, tick: ticks(Q + ms(12)) }
      : h.voice === 'kick'
        ? { ...h, nudge: { ms: milliseconds(7), velocity: 5 } }
        : { ...h, tick: ticks(Q / 2 - ms(20)) },
  ),
};

test('hits stand on their lines, nudges in time go and those of velocity stay; the most that any moved', () => {
  const { part, moved, mostMs } = quantizeNow(played, all(played), '1/16');
  expect(part.hits.map((h) => [h.voice, h.tick, h.nudge])).toEqual([
    ['hat-closed', Q / 2, undefined],
    ['snare', Q, undefined],
    ['kick', 2 * Q, { ms: 0, velocity: 5 }],
  ]);
  expect([moved, Math.round(mostMs)]).toEqual([3, 20]);
  expect(part.hits.every((h) => h.placed && h.home === h.tick)).toBe(true);
});

test('a coarser grid pulls by the line that a hit belongs to, not by where it was played', () => {
  const { part } = quantizeNow(played, all(played), '1/4');
  // The second eighth lies between two quarters: ties go to the later.
  expect(part.hits.map((h) => h.tick)).toEqual([Q, Q, 2 * Q]);
});

test('on a swung grid the second lines of pairs stand back, by the swing of their bars', () => {
  const swing = (percent: number, from: number, to: number): SwingMove => ({
    kind: 'swing',
    division: '1/8',
    percent,
    scope: { bars: { from, to } },
  });
  const ticksBy = (swings: SwingMove[]) => quantizeNow(played, all(played), '1/16', swings).part.hits.map((h) => h.tick);
  expect(ticksBy([swing(60, 1, 4)])).toEqual([Math.round(0.6 * Q), Q, 2 * Q]);
  expect(ticksBy([swing(60, 2, 4)])).toEqual([Q / 2, Q, 2 * Q]);
});

test('others stay as they are; quantized twice nothing moves', () => {
  const snare = new Set([played.hits.find((h) => h.voice === 'snare')!.id]);
  const { part, moved } = quantizeNow(played, snare, '1/16');
  expect(moved).toBe(1);
  expect(part.hits.filter((h) => h.voice !== 'snare')).toEqual(played.hits.filter((h) => h.voice !== 'snare'));
  fc.assert(
    fc.property(
      fc.constantFrom('1/8', '1/16', '1/8T', '1/32'),
      fc.array(fc.integer({ min: -ms(60), max: ms(60) }), { minLength: 3, maxLength: 3 }),
      (grid, off) => {
        const loose: Part = { ...base, hits: base.hits.map((h, i) => ({ ...h, tick: ticks(h.tick + off[i]!) })) };
        const once = quantizeNow(loose, all(loose), grid as '1/8');
        expect(quantizeNow(once.part, all(once.part), grid as '1/8')).toEqual({ part: once.part, moved: 0, mostMs: 0 });
      },
    ),
  );
});
