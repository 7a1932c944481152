import { seconds, ticks, TICKS_PER_QUARTER } from '../units';
import { sliceOfPass } from './beside';

const part = { tempo: [{ tick: ticks(0), microsecondsPerQuarter: 500_000 }], origin: ticks(0) };
const bars = (from: number, to: number) => ({ startTick: ticks(from * 4 * TICKS_PER_QUARTER), length: (to - from) * 2, loop: true });
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
  expect(sliceOfPass(part, { ...song, firstDownbeat: seconds(-1) }, bars(0, 2), seconds(10), 0, seconds(9))).toEqual({ at: 11, offset: 0, length: 3 });
  expect(sliceOfPass(part, { ...song, seconds: seconds(3) }, bars(0, 2), seconds(10), 0, seconds(9))).toEqual({ at: 10, offset: 1.5, length: 1.5 });
  expect(sliceOfPass(part, { ...song, seconds: seconds(1) }, bars(0, 2), seconds(10), 0, seconds(9))).toBeNull();
  expect(sliceOfPass(part, song, bars(0, 2), seconds(10), 0, seconds(14.5))).toBeNull();
});
