import 'fake-indexeddb/auto';
import { smallPart } from '@tests/support/arbitraries';
import { PadDevice } from '@/devices/pads';
import type { SoundEngine } from '@/sound/engine';
import { NodSwayDatabase } from '@/storage/database';
import { InputStore } from '@/storage/input-store';
import { PartStore } from '@/storage/part-store';
import { TakeStore } from '@/storage/take-store';
import { seconds, ticks, TICKS_PER_QUARTER, type Seconds } from '@/core/units';
import { createBenchStore } from '../store/bench-store';
import { hitsOfTake } from '@/core/take/use-take';
import { hitIdOfEvent } from '@/core/take/hits-of-take';
import { stalledHits } from '@/core/take/stalls';
import { createRecorder } from './recorder';
import type { Recorder } from './recorder-ports';

const BAR = 4 * TICKS_PER_QUARTER;
const open: Recorder[] = [];
// Their timers would keep the test run alive.
afterEach(() => open.splice(0).forEach((r) => r.dispose()));

/** The recorder over a loop of one bar at 120 BPM, two seconds, with clocks that stand where the test puts them. */
async function studio(name: string) {
  const db = new NodSwayDatabase(name);
  const [parts, takes] = [new PartStore(db), new TakeStore(db)];
  const part = smallPart(
    [
      ['snare', 1, 100],
      ['hat-closed', 0, 60],
    ],
    { bars: 1 },
  );
  const id = await parts.create(part);
  const bench = createBenchStore(id, await parts.load(id), false, parts);
  const clock = { now: 100, started: null as number | null, lead: 0 };
  const engine = {
    heardAt: (page: number) => seconds(page / 1000),
    stalls: [] as { from: number; to: number }[],
    heardNow: () => seconds(clock.now),
    get startedAt() {
      return clock.started as Seconds | null;
    },
    setClicks: () => {},
    setPrograms: () => {},
    stop: () => {
      clock.started = null;
    },
    play: () => Promise.resolve(),
    audition: () => Promise.resolve(),
    rowsOf: () => () => 0,
    sampleRate: 1000,
    get isPlaying() {
      return clock.started !== null;
    },
    /** The loop of the transport, from where it was started. */
    get sounding() {
      return clock.started === null
        ? null
        : { program: { loop: true, startTick: 0, endTick: BAR, length: 2 }, anchorFrame: clock.started * 1000 };
    },
    position: () => (clock.started === null ? null : ticks((((clock.now - clock.started) % 2) / 2) * BAR)),
  } as unknown as SoundEngine;
  const pads = new PadDevice();
  const problems: unknown[] = [];
  const calls: number[] = [];
  const recorder = createRecorder({
    bench,
    engine,
    takes,
    inputs: new InputStore(db),
    onError: (e) => problems.push(e),
    play: (lead) => {
      clock.lead = lead;
      clock.started = clock.now + lead;
    },
    onCounted: () => {},
    finder: { find: () => Promise.resolve([]), follow: (p) => Promise.resolve(p) },
    onStep: () => {},
    onCall: (section) => calls.push(section),
  });
  open.push(recorder);
  recorder.connect(pads);
  const until = async (test: () => boolean | Promise<boolean>) => {
    for (let i = 0; i < 400 && !(await test()); i++) await new Promise((done) => setTimeout(done, 5));
    expect(await test()).toBe(true);
  };
  /** Strikes a pad so many seconds after the first downbeat. */
  const strike = (at: number, key: number, value = 90) => pads.strike(key, value, ((clock.started ?? clock.now) + at) * 1000);
  /** Lets the music come to a place, and the recorder notice. */
  const reach = (at: number, pass: number) => {
    clock.now = (clock.started ?? 0) + at;
    return until(() => recorder.state.getState().pass === pass);
  };
  const record = async () => {
    recorder.start();
    await until(() => clock.started !== null);
  };
  return {
    bench,
    recorder,
    engine: engine as unknown as { stalls: { from: number; to: number }[] },
    takes,
    id,
    clock,
    strike,
    reach,
    record,
    until,
    problems,
    calls,
    voices: () => bench.getState().part.hits.map((h) => h.voice),
    undo: () => bench.getState().history.undo.map((e) => e.label),
  };
}

