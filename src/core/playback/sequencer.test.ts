import { smallPart } from '@tests/support/arbitraries';
import { performPart } from '../perform/perform';
import { ticksOfBars } from '../commands/settings';
import type { Hit, Part } from '../model/part';
import { milliseconds, ticks, TICKS_PER_QUARTER } from '../units';
import { makeProgram, type Program } from './program';
import { PRE_ROLL_SECONDS, Sequencer, type ScheduledHit } from './sequencer';

const RATE = 1000;
const BLOCK = 10;
const LEAD = PRE_ROLL_SECONDS * RATE;
const Q = TICKS_PER_QUARTER;

/** At 120 BPM a quarter is 500 frames of a thousandth of a second, a bar 2,000. */
const part = smallPart(
  Array.from({ length: 16 }, (_, i) => ['kick', i, 100] as const),
  { bars: 4 },
);
const program = (of: Part, from: number, to: number, loop = true): Program => {
  const { start, end } = ticksOfBars(of, from, to);
  return makeProgram(
    of,
    performPart(of),
    { start, end, loop },
    (hit: Hit) => Number(hit.id.slice(1)),
    () => 0,
  );
};

function run(sequencer: Sequencer, from: number, to: number): ScheduledHit[] {
  const onsets: ScheduledHit[] = [];
  for (let frame = from; frame < to; frame += BLOCK) onsets.push(...sequencer.advance(frame, BLOCK));
  return onsets;
}

const started = (p: Program, at: number): Sequencer => {
  const s = new Sequencer(RATE);
  s.setProgram(p, 0);
  s.play(p.startTick, at);
  return s;
};
const brief = (onsets: ScheduledHit[]): [number, number][] => onsets.map((o) => [o.slot, o.frame]);

test('a loop narrowed around the playhead goes on from the same place', () => {
  const s = started(program(part, 0, 4), 0);
  expect(brief(run(s, 0, LEAD + 2600))).toEqual([0, 1, 2, 3, 4, 5].map((n) => [n, LEAD + n * 500]));
  // In bar 2: the loop becomes bar 2 alone.
  s.setProgram(program(part, 1, 2), LEAD + 2600);
  expect(brief(run(s, LEAD + 2600, LEAD + 6000))).toEqual(
    [
      [6, 3000],
      [7, 3500],
      [4, 4000],
      [5, 4500],
      [6, 5000],
      [7, 5500],
    ].map(([slot, t]) => [slot, LEAD + t!]),
  );
});

test('a hit just ahead of the playhead sounds in a new loop around it; one that sounded early does not sound twice', () => {
  const near = s1(program(part, 0, 4));
  // 40 ms before the third quarter: less than the pre-roll.
  near.setProgram(program(part, 0, 1), LEAD + 960);
  expect(brief(run(near, LEAD + 960, LEAD + 1100))).toEqual([[2, LEAD + 1000]]);
  // The third quarter sounded 60 ms early, at 940: written plainly it lies ahead at 960 and has sounded all the same.
  const early = { ...part, hits: part.hits.map((h) => (h.id === 'h2' ? { ...h, nudge: { ms: milliseconds(-60), velocity: 0 } } : h)) };
  const again = s1(program(early, 0, 4));
  again.setProgram(program(part, 0, 1), LEAD + 960);
  expect(brief(run(again, LEAD + 960, LEAD + 1600))).toEqual([[3, LEAD + 1500]]);
});

/** Started at 0 and played to 960 ms after the downbeat. */
function s1(p: Program): Sequencer {
  const s = started(p, 0);
  run(s, 0, LEAD + 960);
  return s;
}

test('a loop moved away from the playhead starts at its beginning', () => {
  const s = started(program(part, 0, 1), 0);
  run(s, 0, LEAD + 700);
  s.setProgram(program(part, 2, 3), LEAD + 700);
  expect(brief(run(s, LEAD + 700, LEAD + 2700))).toEqual([8, 9, 10, 11].map((slot, i) => [slot, LEAD + 700 + i * 500]));
});

