import { createStore } from 'zustand/vanilla';
import type { Program } from '@/core/playback/program';
import { ticks, TICKS_PER_QUARTER } from '@/core/units';
import type { SoundEngine } from '@/sound/engine';
import { smallPart } from '@tests/support/arbitraries';
import { createBenchStore } from '../store/bench-store';
import { followClicks } from './click-track';
import { FRESH_RECORDING, type RecordingState } from './recording-state';

/** Four bars at 120 BPM, the second of them looped, and what the player was given to click. */
function clicking(change: Partial<RecordingState>) {
  const part = smallPart([['kick', 0, 100]], { bars: 4, sections: [{ id: 's', name: 'A', from: 1, bars: 1 }] });
  const bench = createBenchStore('x', { part, head: 0 }, false, { appendEdits: async () => {}, settleHead: async () => {} } as never);
  bench.getState().setTransport({ loop: true, fromBar: 1, toBar: 2 });
  const recording = createStore<RecordingState>(() => ({ ...FRESH_RECORDING, ...change }));
  const given: (Program | null)[] = [];
  const engine = { setClicks: (p: Program | null) => given.push(p), clickRows: () => 0 } as unknown as SoundEngine;
  const end = followClicks(bench, recording, engine);
  return { bench, recording, given, end, last: () => given.at(-1) };
}
const bars = (p: Program | null | undefined) => p && [p.startTick / TICKS_PER_QUARTER / 4, p.endTick / TICKS_PER_QUARTER / 4, p.loop];

test('it clicks while counting in, while recording where that is wished, and always where that is', () => {
  const cases: [Partial<RecordingState>, boolean][] = [
    [{ phase: 'idle' }, false],
    [{ phase: 'counting', clicking: false }, true],
    [{ phase: 'recording', clicking: true }, true],
    [{ phase: 'recording', clicking: false }, false],
    [{ phase: 'recording', clicking: false, clickAlways: true }, true],
    [{ phase: 'done' }, false],
    [{ phase: 'idle', clickAlways: true }, true],
  ];
  for (const [change, wanted] of cases) {
    const { last, end } = clicking(change);
    expect([change, Boolean(last())]).toEqual([change, wanted]);
    end();
    expect(last()).toBeNull();
  }
});

test('it clicks the loop; without one the whole part once; an order from its start', () => {
  const { bench, last, end } = clicking({ clickAlways: true });
  expect(bars(last())).toEqual([1, 2, true]);
  expect(last()!.offsets).toHaveLength(4);
  bench.getState().setTransport({ loop: false });
  expect(bars(last())).toEqual([0, 4, false]);
  bench.getState().run('Order', (p) => ({ ...p, order: [{ section: 's', times: 2 }] }));
  bench.getState().setTransport({ order: true });
  expect(bars(last())).toEqual([0, 2, false]);
  end();
});

test('tempo, meter and the click’s own settings reach it; edits of hits do not', () => {
  const { bench, recording, given, last, end } = clicking({ clickAlways: true });
  const before = given.length;
  bench.getState().run('Hit', (p) => ({ ...p, hits: [] }));
  expect(given).toHaveLength(before);
  bench.getState().run('Tempo', (p) => ({ ...p, tempo: [{ tick: ticks(0), microsecondsPerQuarter: 250_000 }] }));
  expect(last()!.length).toBeCloseTo(1, 9);
  recording.setState({ click: { ...FRESH_RECORDING.click, perBeat: 2 } });
  expect(last()!.offsets).toHaveLength(8);
  recording.setState({ clickAlways: false });
  expect(last()).toBeNull();
  end();
});

test('the click stops while the latency is measured and comes back afterwards', () => {
  const { recording, given, last, end } = clicking({ clickAlways: true });
  const before = given.length;
  recording.setState({ measuring: { clicks: 0, taps: 0 } });
  expect(given).toHaveLength(before);
  recording.setState({ measuring: null });
  expect(bars(last())).toEqual([1, 2, true]);
  expect(given).toHaveLength(before + 1);
  end();
});
