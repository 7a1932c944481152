import { writtenPerformance } from '@/core/perform/perform';
import { makeProgram, type Program } from '@/core/playback/program';
import { Sequencer } from '@/core/playback/sequencer';
import type { Hit, Part } from '@/core/model/part';
import { seconds, ticks, TICKS_PER_QUARTER } from '@/core/units';
import { smallPart } from '@tests/support/arbitraries';
import { NoteSender } from './note-sender';

const RATE = 44_100;
const part = smallPart([
  ['kick', 0, 100],
  ['snare', 1, 90],
  ['kick', 2.5, 80],
  ['snare', 3.75, 70],
]);
const programOf = (p: Part): Program =>
  makeProgram(
    p,
    writtenPerformance(p),
    { start: ticks(0), end: ticks(4 * TICKS_PER_QUARTER), loop: true },
    (h: Hit) => Number(h.id.slice(1)),
    () => 0,
  );

/** What the audio thread would start, in small blocks. */
function played(program: Program, anchor: number, until: number): [number, number][] {
  const s = new Sequencer(RATE);
  s.setProgram(program, 0);
  s.play(program.startTick, anchor - RATE / 10);
  const found: [number, number][] = [];
  for (let f = anchor - RATE / 10; f < until; f += 128) found.push(...s.advance(f, 128).map((o): [number, number] => [o.slot, o.frame]));
  return found;
}

test('gives each note once, well ahead, at the frame at which the audio thread starts it, whatever holds the page up', () => {
  const program = programOf(part);
  const sender = new NoteSender(RATE);
  const given: [number, number][] = [];
  const anchor = 10_000;
  // Looks at uneven times, once after being held up for 150 ms.
  for (let now = 0, i = 0; now < 6; now += [0.02, 0.033, 0.15, 0.016][i++ % 4]!) {
    for (const n of sender.due({ program, anchorFrame: anchor }, seconds(now))) {
      given.push([n.slot, Math.round(n.at * RATE)]);
      expect(n.at).toBeGreaterThan(now - 1e-9);
    }
  }
  const wanted = played(program, anchor, 6 * RATE);
  expect(given.slice(0, wanted.length)).toEqual(wanted);
  expect(sender.due(null, seconds(7))).toEqual([]);
});

test('an edit reaches the notes that are not given yet, and nothing comes twice', () => {
  const sender = new NoteSender(RATE);
  const louder = programOf({ ...part, hits: part.hits.map((h) => ({ ...h, velocity: 127 as typeof h.velocity })) });
  const given: [number, number][] = [];
  const before = programOf(part);
  for (let now = 0; now < 4; now += 0.05) {
    for (const n of sender.due({ program: now < 0.6 ? before : louder, anchorFrame: 0 }, seconds(now))) given.push([n.slot, n.velocity]);
  }
  expect(given.slice(0, 5)).toEqual([
    [0, 100],
    [1, 90],
    [2, 127],
    [3, 127],
    [0, 127],
  ]);
});
