import { seconds, type Seconds } from '@/core/units';
import type { InputEvent } from '@/devices/input';
import type { SoundEngine } from '@/sound/engine';
import { createBenchStore } from '../store/bench-store';
import { smallPart } from '@tests/support/arbitraries';
import { HeldPads } from './held-pads';
import { FRESH_RECORDING, type RecordingState } from './recording-state';

const LOOK_MS = 8;
beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

/** Pads over two bars at 120 BPM whose first bar loops, started at second 10 of a clock that the page shares. */
function holding(change: Partial<RecordingState> = {}, { loop = true, started = 10 as number | null } = {}) {
  const part = smallPart([['kick', 0, 100]], { bars: 2 });
  const bench = createBenchStore('x', { part, head: 0 }, false, { appendEdits: async () => {}, settleHead: async () => {} } as never);
  bench.getState().setTransport({ loop, fromBar: 0, toBar: 1 });
  const clock = { now: 10 };
  const strokes: [number, number, number][] = [];
  const engine = {
    heardAt: (page: number) => seconds(page / 1000),
    heardNow: () => seconds(clock.now),
    pageTimeOf: (at: Seconds) => at * 1000,
    get startedAt() {
      return started as Seconds | null;
    },
  } as unknown as SoundEngine;
  const pads = new HeldPads({
    bench,
    engine,
    stateOf: () => ({ ...FRESH_RECORDING, holdGrid: '1/8', ...change }),
    onStroke: ({ key, value, page }) => strokes.push([key, value, Math.round(page - 10_000)]),
  });
  const hear = (kind: InputEvent['kind'], at: number, value = 90, key = 38) => pads.hear({ kind, key, value, page: 10_000 + at * 1000 });
  const until = (at: number) => {
    while (clock.now < 10 + at - 1e-9) {
      clock.now += LOOK_MS / 1000;
      jest.advanceTimersByTime(LOOK_MS);
    }
  };
  return { hear, until, strokes, pads };
}

test('a held pad strikes on each line of the grid after the stroke, at the line’s own time, until it is let go', () => {
  const { hear, until, strokes } = holding();
  hear('note', 0.1, 80);
  until(0.6);
  hear('off', 0.6);
  until(1.2);
  // At 120 an eighth is 250 ms; the loop of two seconds goes on behind it.
  expect(strokes).toEqual([
    [38, 80, 250],
    [38, 80, 500],
  ]);
});

test('pressure sets how hard; letting go of the pressure alone does not silence it', () => {
  const { hear, until, strokes } = holding();
  hear('note', 0, 80);
  until(0.3);
  hear('pressure', 0.3, 40);
  until(0.6);
  hear('pressure', 0.6, 0);
  until(0.8);
  expect(strokes.map(([, value]) => value)).toEqual([80, 40, 40]);
  hear('pressure', 0.8, 64, 36);
  until(1.1);
  expect(strokes.at(-1)).toEqual([38, 40, 1000]);
});

test('it goes round the loop, and on through the part where nothing loops', () => {
  const looped = holding({ holdGrid: '1/4' });
  looped.hear('note', 1.6);
  looped.until(2.6);
  expect(looped.strokes.map(([, , at]) => at)).toEqual([2000, 2500]);
  const whole = holding({ holdGrid: '1/4' }, { loop: false });
  whole.hear('note', 1.6);
  whole.until(3.1);
  expect(whole.strokes.map(([, , at]) => at)).toEqual([2000, 2500, 3000]);
});

test('two pads strike by themselves; stopped, none does', () => {
  const { hear, until, strokes, pads } = holding();
  hear('note', 0.1, 80, 38);
  hear('note', 0.3, 60, 42);
  until(0.55);
  expect(strokes).toEqual([
    [38, 80, 250],
    [38, 80, 500],
    [42, 60, 500],
  ]);
  pads.stop();
  until(1.2);
  expect(strokes).toHaveLength(3);
});

test('nothing repeats without a grid to repeat on, or while nothing plays', () => {
  for (const { hear, until, strokes } of [holding({ holdGrid: null }), holding({}, { started: null })]) {
    hear('note', 0.1);
    until(1);
    expect(strokes).toEqual([]);
  }
});

test('keys that a pad was given say whose swing it follows', () => {
  const { hear, until, strokes } = holding({ input: { ...FRESH_RECORDING.input, pads: { 60: 38 } } });
  hear('note', 0.1, 70, 60);
  until(0.3);
  expect(strokes).toEqual([[60, 70, 250]]);
});
