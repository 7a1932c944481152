import { endOfPart } from '@/core/part/part-time';
import { ticks, TICKS_PER_QUARTER } from '@/core/units';
import { smallPart } from '@tests/support/arbitraries';
import { axisOf, LEFT_MARGIN, tickOf, xOf } from '../stems/geometry/axis';
import { createBenchStore, type BenchStore } from '../store/bench-store';
import { layoutRows, RULER_HEIGHT } from '../stems/geometry/rows';
import {
  fitView,
  followPlayhead,
  pauseFollowing,
  reveal,
  revealBar,
  revealRow,
  scrollBy,
  showBars,
  wheelView,
  zoomAt,
  zoomAtWork,
} from './view-control';

const Q = TICKS_PER_QUARTER;
const WIDTH = 852;
const part = smallPart(
  Array.from({ length: 64 }, (_, i) => ['kick', i, 100] as const),
  { bars: 16 },
);

function open(): BenchStore {
  const store = createBenchStore('x', { part, head: 0 }, false, { appendEdits: async () => {}, settleHead: async () => {} } as never);
  fitView(store, WIDTH, 500);
  return store;
}
const view = (store: BenchStore) => store.getState().view;
const wheel = (e: Partial<WheelEvent>): WheelEvent =>
  ({ deltaX: 0, deltaY: 0, ctrlKey: false, metaKey: false, shiftKey: false, ...e }) as WheelEvent;

test('the first view shows two bars; another size keeps it', () => {
  const store = open();
  // Eight quarters on 852 pixels less the margins of 28 and 24.
  expect(view(store)).toMatchObject({ scroll: 0, pixelsPerQuarter: 100 });
  fitView(store, 400, 500);
  expect(view(store).pixelsPerQuarter).toBe(100);
});

test('zooming keeps what is under the pointer, and never goes out further than the whole part', () => {
  const store = open();
  scrollBy(store, 800, WIDTH);
  const under = tickOf(axisOf(view(store)), 300);
  zoomAt(store, 1.7, 300, WIDTH);
  expect(tickOf(axisOf(view(store)), 300)).toBeCloseTo(under, 3);
  for (let i = 0; i < 20; i++) zoomAt(store, 0.5, 300, WIDTH);
  expect(view(store)).toMatchObject({ scroll: 0, pixelsPerQuarter: 800 / 64 });
});

test('scrolling ends at the part’s start and end', () => {
  const store = open();
  scrollBy(store, -5000, WIDTH);
  expect(view(store).scroll).toBe(0);
  scrollBy(store, 1e6, WIDTH);
  expect(xOf(axisOf(view(store)), endOfPart(part))).toBeCloseTo(WIDTH - 24, 6);
});

test('the wheel: time by default, rows where they do not fit, zoom with Ctrl', () => {
  const store = open();
  wheelView(store, wheel({ deltaY: 100 }), 300, WIDTH, 500);
  expect(view(store).scroll).toBe(Q);
  wheelView(store, wheel({ deltaY: -100, ctrlKey: true }), 300, WIDTH, 500);
  expect(view(store).pixelsPerQuarter).toBeCloseTo(100 * Math.exp(0.22), 6);
  const many = Array.from({ length: 20 }, (_, i) => ({ voice: `key-${i}` }));
  store.getState().run('rows', (p) => ({ ...p, rows: many }));
  const { scroll } = view(store);
  wheelView(store, wheel({ deltaY: 70 }), 300, WIDTH, 500);
  expect([view(store).scrollRows, view(store).scroll]).toEqual([70, scroll]);
  wheelView(store, wheel({ deltaX: 50 }), 300, WIDTH, 500);
  expect(view(store).scroll).toBeGreaterThan(scroll);
});

test('a range of bars is shown whole', () => {
  const store = open();
  showBars(store, 4, 8, WIDTH);
  expect([xOf(axisOf(view(store)), 16 * Q), xOf(axisOf(view(store)), 32 * Q)]).toEqual([LEFT_MARGIN, WIDTH - 24]);
});

