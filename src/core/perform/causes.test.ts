import fc from 'fast-check';
import { partArbitrary, smallPart } from '@tests/support/arbitraries';
import { EMPTY_FEEL } from '../model/feel';
import { milliseconds, ticks } from '../units';
import { causesOf } from './causes';
import { leanOf, performPart } from './perform';

test('a snare laid back by 11 ms and nudged by 6 is 17 late, for these two reasons', () => {
  const part = smallPart([['snare', 1, 90]], { feel: { ...EMPTY_FEEL, moves: [{ kind: 'lay', ms: 11 }] } });
  const nudged = { ...part, hits: part.hits.map((h) => ({ ...h, nudge: { ms: milliseconds(6), velocity: -3 } })) };
  expect(causesOf(nudged, 0).map((c) => [c.of, Number(c.ms.toFixed(3)), c.velocity])).toEqual([
    [0, 11, 0],
    ['hand', 6, -3],
  ]);
});

test('swing moves the line with the hit: it is no cause of a lean; what was written off the line is', () => {
  const part = smallPart([['hat-closed', 0.5, 90]], { feel: { ...EMPTY_FEEL, moves: [{ kind: 'swing', division: '1/8', percent: 66 }] } });
  expect(causesOf(part, 0)).toEqual([]);
  // 20 ticks of 960 at 120 BPM are 10.4 ms.
  const late = smallPart([['hat-closed', 1, 90]]);
  const off = { ...late, hits: late.hits.map((h) => ({ ...h, tick: ticks(h.tick + 20 * (h.tick / 960 || 1)) })) };
  const [cause] = causesOf(off, 0);
  expect([cause?.of, cause?.ms]).toEqual(['written', expect.closeTo(leanOf(off, performPart(off), 0), 6)]);
});

test('the causes of any hit add up to its lean', () => {
  fc.assert(
    fc.property(partArbitrary, fc.nat(), (part, n) => {
      fc.pre(part.hits.length > 0);
      const alone = { ...part, hits: [part.hits[n % part.hits.length]!] };
      const sum = causesOf(alone, 0).reduce((a, c) => a + c.ms, 0);
      expect(Math.abs(sum - leanOf(alone, performPart(alone), 0))).toBeLessThan(1);
    }),
    { numRuns: 60 },
  );
});
