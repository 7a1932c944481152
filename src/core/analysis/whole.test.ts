import fc from 'fast-check';
import { partArbitrary } from '@tests/support/arbitraries';
import { effectOfMove } from '../perform/effect';
import { doubtfulFlags } from '../perform/doubtful';
import { performPart } from '../perform/perform';
import { columnsOfHits } from '../part/columns';
import { phraseOf } from './phrase';
import { measureWhole } from './whole';

test('the whole part says of itself what its parts say one by one; moves that are off have no effect', () => {
  fc.assert(
    fc.property(partArbitrary, (random) => {
      const part = { ...random, feel: { ...random.feel, moves: random.feel.moves.map((m, i) => (i === 1 ? { ...m, on: false } : m)) } };
      const whole = measureWhole(part);
      const performance = performPart(part);
      expect(whole.phrase).toEqual(phraseOf(part, performance, doubtfulFlags(part)));
      expect(whole.strays.flags).toHaveLength(part.hits.length);
      expect(whole.effects).toEqual(part.feel.moves.map((m, i) => (m.on === false ? null : effectOfMove(part, performance, i))));
    }),
    { numRuns: 40 },
  );
});

test('columns say what the hits say, and are made once', () => {
  fc.assert(
    fc.property(partArbitrary, ({ hits }) => {
      const columns = columnsOfHits(hits);
      expect(columnsOfHits(hits)).toBe(columns);
      hits.forEach((h, i) =>
        expect([columns.ticks[i], columns.lengths[i], columns.velocities[i], columns.keys[i], columns.chokes[i]]).toEqual([
          h.tick,
          h.length,
          h.velocity,
          h.key,
          h.choke ? 1 : 0,
        ]),
      );
    }),
    { numRuns: 40 },
  );
});