test('a learnt pad calls a section, and is neither played nor recorded', async () => {
  const { recorder, calls, strike, record, reach, voices } = await studio('calls');
  recorder.learnPad((key) => recorder.tune({ calls: { [key]: 2 } }));
  strike(0, 60);
  expect(recorder.state.getState().input.calls).toEqual({ 60: 2 });
  await record();
  strike(0, 60);
  strike(0.5, 36);
  await reach(2.1, 1);
  expect([calls, voices().includes('kick'), voices().length]).toEqual([[2], true, 3]);
});

test('each pass is one step; raw events reach the store; the take is complete after stop', async () => {
  const s = await studio('passes');
  await s.record();
  expect(s.clock.lead).toBeCloseTo(2, 9);
  s.strike(-0.01, 36);
  s.strike(1, 36, 70);
  expect(s.voices()).toEqual(['kick', 'hat-closed', 'snare', 'kick']);
  await s.reach(2.2, 1);
  s.strike(2.5, 42);
  await s.reach(4.2, 2);
  s.recorder.stop();
  await s.until(() => s.recorder.state.getState().phase === 'done');
  expect(s.undo()).toEqual(['Record pass 1', 'Record pass 2']);
  const [stored] = await s.takes.list(s.id);
  expect([stored!.take.complete, stored!.take.passes, stored!.events.map((e) => [e.key, e.value])]).toEqual([
    true,
    2,
    [
      [36, 90],
      [36, 70],
      [42, 90],
    ],
  ]);
  expect(stored!.events.map((e) => Math.round(e.at * 1000))).toEqual([-10, 1000, 2500]);
  expect(s.problems).toEqual([]);
});

test('each stroke is written at once, and until it is kept the recorder says so', async () => {
  const s = await studio('kept');
  await s.record();
  const { append } = s.takes;
  let go: (() => void) | undefined;
  s.takes.append = async (...args) => {
    await new Promise<void>((done) => (go = done));
    return append.apply(s.takes, args);
  };
  // No clock moves: nothing but the stroke itself brings it into the store.
  s.strike(0, 36);
  s.strike(0.1, 38);
  await s.until(() => go !== undefined);
  expect(s.recorder.state.getState().unkept).toBe(true);
  s.takes.append = append.bind(s.takes);
  go!();
  await s.until(() => !s.recorder.state.getState().unkept);
  const [stored] = await s.takes.list(s.id);
  expect([stored!.events.map((e) => e.key), stored!.take.complete]).toEqual([[36, 38], false]);
});

test('a take says where the machine stalled while it was recorded', async () => {
  const s = await studio('stalls');
  await s.record();
  s.strike(0, 36);
  s.strike(1, 38);
  s.strike(1.6, 36);
  const page = (at: number): number => ((s.clock.started ?? 0) + at) * 1000;
  // One before the take, one in it, one after its last stroke.
  s.engine.stalls.push({ from: page(-3), to: page(-2.8) }, { from: page(0.9), to: page(1.1) }, { from: page(5), to: page(6) });
  s.recorder.stop();
  await s.until(() => s.recorder.state.getState().phase === 'done');
  const { take, events } = (await s.takes.list(s.id))[0]!;
  expect(take.stalls?.map(({ from, to }) => [from.toFixed(2), to.toFixed(2)])).toEqual([['0.90', '1.10']]);
  expect(stalledHits(take, events)).toEqual([hitIdOfEvent(take.id, 1)]);
  // As played, by the device's own stamps.
  expect(events.map((e) => Math.round(e.at * 1000))).toEqual([0, 1000, 1600]);
});

test('an undo in mid-pass takes back what that pass had, and what comes after stays', async () => {
  const s = await studio('undo');
  await s.record();
  s.strike(0, 36);
  s.bench.getState().undo();
  expect(s.voices()).toEqual(['hat-closed', 'snare']);
  s.strike(1, 37);
  expect(s.voices()).toEqual(['hat-closed', 'snare', 'rim']);
  s.recorder.stop();
  await s.until(() => s.recorder.state.getState().phase === 'done');
  // The raw take has both: it is what was played.
  expect((await s.takes.list(s.id))[0]!.events.length).toBe(2);
});

test('something else done in mid-pass stays a step of its own, between two of the pass', async () => {
  const s = await studio('meanwhile');
  await s.record();
  s.strike(0, 36);
  s.bench.getState().run('Rename', (p) => ({ ...p, name: 'Other' }));
  s.strike(1, 37);
  s.recorder.stop();
  await s.until(() => s.recorder.state.getState().phase === 'done');
  expect(s.undo()).toEqual(['Record pass 1', 'Rename', 'Record pass 1']);
  expect(s.voices()).toEqual(['kick', 'hat-closed', 'snare', 'rim']);
});

