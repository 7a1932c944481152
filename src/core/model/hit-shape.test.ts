import fc from 'fast-check';
import { partArbitrary } from '@tests/support/arbitraries';
import { shapedHit, withShapedHits } from './hit-shape';
import type { Hit } from './part';

const orderOf = (hit: Hit): string => Object.keys(hit).join();

test('a hit in shape is the same hit, however its members came, and equal members come in one order', () => {
  fc.assert(
    fc.property(partArbitrary, (part) => {
      for (const hit of part.hits) {
        const backwards = Object.fromEntries(Object.entries(hit).reverse()) as unknown as Hit;
        expect(shapedHit(backwards)).toEqual(hit);
        expect(orderOf(shapedHit(backwards))).toBe(orderOf(shapedHit(hit)));
      }
    }),
  );
});

test('a member is changed, added or left out', () => {
  fc.assert(
    fc.property(partArbitrary, (part) => {
      for (const hit of part.hits) {
        expect(shapedHit(hit, { locked: true, nudge: undefined })).toEqual({ ...hit, locked: true, nudge: undefined });
        expect('nudge' in shapedHit(hit, { nudge: undefined })).toBe(false);
      }
    }),
  );
});

test('hits that were there before stay the very same objects; others are equal', () => {
  fc.assert(
    fc.property(partArbitrary, (part) => {
      const after = { ...part, hits: part.hits.map((hit, i) => (i % 2 ? { ...hit, ghost: true } : hit)) };
      const shaped = withShapedHits(part, after);
      expect(shaped).toEqual(after);
      shaped.hits.forEach((hit, i) => expect(hit === part.hits[i]).toBe(i % 2 === 0));
    }),
  );
});
