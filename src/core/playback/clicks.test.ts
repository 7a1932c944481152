import { smallPart } from '@tests/support/arbitraries';
import { writtenPerformance } from '../perform/perform';
import { ticks, TICKS_PER_QUARTER } from '../units';
import { clickPlaces, clickProgram, DEFAULT_CLICK } from './clicks';
import { oneTake } from './mixer';
import { Player } from './player';
import { makeProgram } from './program';

const Q = TICKS_PER_QUARTER;
const RATE = 8000;
/** A sound of one sample. */
/** So far the limiter looks ahead: the first that can be heard. */
const AHEAD = 0.005 * RATE;
const TICK = oneTake(Float32Array.of(1));

test('clicks on bar lines, beats and between; six eighths click on every eighth', () => {
  const four = smallPart([]);
  const range = { start: ticks(0), end: ticks(4 * Q) };
  expect(clickPlaces(four, range, 2).map((c) => [c.tick / Q, c.on])).toEqual([
    [0, 'bar'],
    [0.5, 'between'],
    [1, 'beat'],
    [1.5, 'between'],
    [2, 'beat'],
    [2.5, 'between'],
    [3, 'beat'],
    [3.5, 'between'],
  ]);
  const six = smallPart([], { meter: [{ tick: ticks(0), numerator: 6, denominator: 8 }] });
  expect(clickPlaces(six, { start: ticks(0), end: ticks(3 * Q) }, 1).map((c) => [c.tick / Q, c.on])).toEqual([
    [0, 'bar'],
    [0.5, 'between'],
    [1, 'between'],
    [1.5, 'beat'],
    [2, 'between'],
    [2.5, 'between'],
  ]);
});

test('a bar is counted in by clicks alone, then the loop plays, each to the sample', () => {
  const part = smallPart(
    [
      ['kick', 0, 100],
      ['kick', 2, 100],
    ],
    { mix: { room: 0 } },
  );
  const range = { start: ticks(0), end: ticks(4 * Q), loop: true };
  const player = new Player(RATE, [TICK, oneTake(Float32Array.of(0.5))]);
  const music = makeProgram(
    part,
    writtenPerformance(part),
    range,
    (hit) => part.hits.indexOf(hit),
    () => 0,
  );
  player.setPrograms({ performed: music, written: music });
  player.setClicks(clickProgram(part, range, DEFAULT_CLICK, () => 1));
  // One bar at 120 BPM: two seconds.
  player.play(ticks(0), 2);
  const out = new Float32Array(RATE * 6);
  const hits: number[] = [];
  for (let frame = 0; frame < out.length; frame += 128) {
    const [left, right] = [new Float32Array(128), new Float32Array(128)];
    hits.push(...player.render(left, right, frame).map((o) => o.frame));
    out.set(left.subarray(0, Math.min(128, out.length - frame)), frame);
  }
  expect(hits.filter((frame) => frame < out.length)).toEqual([2, 3, 4, 5].map((s) => AHEAD + s * RATE));
  const sounding = [...out.entries()].filter(([, v]) => v !== 0).map(([frame]) => frame);
  expect(sounding).toEqual(Array.from({ length: 12 }, (_, i) => AHEAD + (i * RATE) / 2));
  // Off again, and the next start has no lead.
  player.setClicks(null);
  player.stop();
  player.play(ticks(0));
  const quiet = new Float32Array(RATE);
  player.render(quiet, new Float32Array(RATE), 6 * RATE);
  expect([...quiet.entries()].filter(([, v]) => v !== 0).map(([f]) => f)).toEqual([RATE / 10]);
});