test('replacing passes take the place of what is there, on the chosen rows alone', async () => {
  const s = await studio('replace');
  s.recorder.set({ mode: 'replace', rows: new Set(['snare']) });
  await s.record();
  s.strike(0.5, 38, 50);
  s.strike(0.5, 36);
  expect(s.bench.getState().part.hits.map((h) => [h.voice, h.velocity])).toEqual([
    ['hat-closed', 60],
    ['snare', 50],
  ]);
  await s.reach(2.2, 1);
  s.strike(3, 38, 70);
  expect(s.bench.getState().part.hits.map((h) => [h.voice, h.velocity])).toEqual([
    ['hat-closed', 60],
    ['snare', 70],
  ]);
  s.recorder.stop();
  await s.until(() => s.recorder.state.getState().phase === 'done');
  const id = s.recorder.state.getState().take!.id;
  expect(s.recorder.discard()).toBe(true);
  expect(s.bench.getState().part.hits.map((h) => [h.voice, h.velocity])).toEqual([
    ['hat-closed', 60],
    ['snare', 100],
  ]);
  // Deleting it is a step: taken back, it is there again with its hits.
  expect(s.bench.getState().part.deletedTakes).toEqual([id]);
  s.bench.getState().undo();
  expect([s.bench.getState().part.deletedTakes, s.bench.getState().part.hits.map((h) => [h.voice, h.velocity])]).toEqual([
    undefined,
    [
      ['hat-closed', 60],
      ['snare', 70],
    ],
  ]);
  expect((await s.takes.list(s.id)).map((t) => t.take.id)).toEqual([id]);
});

test('it stops by itself after the wanted passes, and what was played after them is in the raw take alone', async () => {
  const s = await studio('wanted');
  s.recorder.set({ passes: 1 });
  await s.record();
  s.strike(0.5, 36);
  s.strike(2.03, 37);
  s.clock.now = s.clock.started! + 2.2;
  await s.until(() => s.recorder.state.getState().phase === 'done');
  expect(s.voices()).toEqual(['hat-closed', 'kick', 'snare']);
  expect((await s.takes.list(s.id))[0]!.events.length).toBe(2);
});

test('stopping the music ends the recording; one without a stroke leaves nothing', async () => {
  const s = await studio('stopped');
  await s.record();
  s.clock.now = s.clock.started! + 0.5;
  await s.until(() => s.recorder.state.getState().phase === 'recording');
  s.clock.started = null;
  await s.until(() => s.recorder.state.getState().phase === 'idle');
  expect(await s.takes.list(s.id)).toEqual([]);
});

test('the latency of the input is taken off; a pad that was learnt strikes what it was given', async () => {
  const s = await studio('input');
  await s.until(() => s.recorder.state.getState().input.id === 'pads');
  s.recorder.tune({ latencyMs: 50 });
  let learnt = 0;
  s.recorder.learnPad((key) => {
    learnt = key;
    s.recorder.tune({ pads: { [key]: 38 } });
  });
  s.strike(0, 60);
  expect(learnt).toBe(60);
  await s.record();
  s.strike(0.55, 60, 77);
  const entered = s.bench.getState().part.hits.find((h) => h.velocity === 77)!;
  expect([entered.voice, Math.round(entered.tick)]).toEqual(['snare', 80640]);
  s.recorder.dispose();
});

test('what was played without recording becomes a take, once', async () => {
  const s = await studio('minute');
  s.clock.started = 90;
  s.strike(5, 36);
  s.strike(5.5, 38);
  expect(await s.recorder.keepLastMinute()).toBe(true);
  const [kept] = await s.takes.list(s.id);
  // Played in the third pass: 4 seconds in, so a second into it.
  expect(kept!.events.map((e) => e.at)).toEqual([1, 1.5].map((t) => expect.closeTo(t, 9)));
  expect(await s.recorder.keepLastMinute()).toBe(false);
});

test('another tempo or loop ends the recording and keeps it', async () => {
  const s = await studio('tempo');
  await s.record();
  s.strike(0.5, 36);
  s.bench.getState().run('Tempo', (p) => ({ ...p, tempo: [{ ...p.tempo[0]!, microsecondsPerQuarter: 400_000 }] }));
  await s.until(() => s.recorder.state.getState().phase === 'done');
  expect((await s.takes.list(s.id))[0]!.events.length).toBe(1);
  expect(s.voices()).toEqual(['hat-closed', 'kick', 'snare']);
});

