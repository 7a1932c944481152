import { addVelocity } from '@/core/commands/hits';
import { setLocked } from '@/core/commands/marks';
import type { Part } from '@/core/model/part';
import { ticks, TICKS_PER_QUARTER } from '@/core/units';
import { smallPart } from '@tests/support/arbitraries';
import { createBenchStore, type BenchStore } from '../store/bench-store';
import { deleteSelection, duplicateSelection, invertRow, repeatSelection, shiftSelection, workingBars } from './arrange';
import { fillFromCaret, moveCaret, moveCaretBar, moveCaretRow, toggleAtCaret, toggleCaret } from './caret';
import { copySelection, cutSelection, hasClip, paste } from './clipboard';
import { nextFinding } from './doubtful-hits';
import { clearNudges, mirrorSelection, nudgeSelection, setSelectionApart } from './nudging';

const said: string[] = [];
jest.mock('@/ui/notify', () => ({ say: (text: string) => said.push(text), sayWith: (text: string) => said.push(text) }));
let ids = 0;
jest.mock('nanoid', () => ({ nanoid: () => `id${ids++}` }));
beforeEach(() => {
  said.length = 0;
});

const STEP = TICKS_PER_QUARTER / 4;
const beat = (): Part =>
  smallPart(
    [
      ['kick', 0, 100],
      ['kick', 2, 90],
      ['snare', 1, 80],
      ['snare', 3, 80],
    ],
    { bars: 2 },
  );

function open(part: Part = beat()): BenchStore {
  return createBenchStore('x', { part, head: 0 }, false, { appendEdits: async () => {}, settleHead: async () => {} } as never);
}
const steps = (store: BenchStore, voice: string): number[] =>
  store
    .getState()
    .part.hits.filter((h) => h.voice === voice)
    .map((h) => h.tick / STEP);
const choose = (store: BenchStore, voice: string) =>
  store.getState().select(
    store
      .getState()
      .part.hits.filter((h) => h.voice === voice)
      .map((h) => h.id),
  );
const label = (store: BenchStore) => store.getState().history.undo.at(-1)?.label;

test('copies go behind or into the next bar, are selected, and do not pile up', () => {
  const store = open();
  choose(store, 'kick');
  repeatSelection(store);
  expect(steps(store, 'kick')).toEqual([0, 8, 16, 24]);
  expect(store.getState().selection.size).toBe(2);
  store.getState().undo();
  repeatSelection(store);
  choose(store, 'snare');
  duplicateSelection(store);
  // From beat 2 to the end of beat 4: three beats.
  expect(steps(store, 'snare')).toEqual([4, 12, 16, 24]);
  expect(label(store)).toBe('Duplicate 2 on-beat snare hits in bar 1');
});

test('copies on to steps that have a hit: replaced with their count, or joined with what is there, as chosen', () => {
  const store = open();
  choose(store, 'kick');
  repeatSelection(store);
  store.getState().select(
    store
      .getState()
      .part.hits.filter((h) => h.voice === 'kick' && h.tick < 16 * STEP)
      .map((h) => h.id),
  );
  store.getState().run('louder', (p) => addVelocity(p, store.getState().selection, 9));
  repeatSelection(store);
  expect(said.at(-1)).toContain('2');
  expect(steps(store, 'kick')).toEqual([0, 8, 16, 24]);
  expect(
    store
      .getState()
      .part.hits.filter((h) => h.voice === 'kick')
      .map((h) => h.velocity),
  ).toEqual([109, 99, 109, 99]);
});

test('joined on to a row that has all its hits already: said, and no step left', () => {
  const store = open();
  store.getState().setUi({ onto: 'join' });
  choose(store, 'kick');
  repeatSelection(store);
  store.getState().select(
    store
      .getState()
      .part.hits.filter((h) => h.voice === 'kick' && h.tick < 16 * STEP)
      .map((h) => h.id),
  );
  const undos = store.getState().history.undo.length;
  repeatSelection(store);
  expect(store.getState().history.undo).toHaveLength(undos);
  expect(steps(store, 'kick')).toEqual([0, 8, 16, 24]);
  expect(said.at(-1)).toContain('Nothing was added');
});

test('a shift wraps within the bars of the selection; without one the open row wraps around the part', () => {
  const store = open();
  choose(store, 'snare');
  shiftSelection(store, -5);
  expect(steps(store, 'snare')).toEqual([7, 15]);
  store.getState().undo();
  store.getState().select([]);
  store.getState().setFocus('kick');
  shiftSelection(store, -1);
  expect(steps(store, 'kick')).toEqual([7, 31]);
});

