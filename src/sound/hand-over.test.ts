import type { Versions } from '@/core/playback/player';
import { makeProgram } from '@/core/playback/program';
import { performPart } from '@/core/perform/perform';
import { ticks, TICKS_PER_QUARTER } from '@/core/units';
import { smallPart } from '@tests/support/arbitraries';
import { handOver } from './hand-over';

const part = smallPart([
  ['kick', 0, 100],
  ['snare', 1, 90],
]);
const program = makeProgram(
  part,
  performPart(part),
  { start: ticks(0), end: ticks(4 * TICKS_PER_QUARTER), loop: true },
  (h) => Number(h.id.slice(1)),
  () => 0,
);

test('what is handed over is the same, in memory of its own: the page keeps what it has', () => {
  const versions: Versions = { performed: program, written: program, gains: { written: 0.5 } };
  const { versions: handed, transfer } = handOver(versions);
  expect(handed).toEqual(versions);
  expect(handed.performed.index).toEqual(program.index);
  // As a message does it: all that is listed goes, and nothing of the page's own is among it.
  structuredClone(handed, { transfer });
  expect(handed.performed.offsets).toHaveLength(0);
  expect(handed.written.index.order).toHaveLength(0);
  expect([...program.offsets]).toEqual([0, 0.5]);
});