test('what the store refuses is told once, tried again, and nothing is lost', async () => {
  const s = await studio('refused');
  await s.record();
  const append = s.takes.append.bind(s.takes);
  let refusals = 0;
  s.takes.append = () => {
    refusals++;
    return Promise.reject(new Error('no room'));
  };
  s.strike(0.1, 36);
  await s.until(() => refusals > 1);
  s.takes.append = append;
  s.strike(0.6, 38);
  s.recorder.stop();
  await s.until(() => s.recorder.state.getState().phase === 'done');
  expect((await s.takes.list(s.id))[0]!.events.map((e) => e.key)).toEqual([36, 38]);
  expect(s.problems.length).toBe(1);
});

test('punched in and out while the loop plays: the music goes on, what was struck stands where it was heard', async () => {
  const { bench, recorder, clock, strike, until, takes, id, undo } = await studio('punch');
  bench.getState().setTransport({ loop: true, fromBar: 0, toBar: 1 });
  // The third pass is half over.
  [clock.started, clock.now] = [90, 95];
  recorder.start();
  await until(() => recorder.state.getState().phase === 'recording');
  expect(clock.started).toBe(90);
  strike(5.5, 38, 77);
  // The next pass: its downbeat, a little early.
  strike(5.99, 36, 99);
  clock.now = 96.5;
  await until(() => recorder.state.getState().pass === 1);
  recorder.stop();
  expect([clock.started, bench.getState().recording]).toEqual([90, false]);
  const struck = () =>
    bench
      .getState()
      .part.hits.filter((h) => h.id.startsWith('take:'))
      .map((h) => [h.voice, Math.round((h.tick / BAR) * 2000), h.velocity]);
  expect(struck()).toEqual([
    ['kick', -10, 99],
    ['snare', 1500, 77],
  ]);
  expect(undo()).toEqual(['Record pass 1', 'Record pass 2']);
  await until(async () => (await takes.list(id))[0]?.take.complete === true);
  const { take } = (await takes.list(id))[0]!;
  expect((await takes.events(take.id)).map((e) => Math.round(e.at * 1000))).toEqual([1500, 1990]);

  // Out and in again, and the last pass is dropped.
  clock.now = 98.2;
  recorder.start();
  await until(() => recorder.state.getState().phase === 'recording');
  strike(8.5, 42, 50);
  expect(struck()).toHaveLength(3);
  recorder.dropPass();
  expect(struck()).toHaveLength(2);
  // It goes on: what comes now is kept.
  strike(8.8, 42, 60);
  expect(struck().map(([, , v]) => v)).toEqual([99, 60, 77]);
  recorder.stop();
});

test('punched in to replace, only what was played over gives way', async () => {
  const { bench, recorder, clock, strike, until, voices } = await studio('punch replace');
  bench.getState().setTransport({ loop: true, fromBar: 0, toBar: 1 });
  recorder.set({ mode: 'replace' });
  // The hat stands on the downbeat, the snare at half a second: recorded from 0.3 s to 0.8 s.
  [clock.started, clock.now] = [90, 90.3];
  recorder.start();
  await until(() => recorder.state.getState().phase === 'recording');
  clock.now = 90.8;
  strike(0.7, 36);
  recorder.stop();
  expect(voices()).toEqual(['hat-closed', 'kick']);
});

test('a dropped pass leaves the part, and stays out when the take is put down again; its events stay', async () => {
  const { bench, recorder, clock, strike, reach, record, until, takes, id } = await studio('drop');
  await record();
  strike(0.5, 36, 70);
  await reach(2.2, 1);
  strike(2.5, 38, 80);
  clock.now = (clock.started ?? 0) + 3;
  recorder.stop();
  await until(async () => (await takes.list(id))[0]?.take.complete === true);
  recorder.dropPass();
  await until(async () => (await takes.list(id))[0]?.take.dropped !== undefined);
  const { take } = (await takes.list(id))[0]!;
  const events = await takes.events(take.id);
  expect([take.dropped, events.length]).toEqual([[1], 2]);
  expect(hitsOfTake(bench.getState().part, take, events).map((h) => h.velocity)).toEqual([70]);
  expect(
    bench
      .getState()
      .part.hits.filter((h) => h.id.startsWith('take:'))
      .map((h) => h.velocity),
  ).toEqual([70]);
  bench.getState().undo();
  expect(bench.getState().part.hits.filter((h) => h.id.startsWith('take:'))).toHaveLength(2);
});
