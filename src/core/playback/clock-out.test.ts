import fc from 'fast-check';
import { seconds, ticks, TICKS_PER_QUARTER } from '../units';
import { ClockOut, type Clocked, type ClockMessage } from './clock-out';

/** A loop of some quarters at 120: half a second each. */
const loop = (fromQuarter: number, quarters: number, startedAt = 10): Clocked => ({
  program: {
    startTick: ticks(fromQuarter * TICKS_PER_QUARTER),
    endTick: ticks((fromQuarter + quarters) * TICKS_PER_QUARTER),
    length: quarters / 2,
    loop: true,
    tempo: [{ tick: ticks(0), microsecondsPerQuarter: 500_000 }],
  },
  startedAt: seconds(startedAt),
});
const words = (messages: readonly ClockMessage[]) =>
  messages.filter((m) => m.bytes[0] !== 0xf8).map((m) => [m.bytes.map((b) => b.toString(16)).join(' '), Math.round(m.at * 1000)]);
const clocks = (messages: readonly ClockMessage[]) => messages.filter((m) => m.bytes[0] === 0xf8).map((m) => m.at);

test('from its start: start, then 24 clocks a quarter; round the loop it stops, says where it is, goes on', () => {
  const out = new ClockOut();
  const first = out.due(loop(0, 4), seconds(9.9), seconds(10.5));
  expect(words(first)).toEqual([['fa', 10_000]]);
  expect(clocks(first)).toHaveLength(24);
  expect(clocks(first)[1]! - clocks(first)[0]!).toBeCloseTo(0.5 / 24, 9);
  const next = out.due(loop(0, 4), seconds(10.4), seconds(12.1));
  expect(words(next)).toEqual([
    ['fc', 12_000],
    ['f2 0 0', 12_000],
    ['fb', 12_000],
  ]);
  expect(words(out.due(null, seconds(12.2), seconds(12.5)))).toEqual([['fc', 12_200]]);
  expect(out.due(null, seconds(12.3), seconds(12.6))).toEqual([]);
});

test('in the midst of a part it says where that is, in sixteenths', () => {
  expect(words(new ClockOut().due(loop(40, 4), seconds(9.9), seconds(10.2)))).toEqual([
    ['f2 20 1', 10_000],
    ['fb', 10_000],
  ]);
  // Switched on while it plays: from the next clock on.
  const late = new ClockOut().due(loop(0, 4), seconds(10.26), seconds(10.6));
  expect(words(late)).toEqual([
    ['f2 2 0', Math.round((10 + (13 * 0.5) / 24) * 1000)],
    ['fb', Math.round((10 + (13 * 0.5) / 24) * 1000)],
  ]);
});

test('however often it is asked, each clock is given once, in order, 24 a quarter', () => {
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: 0.001, max: 0.4, noNaN: true }), { minLength: 5, maxLength: 60 }),
      fc.integer({ min: 1, max: 9 }),
      (steps, quarters) => {
        const out = new ClockOut();
        let now = 9.9;
        const all: ClockMessage[] = [];
        for (const step of steps) {
          all.push(...out.due(loop(0, quarters), seconds(now), seconds(now + 0.25)));
          now += step;
        }
        const until = now - steps.at(-1)! + 0.25;
        const at = clocks(all);
        at.forEach((t, i) => i > 0 && expect(t - at[i - 1]!).toBeCloseTo(0.5 / 24, 6));
        // What was asked for without a gap is there without one.
        if (steps.every((s) => s <= 0.25)) expect(Math.abs(at.length - Math.max(0, (until - 10) * 48))).toBeLessThan(1.01);
      },
    ),
  );
});