test('a deleted hit does not sound, a new one sounds when it is due, one that was unmuted in its ring waits for the next pass', () => {
  const s = started(program(part, 0, 1), 0);
  run(s, 0, LEAD + 700);
  const without = { ...part, hits: part.hits.filter((h) => h.id !== 'h2') };
  s.setProgram(program(without, 0, 1), LEAD + 700);
  expect(brief(run(s, LEAD + 700, LEAD + 1700))).toEqual([[3, LEAD + 1500]]);
  s.setProgram(program(part, 0, 1), LEAD + 1700);
  expect(brief(run(s, LEAD + 1700, LEAD + 3100))).toEqual(
    [
      [0, 2000],
      [1, 2500],
      [2, 3000],
    ].map(([n, t]) => [n, LEAD + t!]),
  );
});

test('a hit that is deleted while it is held back does not sound', () => {
  const late = { ...part, hits: part.hits.map((h) => (h.id === 'h1' ? { ...h, nudge: { ms: milliseconds(200), velocity: 0 } } : h)) };
  const s = started(program(late, 0, 1), 0);
  run(s, 0, LEAD + 600);
  // Written at 500 it is past; performed at 700 it is to come: it is kept for 700.
  s.setProgram(program(part, 0, 1), LEAD + 600);
  const without = { ...part, hits: part.hits.filter((h) => h.id !== 'h1') };
  s.setProgram(program(without, 0, 1), LEAD + 650);
  expect(brief(run(s, LEAD + 650, LEAD + 1100))).toEqual([[2, LEAD + 1000]]);
});

test('a hit that was to come and would be past keeps its old time, once', () => {
  const late = { ...part, hits: part.hits.map((h) => (h.id === 'h1' ? { ...h, nudge: { ms: milliseconds(200), velocity: 0 } } : h)) };
  const s = started(program(late, 0, 1), 0);
  run(s, 0, LEAD + 600);
  s.setProgram(program(part, 0, 1), LEAD + 600);
  expect(brief(run(s, LEAD + 600, LEAD + 2600))).toEqual(
    [
      [1, 700],
      [2, 1000],
      [3, 1500],
      [0, 2000],
      [1, 2500],
    ].map(([n, t]) => [n, LEAD + t!]),
  );
});

test('a hit that sounded already and is moved later waits for the next pass', () => {
  const s = started(program(part, 0, 1), 0);
  run(s, 0, LEAD + 600);
  const late = { ...part, hits: part.hits.map((h) => (h.id === 'h1' ? { ...h, nudge: { ms: milliseconds(200), velocity: 0 } } : h)) };
  s.setProgram(program(late, 0, 1), LEAD + 600);
  expect(brief(run(s, LEAD + 600, LEAD + 2800))).toEqual(
    [
      [2, 1000],
      [3, 1500],
      [0, 2000],
      [1, 2700],
    ].map(([n, t]) => [n, LEAD + t!]),
  );
});

test('without a loop a late last hit still sounds, then playing ends', () => {
  const end = {
    ...part,
    hits: part.hits.slice(0, 4).map((h) => (h.id === 'h3' ? { ...h, nudge: { ms: milliseconds(240), velocity: 0 } } : h)),
  };
  const longer = { ...end, tempo: [{ tick: ticks(0), microsecondsPerQuarter: 200_000 }] };
  const s = started(program(longer, 0, 1, false), 0);
  expect(brief(run(s, 0, 3000))).toEqual(
    [
      [0, 0],
      [1, 200],
      [2, 400],
      [3, 840],
    ].map(([n, t]) => [n, LEAD + t!]),
  );
  expect(s.isPlaying).toBe(false);
});

test('the position follows the loop and its tempo map', () => {
  const changing = {
    ...part,
    tempo: [
      { tick: ticks(0), microsecondsPerQuarter: 500_000 },
      { tick: ticks(2 * Q), microsecondsPerQuarter: 1_000_000 },
    ],
  };
  const s = started(program(changing, 0, 1), 0);
  expect([0, 500, 1000, 2000, 2999, 3000].map((f) => Math.round((s.positionAt(LEAD + f) / Q) * 100) / 100)).toEqual([0, 1, 2, 3, 4, 0]);
});
