import 'fake-indexeddb/auto';
import { smallPart } from '@tests/support/arbitraries';
import { excerptOf } from '@/core/commands/excerpt';
import type { Part } from '@/core/model/part';
import type { QueuedLoop } from '@/core/playback/player';
import { NO_OWN_SOUNDS } from '@/core/model/own-sound';
import { ticks, TICKS_PER_QUARTER, type Ticks } from '@/core/units';
import type { SoundEngine } from '@/sound/engine';
import { HitNumbers } from '@/sound/slots';
import { createBenchStore } from '../store/bench-store';
import type { PartStore } from '@/storage/part-store';
import { Conductor } from './conductor';

const Q = TICKS_PER_QUARTER;
const four: Part = {
  ...smallPart(Array.from({ length: 16 }, (_, i): [string, number, number] => ['rim', i, 90])),
  bars: 4,
  sections: [
    { id: 'v', name: 'Verse', from: 1, bars: 1 },
    { id: 'c', name: 'Chorus', from: 3, bars: 2, leave: 'end' },
  ],
};

/** A player that does what it is told, and plays nothing. */
function fakeEngine() {
  const listeners = new Set<() => void>();
  const fake = {
    name: '',
    isPlaying: false,
    at: ticks(0) as Ticks,
    now: 0,
    programs: [] as { name: string; start: number; end: number }[],
    queue: [] as { name: string; when: string; start: number }[],
    ownSounds: NO_OWN_SOUNDS,
    levelOf: () => 0,
    rowsOf: () => () => 0,
    subscribe: (l: () => void) => (listeners.add(l), () => listeners.delete(l)),
    get playing() {
      return fake.isPlaying ? { name: fake.name, next: null } : null;
    },
    position: () => (fake.isPlaying ? fake.at : null),
    setPrograms: ({ performed }: QueuedLoop['versions'], name: string) =>
      void fake.programs.push({ name, start: performed.startTick / Q, end: performed.endTick / Q }),
    setQueue: (cues: readonly QueuedLoop[]) =>
      void (fake.queue = cues.map(({ name, when, versions }) => ({ name, when, start: versions.performed.startTick / Q }))),
    tell: () => listeners.forEach((l) => l()),
  };
  return fake;
}

function stage(part: Part = four) {
  jest.useFakeTimers();
  Object.assign(globalThis, { requestAnimationFrame: (work: () => void) => setTimeout(work, 16), cancelAnimationFrame: clearTimeout });
  const store = createBenchStore('p', { part, head: 0 } as never, false, { append: () => Promise.resolve() } as unknown as PartStore);
  const engine = fakeEngine();
  const conductor = new Conductor(store, engine as unknown as SoundEngine, new HitNumbers());
  const stop = conductor.follow();
  store.getState().setTransport({ loop: true, fromBar: 0, toBar: 1 });
  const start = () => {
    conductor.begin(store.getState());
    Object.assign(engine, { isPlaying: true, name: engine.programs.at(-1)!.name });
    engine.tell();
    jest.advanceTimersByTime(50);
  };
  const takeOver = () => {
    engine.name = engine.queue[0]!.name;
    engine.tell();
    jest.advanceTimersByTime(50);
  };
  return { store, engine, conductor, start, takeOver, end: () => (stop(), jest.useRealTimers()) };
}

test('a section that is called waits as the one that sounds may be left; what was switched is remembered', () => {
  const { store, engine, conductor, start, takeOver, end } = stage();
  start();
  conductor.call('c');
  jest.advanceTimersByTime(50);
  expect(engine.queue).toMatchObject([{ when: 'bar', start: 8 }]);
  expect(conductor.state.getState().next).toMatchObject({ kind: 'bars', from: 2, to: 4 });
  engine.now = 4;
  takeOver();
  expect(conductor.state.getState()).toMatchObject({ sounding: { from: 2, to: 4 }, next: null, switched: [{ section: 'v', times: 2 }] });
  // The chorus is left at the end of the section.
  conductor.call('v');
  jest.advanceTimersByTime(50);
  expect(engine.queue).toMatchObject([{ when: 'end', start: 0 }]);
  expect(store.getState().transport).toMatchObject({ fromBar: 0, toBar: 1 });
  end();
});