test('locked hits stay, and the label says how many', () => {
  const store = open();
  const [first] = store.getState().part.hits.filter((h) => h.voice === 'kick');
  store.getState().run('lock', (p) => setLocked(p, new Set([first!.id]), true));
  choose(store, 'kick');
  nudgeSelection(store, 3);
  expect(
    store
      .getState()
      .part.hits.filter((h) => h.voice === 'kick')
      .map((h) => h.nudge?.ms ?? 0),
  ).toEqual([0, 3]);
  expect(label(store)).toBe('Nudge later: one kick hit in bar 1, 1 locked left alone');
  store.getState().select([first!.id]);
  nudgeSelection(store, 1);
  expect(said.at(-1)).toBe('This hit is locked: unlock first.');
});

test('cutting and deleting leave locked hits, and so does deleting at the step cursor', () => {
  for (const remove of [cutSelection, deleteSelection]) {
    const store = open();
    const [first] = store.getState().part.hits.filter((h) => h.voice === 'kick');
    store.getState().run('lock', (p) => setLocked(p, new Set([first!.id]), true));
    choose(store, 'kick');
    remove(store);
    expect(steps(store, 'kick')).toEqual([0]);
    store.getState().select([first!.id]);
    remove(store);
    expect(steps(store, 'kick')).toEqual([0]);
    expect(said.at(-1)).toBe('This hit is locked: unlock first.');
    store.getState().setUi({ step: { voice: 'kick', tick: ticks(0) } });
    toggleAtCaret(store, () => {});
    expect(steps(store, 'kick')).toEqual([0]);
    expect(said.at(-1)).toBe('This hit is locked: unlock it first.');
  }
});

test('a pasted cut leaves out what stayed: the locked hit is in the part and not on the clipboard', () => {
  const store = open();
  const [first] = store.getState().part.hits.filter((h) => h.voice === 'kick');
  store.getState().run('lock', (p) => setLocked(p, new Set([first!.id]), true));
  choose(store, 'kick');
  cutSelection(store);
  store.getState().setUi({ step: { voice: 'kick', tick: ticks(16 * STEP) } });
  paste(store);
  expect(steps(store, 'kick')).toEqual([0, 16]);
});

test('at the step cursor two hits of one line, one of them locked: the other goes', () => {
  const store = open(
    smallPart([
      ['kick', 0, 100],
      ['kick', 0.05, 40],
    ]),
  );
  const [first] = store.getState().part.hits;
  store.getState().run('lock', (p) => setLocked(p, new Set([first!.id]), true));
  store.getState().setUi({ step: { voice: 'kick', tick: ticks(0) } });
  toggleAtCaret(store, () => {});
  expect(store.getState().part.hits.map((h) => h.id)).toEqual([first!.id]);
});

test('an inverted row: its empty steps are filled, its hits are gone, in the working bars', () => {
  const store = open();
  store.getState().setTransport({ fromBar: 0, toBar: 1 });
  expect(workingBars(store.getState())).toEqual({ from: 0, to: 1 });
  invertRow(store, 'kick');
  expect(steps(store, 'kick')).toEqual([1, 2, 3, 4, 5, 6, 7, 9, 10, 11, 12, 13, 14, 15]);
  invertRow(store, 'kick');
  expect(steps(store, 'kick')).toEqual([0, 8]);
});

test('cut and paste: onto the step cursor, one row onto another', () => {
  const store = open();
  choose(store, 'snare');
  cutSelection(store);
  expect(steps(store, 'snare')).toEqual([]);
  expect(hasClip()).toBe(true);
  store.getState().setUi({ step: { voice: 'kick', tick: ticks(17 * STEP) } });
  paste(store);
  expect(steps(store, 'kick')).toEqual([0, 8, 17, 25]);
  expect(store.getState().selection.size).toBe(2);
  // The clip survives its part: another Bench can take it; without a cursor it goes to the loop's start.
  const other = open(smallPart([['crash', 0, 90]]));
  paste(other);
  expect(steps(other, 'snare')).toEqual([0, 8]);
  other.getState().select([]);
  expect(copySelection(other)).toBe(false);
});

test('nudge units: ms, a tick of 960, a part of the placing step; zero and mirror', () => {
  const store = open();
  choose(store, 'snare');
  const nudges = () =>
    store
      .getState()
      .part.hits.filter((h) => h.voice === 'snare')
      .map((h) => h.nudge?.ms ?? 0);
  for (const [unit, expected] of [
    ['5 ms', 5],
    ['1 tick', 5.52],
    ['1/16 step', 13.33],
    ['1/8 step', 28.96],
  ] as const) {
    store.getState().setUi({ nudgeUnit: unit });
    nudgeSelection(store, 1);
    // At 120 BPM a tick of 960 is 0.52 ms, a sixteenth 125 ms.
    expect(nudges()[0]).toBeCloseTo(expected, 1);
  }
  mirrorSelection(store);
  expect(nudges()[0]).toBeLessThan(-28);
  clearNudges(store);
  expect(nudges()).toEqual([0, 0]);
  store.getState().select(store.getState().part.hits.map((h) => h.id));
  setSelectionApart(store, 8, 'snare');
  expect(nudges()).toEqual([0, 0]);
});

