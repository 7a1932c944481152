import { seconds, ticks, TICKS_PER_QUARTER } from '../units';
import { sliceOf, stretchesOfOrder, stretchOfPass, type BackingSpan } from './beside';
import { smallPart } from '@tests/support/arbitraries';
import { roundsOfOrder, unroll } from '../song/unroll';
import type { Seconds } from '../units';

const part = { tempo: [{ tick: ticks(0), microsecondsPerQuarter: 500_000 }], origin: ticks(0) };
const bars = (from: number, to: number) => ({ startTick: ticks(from * 4 * TICKS_PER_QUARTER), length: (to - from) * 2, loop: true });
const sliceOfPass = (p: typeof part, of: typeof song, program: ReturnType<typeof bars>, startedAt: Seconds, pass: number, now: Seconds) =>
  sliceOf(of, stretchOfPass(p, program, pass) as BackingSpan, startedAt, now);
const song = { firstDownbeat: seconds(1.5), offsetMs: 0, seconds: seconds(60) };

test('each pass plays the stretch of the recording that belongs to its bars', () => {
  // Bars 3 and 4 lie 4 s after the first downbeat.
  expect(sliceOfPass(part, song, bars(2, 4), seconds(10), 0, seconds(9))).toEqual({ at: 10, offset: 5.5, length: 4 });
  expect(sliceOfPass(part, song, bars(2, 4), seconds(10), 3, seconds(9))).toEqual({ at: 22, offset: 5.5, length: 4 });
  // Later by 20 ms: its sound of 20 ms before stands there.
  expect(sliceOfPass(part, { ...song, offsetMs: 20 }, bars(2, 4), seconds(10), 0, seconds(9))!.offset).toBeCloseTo(5.48, 9);
});

test('switched on in the midst of a pass it comes in at its place; where it has nothing there is nothing', () => {
  expect(sliceOfPass(part, song, bars(0, 2), seconds(10), 0, seconds(11))).toEqual({ at: 11, offset: 2.5, length: 3 });
  expect(sliceOfPass(part, { ...song, firstDownbeat: seconds(-1) }, bars(0, 2), seconds(10), 0, seconds(9))).toEqual({
    at: 11,
    offset: 0,
    length: 3,
  });
  expect(sliceOfPass(part, { ...song, seconds: seconds(3) }, bars(0, 2), seconds(10), 0, seconds(9))).toEqual({
    at: 10,
    offset: 1.5,
    length: 1.5,
  });
  expect(sliceOfPass(part, { ...song, seconds: seconds(1) }, bars(0, 2), seconds(10), 0, seconds(9))).toBeNull();
  expect(sliceOfPass(part, song, bars(0, 2), seconds(10), 0, seconds(14.5))).toBeNull();
});

test('what is played once has one pass; the rounds of a running order are the bars that they play', () => {
  expect(stretchOfPass(part, { ...bars(0, 2), loop: false }, 1)).toBeNull();
  // Four bars of two seconds; the order: bars 3 and 4, then bar 1 twice.
  const whole = {
    ...smallPart([['kick', 0, 100]], { bars: 4 }),
    sections: [
      { id: 'a', name: 'A', from: 3, bars: 2 },
      { id: 'b', name: 'B', from: 1, bars: 1 },
    ],
    order: [{ section: 'a' }, { section: 'b', times: 2 }],
  };
  expect(stretchesOfOrder(whole, unroll(whole, roundsOfOrder(whole)), 8)).toEqual([
    { begin: 0, place: 4, length: 4 },
    { begin: 4, place: 0, length: 2 },
    { begin: 6, place: 0, length: 2 },
  ]);
  expect(sliceOf(song, { begin: 4, place: 0, length: 2 }, seconds(10), seconds(9))).toEqual({ at: 14, offset: 1.5, length: 2 });
});
