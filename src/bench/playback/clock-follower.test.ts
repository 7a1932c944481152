import { smallPart } from '@tests/support/arbitraries';
import { SimulatedClock } from '@/devices/clock-source';
import { normalStream, randomStream } from '@/core/random';
import { ticksOfBars } from '@/core/commands/settings';
import { performPart, writtenPerformance } from '@/core/perform/perform';
import { oneTake } from '@/core/playback/mixer';
import { Player } from '@/core/playback/player';
import { makeProgram } from '@/core/playback/program';
import { TempoMap } from '@/core/time/tempo-map';
import { ticks, TICKS_PER_QUARTER, type Ticks } from '@/core/units';
import { tickPlayedAt } from '@/sound/place-in-program';
import { ClockFollower } from './clock-follower';

const RATE = 48_000;
const BLOCK = 128;
const STEP_SECONDS = 0.04;
const CLOCKS = 24;

jest.useFakeTimers();

/** A part of two bars with a hit on each eighth at 100 BPM, its player, and a clock that the test sends. */
function studio(loop = true) {
  const part = smallPart(
    Array.from({ length: 16 }, (_, i): [string, number, number] => ['hat-closed', i / 2, 127]),
    { bars: 2, tempo: [{ tick: ticks(0), microsecondsPerQuarter: 600_000 }], mix: { room: 0 } },
  );
  const range = { ...ticksOfBars(part, 0, 2), loop };
  const slotOf = (hit: { id: string }): number => Number(hit.id.slice(1));
  const performed = makeProgram(part, performPart(part), range, slotOf, () => 0);
  const player = new Player(RATE, [oneTake(Float32Array.of(1))]);
  player.setPrograms({ performed, written: makeProgram(part, writtenPerformance(part), range, slotOf, () => 0) });
  const tempo = new TempoMap(part.tempo);
  let frame = 0;
  const page = (): number => (frame / RATE) * 1000;
  const log: string[] = [];
  const follower = new ClockFollower({
    now: page,
    play: (from) => {
      log.push(`play ${from / TICKS_PER_QUARTER}`);
      player.play(from);
    },
    stop: () => {
      log.push('stop');
      player.stop();
    },
    isPlaying: () => player.state.playing,
    setStretch: (stretch) => player.setStretch(stretch ?? 1),
    heardAt: (at) => (player.state.playing ? tickPlayedAt({ program: performed, tempo }, player.state, RATE, at / 1000) : null),
    loop: () => (loop ? { start: range.start, end: range.end } : null),
    quarterMsAt: (tick: Ticks) => 60_000 / tempo.bpmAt(tick),
  });
  let tell: (bytes: ArrayLike<number>, at: number) => void = () => {};
  follower.follow({
    id: 'port',
    name: 'Port',
    listen: (onMessage) => {
      tell = onMessage;
      return () => {};
    },
  });
  const onsets: { slot: number; at: number }[] = [];
  /** Renders until a moment, with the messages that come meanwhile. */
  const run = (until: number, messages: readonly { bytes: number[]; at: number }[]) => {
    const [left, right] = [new Float32Array(BLOCK), new Float32Array(BLOCK)];
    const waiting = [...messages].sort((a, b) => a.at - b.at);
    let step = frame / RATE + STEP_SECONDS;
    for (; frame / RATE < until; frame += BLOCK) {
      while (waiting[0] && waiting[0].at * 1000 <= page()) {
        const m = waiting.shift()!;
        tell(m.bytes, m.at * 1000);
      }
      if (frame / RATE >= step) {
        follower.step();
        step += STEP_SECONDS;
      }
      for (const o of player.render(left, right, frame)) onsets.push({ slot: o.slot, at: o.frame / RATE });
    }
  };
  return { follower, player, run, onsets, log };
}

/** Moments of the clocks of a tempo that may change, and when each quarter truly begins. */
function clocks(quarters: number, bpmAt: (quarter: number) => number, from = 0.5): { at: number[]; momentOf: (quarter: number) => number } {
  const at: number[] = [];
  let now = from;
  for (let n = 0; n <= quarters * CLOCKS; n++) {
    at.push(now);
    now += 60 / bpmAt(n / CLOCKS) / CLOCKS;
  }
  return {
    at,
    momentOf: (quarter) => {
      const n = Math.floor(quarter * CLOCKS);
      const [a, b] = [at[n]!, at[n + 1] ?? at[n]!];
      return a + (b - a) * (quarter * CLOCKS - n);
    },
  };
}
const messagesOf = (at: readonly number[], jitter: (n: number) => number) => [
  { bytes: [0xfa], at: at[0]! - 0.002 },
  ...at.map((moment, n) => ({ bytes: [0xf8], at: moment + jitter(n) })),
];
/** How far each eighth was from where the clock had it, in ms, from some quarter on. */
function offOf(onsets: readonly { slot: number; at: number }[], momentOf: (quarter: number) => number, from: number, to: number): number[] {
  const wanted = Array.from({ length: Math.floor((to - from) * 2) }, (_, i) => momentOf(from + i / 2));
  return wanted.map((at) => Math.min(...onsets.map((o) => Math.abs(o.at - at))) * 1000);
}

