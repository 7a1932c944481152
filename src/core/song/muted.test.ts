import fc from 'fast-check';
import { partArbitrary } from '@tests/support/arbitraries';
import { setMuted } from '../commands/marks';
import { removeHits } from '../commands/hits';
import { bake } from '../commands/moves';
import type { Part } from '../model/part';
import { makeProgram } from '../playback/program';
import { exportPart } from '../smf/export-part';
import { endOfPart } from '../part/part-time';
import { roundHalfUp } from '../units';
import { playedPart } from './played';

const some = (part: Part, chosen: readonly number[]) => new Set(part.hits.filter((_, i) => chosen.includes(i)).map((h) => h.id));

/** What sounds of a program, without the numbers that name its hits. */
function sounds(part: Part) {
  const { part: played, performance } = playedPart(part);
  const range = { start: played.origin, end: endOfPart(played), loop: true };
  const { offsets, velocities, dice } = makeProgram(
    played,
    performance,
    range,
    () => 0,
    () => 0,
  );
  return [...offsets].map((offset, i) => [offset, velocities[i], dice[i]]);
}

test('muted hits are neither heard nor exported, and the part is as without them; unmuted it is as before', () => {
  fc.assert(
    fc.property(partArbitrary, fc.array(fc.nat(20), { maxLength: 8 }), (part, chosen) => {
      const ids = some(part, chosen);
      const muted = setMuted(part, ids, true);
      const without = removeHits(part, ids);
      expect(sounds(muted)).toEqual(sounds(without));
      expect(exportPart(muted).bytes).toEqual(exportPart(without).bytes);
      expect(muted.hits.length).toBe(part.hits.length);
      expect(setMuted(muted, ids, false)).toEqual(part);
    }),
  );
});

/** What is performed, to the tick. */
function struck(part: Part) {
  const { part: played, performance } = playedPart(part);
  return played.hits.map((h, i) => [h.id, roundHalfUp(performance.ticks[i]!), performance.velocities[i]]).sort();
}

test('committing the feel leaves what is heard as it was, whatever is muted', () => {
  fc.assert(
    fc.property(partArbitrary, fc.array(fc.nat(20), { maxLength: 8 }), (part, chosen) => {
      const muted = setMuted(part, some(part, chosen), true);
      const committed = bake(muted);
      expect(struck(committed)).toEqual(struck(muted));
      expect(committed.hits.filter((h) => h.muted).length).toBe(muted.hits.filter((h) => h.muted).length);
    }),
  );
});