describe('the step cursor', () => {
  const placed: [string, number][] = [];
  const sound = (voice: string, velocity: number) => void placed.push([voice, velocity]);

  test('starts on what is selected, moves by lines and rows within the part, and selects what stands there', () => {
    const store = open();
    choose(store, 'snare');
    toggleCaret(store);
    expect(store.getState().ui.step).toEqual({ voice: 'snare', tick: 4 * STEP });
    moveCaret(store, 8);
    expect(store.getState().part.hits.find((h) => store.getState().selection.has(h.id))?.tick).toBe(12 * STEP);
    moveCaretRow(store, 1);
    expect(store.getState().ui.step?.voice).toBe('kick');
    moveCaretRow(store, 5);
    expect(store.getState().ui.step?.voice).toBe('kick');
    moveCaretBar(store, 'end');
    expect(store.getState().ui.step?.tick).toBe(31 * STEP);
    moveCaret(store, 3);
    expect(store.getState().ui.step?.tick).toBe(31 * STEP);
    moveCaretBar(store, 'previous');
    expect(store.getState().ui.step?.tick).toBe(16 * STEP);
    moveCaretBar(store, 'start');
    moveCaret(store, 8, true);
    expect(store.getState().selection.size).toBe(2);
    toggleCaret(store);
    expect(store.getState().ui.step).toBeNull();
  });

  test('lines restart at each bar: triplets in 7/8 leave a short step before the bar line', () => {
    const store = open({ ...smallPart([['kick', 0, 90]], { bars: 2 }), meter: [{ tick: ticks(0), numerator: 7, denominator: 8 }] });
    store.getState().setView({ grid: '1/8T' });
    toggleCaret(store);
    const bar = 3.5 * TICKS_PER_QUARTER;
    const line = TICKS_PER_QUARTER / 3;
    moveCaret(store, 10);
    expect(store.getState().ui.step?.tick).toBe(10 * line);
    moveCaret(store, 1);
    expect(store.getState().ui.step?.tick).toBe(bar);
    moveCaret(store, -1);
    expect(store.getState().ui.step?.tick).toBe(10 * line);
  });

  test('Enter places one hit of the velocity for single hits and takes away; fill paints to the end of the loop and repaints what is there', () => {
    const store = open();
    store
      .getState()
      .setUi({ step: { voice: 'kick', tick: ticks(4 * STEP) }, velocity: 93, paint: { levels: [110, 70], stride: 2, ghosts: false } });
    toggleAtCaret(store, sound);
    expect(placed).toEqual([['kick', 93]]);
    expect(steps(store, 'kick')).toEqual([0, 4, 8]);
    toggleAtCaret(store, sound);
    expect(steps(store, 'kick')).toEqual([0, 8]);
    fillFromCaret(store);
    const kicks = store.getState().part.hits.filter((h) => h.voice === 'kick');
    expect(kicks.map((h) => h.tick / STEP)).toEqual([0, 4, 6, 8, 10, 12, 14, 16, 18, 20, 22, 24, 26, 28, 30]);
    expect(kicks.slice(1).map((h) => h.velocity)).toEqual([110, 70, 110, 70, 110, 70, 110, 70, 110, 70, 110, 70, 110, 70]);
    store.getState().undo();
    expect(steps(store, 'kick')).toEqual([0, 8]);
  });
});

test('one key steps through what the open page lists, from the selection on, and begins again at its end', () => {
  const store = open();
  const [kick, snare, , late] = store.getState().part.hits;
  const findings = [kick!, snare!, late!].map((h) => ({ ids: [h.id], tick: h.tick, text: `found ${h.id}` }));
  store.getState().setUi({ findings });
  const step = (): string[] => {
    nextFinding(store);
    return [...store.getState().selection];
  };
  expect([step(), step(), step(), step()]).toEqual([[kick!.id], [snare!.id], [late!.id], [kick!.id]]);
  expect(said.at(-1)).toBe(`found ${kick!.id}`);
  // Of another selection the next behind it.
  store.getState().select([store.getState().part.hits[2]!.id]);
  expect(step()).toEqual([late!.id]);
  store.getState().setUi({ findings: null });
  nextFinding(store);
  expect(said.at(-1)).toBe('No hit is uncertain.');
});
