import fc from 'fast-check';
import { partArbitrary } from '@tests/support/arbitraries';
import type { Part } from '../model/part';
import { velocity } from '../units';
import { applyDiff, diffParts, invertDiff, joinDiffs } from './diff';

test('two diffs as one lead where the two lead, and back', () => {
  fc.assert(
    fc.property(partArbitrary, fc.nat(), fc.nat(), (part, a, b) => {
      const second: Part = {
        ...part,
        name: 'second',
        hits: part.hits.flatMap((h, i) =>
          i % 5 === a % 5 ? [] : [i % 3 === a % 3 ? { ...h, velocity: velocity(1 + ((h.velocity + a) % 127)) } : h],
        ),
      };
      const third: Part = {
        ...second,
        name: 'third',
        bars: second.bars + 1,
        hits: second.hits.flatMap((h, i) =>
          i % 4 === b % 4 ? [] : [i % 2 === b % 2 ? { ...h, velocity: velocity(1 + ((h.velocity + b) % 127)) } : h],
        ),
      };
      const joined = joinDiffs(diffParts(part, second)!, diffParts(second, third)!);
      expect(applyDiff(part, joined)).toEqual(third);
      expect(applyDiff(third, invertDiff(joined))).toEqual(part);
    }),
    { numRuns: 60 },
  );
});