test('the page turns when the playhead leaves it, but never under a gesture', () => {
  const store = open();
  followPlayhead(store, ticks(7 * Q), WIDTH);
  expect(view(store).scroll).toBe(0);
  const drag = store.getState().open('drag', 'drag');
  followPlayhead(store, ticks(9 * Q), WIDTH);
  expect(view(store).scroll).toBe(0);
  drag.cancel();
  followPlayhead(store, ticks(9 * Q), WIDTH);
  expect(view(store).scroll).toBe(8 * Q);
});

test('following pauses when the view or a hit is worked on while it plays, and stays off where it was switched off', () => {
  const store = open();
  pauseFollowing(store, false);
  expect(store.getState().ui.follow).toBe('on');
  pauseFollowing(store, true);
  expect(store.getState().ui.follow).toBe('paused');
  followPlayhead(store, ticks(9 * Q), WIDTH);
  expect(view(store).scroll).toBe(0);
  store.getState().setUi({ follow: 'off' });
  pauseFollowing(store, true);
  followPlayhead(store, ticks(9 * Q), WIDTH);
  expect([store.getState().ui.follow, view(store).scroll]).toEqual(['off', 0]);
});

test('zooming by buttons keeps the selection in the middle, else the step cursor, else the middle of the view', () => {
  const store = open();
  const middle = () => tickOf(axisOf(view(store)), WIDTH / 2);
  // Hits 40 and 44 stand at quarters 40 and 44: their middle is quarter 42.
  store.getState().select(['h40', 'h44']);
  for (let i = 0; i < 3; i++) zoomAtWork(store, 1.5, WIDTH);
  expect(middle()).toBeCloseTo(42 * Q, 3);
  expect(view(store).pixelsPerQuarter).toBeCloseTo(100 * 1.5 ** 3, 6);
  store.getState().select([]);
  zoomAtWork(store, 1.5, WIDTH);
  expect(middle()).toBeCloseTo(42 * Q, 3);
  store.getState().setUi({ step: { voice: 'kick', tick: ticks(20 * Q) } });
  zoomAtWork(store, 1 / 1.5, WIDTH);
  expect(middle()).toBeCloseTo(20 * Q, 3);
});

test('a bar is brought into sight, and left where it is when it is in sight', () => {
  const store = open();
  revealBar(store, 1, WIDTH);
  expect(view(store).scroll).toBe(0);
  revealBar(store, 9, WIDTH);
  expect(view(store).scroll).toBe(36 * Q);
  reveal(store, ticks(38 * Q), WIDTH);
  expect(view(store).scroll).toBe(36 * Q);
});

test('a thousand bars fit into the window', () => {
  const store = createBenchStore('x', { part: { ...part, bars: 1000 }, head: 0 }, false, {
    appendEdits: async () => {},
    settleHead: async () => {},
  } as never);
  fitView(store, WIDTH, 500);
  showBars(store, 0, 1000, WIDTH);
  expect(xOf(axisOf(view(store)), endOfPart(store.getState().part))).toBeLessThanOrEqual(WIDTH - 24 + 1);
});

test('a row that opens tall among more than fit is scrolled into sight as a whole', () => {
  const voices = [
    'crash',
    'ride',
    'ride-bell',
    'hat-open',
    'hat-closed',
    'hat-pedal',
    'tom-high',
    'tom-mid',
    'tom-low',
    'snare',
    'clap',
    'kick',
  ];
  const many = smallPart(voices.map((v) => [v, 0, 90] as const));
  const store = createBenchStore('x', { part: { ...many, rows: voices.map((voice) => ({ voice })) }, head: 0 }, false, {
    appendEdits: async () => {},
    settleHead: async () => {},
  } as never);
  fitView(store, WIDTH, 500);
  for (const voice of ['kick', 'crash', 'tom-mid']) {
    store.getState().setFocus(voice);
    revealRow(store, 500);
    const box = layoutRows(store.getState().part.rows, 500, voice, view(store).scrollRows).find((b) => b.voice === voice)!;
    expect(box.top).toBeGreaterThanOrEqual(RULER_HEIGHT);
    expect(box.top + box.height).toBeLessThanOrEqual(500);
  }
});