const even = (): ((n: number) => number) => {
  const normal = normalStream(randomStream(5));
  return () => normal() * 0.002;
};
/** Late by up to 4 ms, in bursts, as a busy machine has them. */
const uneven = (): ((n: number) => number) => {
  const random = randomStream(9);
  return (n) => (Math.floor(n / 16) % 3 === 0 ? 0.004 : 0.002) * random();
};

test.each([
  ['even', even],
  ['uneven', uneven],
])('a clock of 124 BPM with %s jitter of 2 ms: what is heard stays within 3 ms of it, from the second bar on', (_, jitter) => {
  const s = studio();
  const { at, momentOf } = clocks(40, () => 124);
  s.run(momentOf(39), messagesOf(at, jitter()));
  expect(s.log[0]).toBe('play 0');
  const off = offOf(s.onsets, momentOf, 6, 38);
  // Late bursts shift the smoothed clock by their mean.
  expect(Math.max(...off)).toBeLessThan(jitter === uneven ? 3 + 2 : 3);
  const { bpm, jitterMs, trouble } = s.follower.state.getState();
  expect(Math.abs(bpm! - 124)).toBeLessThan(1);
  expect([jitterMs > 0.3 && jitterMs < 4, trouble]).toEqual([true, null]);
});

test('it follows a tempo that goes from 96 to 132 within eight bars', () => {
  const s = studio();
  const { at, momentOf } = clocks(44, (q) => (q < 8 ? 96 : Math.min(132, 96 + ((q - 8) / 32) * 36)));
  s.run(momentOf(42), messagesOf(at, even()));
  expect(Math.max(...offOf(s.onsets, momentOf, 6, 40))).toBeLessThan(8);
  expect(Math.abs(s.follower.state.getState().bpm! - 132)).toBeLessThan(2);
});

test('a drop-out of a second is said and bridged; one that lasts stops the part', () => {
  const s = studio();
  const { at, momentOf } = clocks(60, () => 120);
  const [from, to] = [momentOf(16), momentOf(18)];
  const bridged = messagesOf(at, even()).filter((m) => m.at < from || m.at > to);
  s.run(momentOf(17.5), bridged);
  expect([s.follower.state.getState().trouble, s.player.state.playing]).toEqual(['silent', true]);
  s.run(
    momentOf(30),
    bridged.filter((m) => m.at > momentOf(17.5)),
  );
  expect(s.follower.state.getState().trouble).toBeNull();
  expect(Math.max(...offOf(s.onsets, momentOf, 6, 16), ...offOf(s.onsets, momentOf, 22, 29))).toBeLessThan(3);
  s.run(momentOf(30) + 3, []);
  expect([s.follower.state.getState().trouble, s.player.state.playing, s.log.at(-1)]).toEqual(['gone', false, 'stop']);
});

test('position and continue begin where they say, within the loop; stop stops; going back to its own tempo is exact', () => {
  const s = studio();
  const { at } = clocks(8, () => 120);
  // Sixteenth 44 is quarter 11: the third of the second bar, once round.
  const messages = [{ bytes: [0xf2, 44, 0], at: 0.4 }, { bytes: [0xfb], at: 0.45 }, ...at.map((moment) => ({ bytes: [0xf8], at: moment }))];
  s.run(2, messages.slice(0, 80));
  expect(s.log).toEqual(['play 3']);
  expect(s.player.state.playing).toBe(true);
  s.run(2.1, [{ bytes: [0xfc], at: 2.05 }]);
  expect([s.player.state.playing, s.player.state.stretch, s.follower.state.getState().running]).toEqual([false, 1, false]);
});

test('the simulated sender keeps its tempo, and its jitter stays within what was asked', () => {
  jest.setSystemTime(0);
  let now = 0;
  const clock = new SimulatedClock(() => now);
  const heard: [number, number][] = [];
  const stop = clock.listen((bytes, page) => heard.push([bytes[0]!, page]));
  for (now = 0; now < 4000; now += 8) jest.advanceTimersByTime(8);
  stop();
  expect([heard[0], heard.at(-1)![0]]).toEqual([[0xfa, 0], 0xfc]);
  const beats = heard.filter(([b]) => b === 0xf8).map(([, page]) => page);
  expect(Math.abs(beats.length - (4 * 110 * 24) / 60)).toBeLessThan(3);
  beats.forEach((at, i) => expect(Math.abs(at - (i * 60_000) / 110 / 24)).toBeLessThanOrEqual(1.01));
});