test('bars before the loop sound once, then the loop takes over at their end; where there are none it begins at once', () => {
  const { store, engine, conductor, takeOver, end } = stage();
  store.getState().setTransport({ loop: true, fromBar: 3, toBar: 4 });
  const begin = (bars: number) => {
    const wanted = conductor.begin(store.getState(), bars);
    Object.assign(engine, { isPlaying: true, name: engine.programs.at(-1)!.name });
    engine.tell();
    jest.advanceTimersByTime(50);
    return conductor.startOf(store.getState(), wanted) / Q;
  };
  expect(begin(2)).toBe(4);
  expect(engine.programs.at(-1)).toMatchObject({ start: 4, end: 12 });
  expect(engine.queue).toMatchObject([{ when: 'end', start: 12 }]);
  takeOver();
  expect([conductor.state.getState().sounding, engine.queue]).toMatchObject([{ from: 3, to: 4 }, []]);
  engine.isPlaying = false;
  engine.tell();
  // More than there are: from the first.
  expect(begin(8)).toBe(0);
  engine.isPlaying = false;
  engine.tell();
  store.getState().setTransport({ fromBar: 0, toBar: 1 });
  expect(begin(2)).toBe(0);
  expect(engine.queue).toEqual([]);
  end();
});

test('a loop that is changed around the playhead changes at once; another waits for the bar', () => {
  const { store, engine, start, end } = stage();
  start();
  engine.at = ticks(2 * Q);
  store.getState().setTransport({ toBar: 2 });
  jest.advanceTimersByTime(50);
  expect([engine.programs.at(-1), engine.queue]).toEqual([{ name: engine.name, start: 0, end: 8 }, []]);
  store.getState().setTransport({ fromBar: 3, toBar: 4 });
  jest.advanceTimersByTime(50);
  expect(engine.programs.at(-1)).toMatchObject({ start: 0, end: 8 });
  expect(engine.queue).toMatchObject([{ when: 'bar', start: 12 }]);
  end();
});

test('passes that are drawn anew are known two passes and two seconds ahead, and go on from each other', () => {
  const { engine, start, takeOver, end } = stage({ ...four, everyPass: 'anew', hits: four.hits.map((h) => ({ ...h, chance: 50 })) });
  start();
  // A bar lasts two seconds.
  expect(engine.queue.map((q) => q.when)).toEqual(['end', 'end']);
  const [, second] = engine.queue.map((q) => q.name);
  takeOver();
  // What was to come keeps its name, so that it is not put off.
  expect(engine.queue[0]!.name).toBe(second);
  expect(engine.queue).toHaveLength(2);
  end();
});

test('an idea takes over at once at the same place, or with the bar line; the part plays until then', () => {
  const { store, engine, conductor, start, takeOver, end } = stage();
  const { getState } = store;
  const copy = excerptOf(four, 1, 2);
  getState().addIdea({ id: 'p~a', partId: 'p', letter: 'A', bars: 1, head: 0, part: { ...copy, hits: copy.hits.slice(0, 2) } });
  getState().setTransport({ fromBar: 1, toBar: 2 });
  start();
  engine.at = ticks(5 * Q);
  const name = engine.name;
  conductor.openIdea('p~a', 'now');
  jest.advanceTimersByTime(50);
  expect(getState().part.hits).toHaveLength(2);
  // The same ticks: it goes on under its name.
  expect([engine.programs.at(-1), engine.queue]).toEqual([{ name, start: 4, end: 8 }, []]);
  conductor.openIdea(null, 'bar');
  jest.advanceTimersByTime(50);
  expect(getState().part.hits).toHaveLength(16);
  expect([engine.programs.at(-1)!.name, engine.queue]).toMatchObject([name, [{ when: 'bar', start: 4 }]]);
  expect(conductor.state.getState()).toMatchObject({ sounding: { idea: 'p~a' }, next: { idea: null } });
  takeOver();
  expect(conductor.state.getState()).toMatchObject({ sounding: { idea: null, from: 1, to: 2 }, next: null });
  // One whose bars lie elsewhere comes in at the same place of the bar.
  getState().addIdea({ id: 'p~b', partId: 'p', letter: 'B', bars: 1, head: 0, part: excerptOf(four, 3, 4) });
  conductor.openIdea('p~b', 'now');
  jest.advanceTimersByTime(50);
  expect(engine.queue).toMatchObject([{ when: 'anywhere', start: 12 }]);
  end();
});
