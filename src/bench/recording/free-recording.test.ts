import 'fake-indexeddb/auto';
import { createStore } from 'zustand/vanilla';
import { freeTake } from '@tests/support/free-takes';
import { smallPart } from '@tests/support/arbitraries';
import { findBeats, type BeatReading } from '@/core/beats/find-beats';
import { followPlayer } from '@/core/free-takes/follow';
import { strokesOfPart } from '@/core/free-takes/strokes-of-part';
import { gridOfPlayer } from '@/core/part/grid-of-player';
import { tempoMapOf } from '@/core/part/part-time';
import { eventOfHit } from '@/core/take/hits-of-take';
import { partOfFreeTake } from '@/core/take/free-take';
import { seconds } from '@/core/units';
import { NodSwayDatabase } from '@/storage/database';
import { PartStore } from '@/storage/part-store';
import { TakeStore } from '@/storage/take-store';
import type { BeatFinder } from '../actions/beat-finder';
import { createBenchStore } from '../store/bench-store';
import { FreeRecording } from './free-recording';
import { FRESH_RECORDING, type RecordingState } from './recording-state';

const realFinder: BeatFinder = {
  find: (part) => Promise.resolve(findBeats(strokesOfPart(part)) ?? []),
  follow: (part, reading) => Promise.resolve(followPlayer(part, reading, 'cut')),
};

async function studio(name: string, finder: BeatFinder = realFinder) {
  const db = new NodSwayDatabase(name);
  const [parts, takes] = [new PartStore(db), new TakeStore(db)];
  const id = await parts.create(smallPart([]));
  const bench = createBenchStore(id, await parts.load(id), false, parts);
  const state = createStore<RecordingState>(() => FRESH_RECORDING);
  const counted: (readonly BeatReading[])[] = [];
  const problems: unknown[] = [];
  const free = new FreeRecording({
    bench,
    takes,
    state,
    silence: () => Promise.resolve(),
    now: () => seconds(5),
    nextName: () => Promise.resolve('Take 1'),
    device: () => 'Pads',
    finder,
    onError: (e) => problems.push(e),
    onPlaced: (readings) => counted.push(readings),
  });
  const begin = async () => {
    await free.start();
    const page = performance.now();
    /** Strikes a pad so many seconds after the start. */
    return (at: number, key: number, value: number) => free.hear({ page: page + at * 1000, kind: 'note', key, value });
  };
  return { bench, takes, state, free, begin, counted, problems, id, stored: () => takes.list(id) };
}

test('hits keep their times within 0.01 ms, the beats are found, and the raw take is unchanged', async () => {
  const s = await studio('free-whole');
  const strike = await s.begin();
  expect([s.free.isOn, s.free.startedAt, s.bench.getState().recording, s.state.getState().phase]).toEqual([true, 5, true, 'recording']);
  const { strokes, meter, beats } = freeTake(3);
  const first = Math.min(...strokes.map((x) => x.at));
  const struck = [...strokes].sort((a, b) => a.at - b.at);
  for (const { at, key, velocity } of struck) strike(at - first + 0.4, key, velocity);
  expect(s.state.getState().strokes).toBe(strokes.length);
  await s.free.stop();
  const { part, history, recording } = s.bench.getState();
  expect([gridOfPlayer(part), recording, s.state.getState().phase, s.state.getState().finding]).toEqual(['follows', false, 'idle', null]);
  expect(history.undo.map((e) => e.label)).toEqual(['Record Take 1']);
  expect([part.meter[0]!.numerator, part.meter[0]!.denominator]).toEqual(meter);
  expect(part.bars).toBeGreaterThanOrEqual(Math.floor(beats.length / 4));
  expect(s.counted[0]![0]!.likelihood).toBeGreaterThan(0.7);
  const [{ take, events }] = (await s.stored()) as [Awaited<ReturnType<TakeStore['list']>>[number]];
  expect([take.free, take.complete, take.passes, events.length]).toEqual([true, true, 1, strokes.length]);
  // From stroke to stroke, as they were stamped.
  const map = tempoMapOf(part);
  const at = new Map(part.hits.map((h) => [eventOfHit(h.id)!.event, map.toSeconds(h.tick)]));
  const zero = at.get(0)! - events[0]!.at;
  const off = [...at].map(([event, t]) => Math.abs(t - zero - events[event]!.at) * 1000);
  expect(Math.max(...off)).toBeLessThan(0.01);
  expect(part.hits.length).toBeGreaterThan(strokes.length * 0.95);
  expect(s.problems).toEqual([]);
});

test('Undo removes it again; the take can still be used', async () => {
  const s = await studio('free-undo');
  const strike = await s.begin();
  for (let i = 0; i < 32; i++) strike(0.3 + i * 0.3, i % 4 === 2 ? 38 : i % 4 === 0 ? 36 : 42, 90);
  await s.free.stop();
  expect(s.bench.getState().part.hits).toHaveLength(32);
  s.bench.getState().undo();
  const { part } = s.bench.getState();
  expect([part.hits.length, part.playerTempo, part.tempo.length]).toEqual([0, undefined, 1]);
  const [{ take, events }] = (await s.stored()) as [Awaited<ReturnType<TakeStore['list']>>[number]];
  const used = partOfFreeTake(part, take, events);
  expect([used.hits.length, used.bars, used.playerTempo]).toEqual([32, 6, undefined]);
});

test('too few strokes stay without a grid; an empty recording leaves nothing', async () => {
  const s = await studio('free-few');
  const strike = await s.begin();
  strike(1, 36, 90);
  strike(2, 38, 80);
  await s.free.stop();
  const { part } = s.bench.getState();
  expect([part.hits.map((h) => h.voice), gridOfPlayer(part), s.counted]).toEqual([['kick', 'snare'], null, [[]]]);
  // A second apart at the clock's 120 BPM.
  expect((part.hits[1]!.tick - part.hits[0]!.tick) / 80_640).toBeCloseTo(2, 2);
  const none = await studio('free-none');
  await none.begin();
  await none.free.stop();
  expect([await none.stored(), none.bench.getState().part.hits, none.counted]).toEqual([[], [], []]);
});

test('when finding is cancelled the take stays in the part; leaving the page places it right away', async () => {
  let givenUp = false;
  const s = await studio('free-cancel', {
    find: (_part, onProgress, signal) =>
      new Promise((_, reject) => {
        onProgress(0.5);
        signal.addEventListener('abort', () => {
          givenUp = true;
          reject(signal.reason as Error);
        });
      }),
    follow: (part) => Promise.resolve(part),
  });
  const strike = await s.begin();
  for (let i = 0; i < 12; i++) strike(0.3 + i * 0.4, 36, 90);
  const stopped = s.free.stop();
  const looked = new Promise<void>((done) => {
    if (s.state.getState().finding === 0.5) return done();
    const unsubscribe = s.state.subscribe((now) => {
      if (now.finding !== 0.5) return;
      unsubscribe();
      done();
    });
  });
  await looked;
  s.free.cancelFinding();
  await stopped;
  expect([givenUp, s.bench.getState().part.hits.length, s.state.getState().finding, s.problems]).toEqual([true, 12, null, []]);
  const left = await studio('free-left');
  const play = await left.begin();
  for (let i = 0; i < 12; i++) play(0.3 + i * 0.4, 36, 90);
  void left.free.stop(false);
  expect(left.bench.getState().part.hits).toHaveLength(12);
});
