import fc from 'fast-check';
import { freePart } from '@tests/support/free-part';
import { playTake, SLOPPINESS, STYLES, type Sloppiness } from '@tests/support/takes';
import { smallPart } from '@tests/support/arbitraries';
import { demoCues } from '@/demo/cues';
import { findBeats } from '../beats/find-beats';
import { doublePart } from '../commands/bars';
import { setTempo } from '../commands/settings';
import type { Hit, Part } from '../model/part';
import { gridOfPlayer } from '../part/grid-of-player';
import { meterMapOf, tempoMapOf } from '../part/part-time';
import { exportPart } from '../smf/export-part';
import { importPart } from '../smf/import-part';
import { listLanes } from '../smf/lanes';
import { readSmf } from '../smf/read';
import { bpm, ticks, TICKS_PER_QUARTER } from '../units';
import { tempoOfStretches } from './beat-tempo';
import { doubleTempo, halfTempo, tempoOfCount, withBeatOne, withBeatsToBar, type Count } from './adjust-count';
import { explainedByGrid, fitsNoGrid } from './fits-its-grid';
import { followPlayer, hindranceTo } from './follow';
import { followAgain, moveBeat, rangeOfPlayer, setSteady } from './player-tempo';
import { strokesOfPart } from './strokes-of-part';

const Q = TICKS_PER_QUARTER;
const byId = (part: Part): Map<string, Hit> => new Map(part.hits.map((h) => [h.id, h]));
/** When each hit sounds, in ms from the first. */
const timesOf = (part: Part): Map<string, number> => {
  const map = tempoMapOf(part);
  const first = map.toSeconds(part.hits[0]!.tick);
  return new Map(part.hits.map((h) => [h.id, (map.toSeconds(h.tick) - first) * 1000]));
};
const furthest = (a: ReadonlyMap<string, number>, b: ReadonlyMap<string, number>): number =>
  Math.max(...[...a].map(([id, at]) => Math.abs(at - b.get(id)!)));
const followed = (seed: number) => {
  const { part } = freePart(seed);
  const [reading] = findBeats(strokesOfPart(part))!;
  return { part, reading: reading!, result: followPlayer(part, reading!, 'kept') };
};

test('tempo events carry their rounding: no beat is off by more than half a microsecond a quarter', () => {
  // A third of a second is no whole number of microseconds: 333333, and every third one makes up for the others.
  expect(
    tempoOfStretches(
      Array.from({ length: 4 }, () => ({ quarters: 1, seconds: 1 / 3 })),
      ticks(0),
    ),
  ).toEqual([
    { tick: 0, microsecondsPerQuarter: 333_333 },
    { tick: Q, microsecondsPerQuarter: 333_334 },
    { tick: 2 * Q, microsecondsPerQuarter: 333_333 },
    { tick: 3 * Q, microsecondsPerQuarter: 333_333 },
  ]);
  expect(tempoOfStretches([{ quarters: 1.5, seconds: 0.9 }], ticks(960))).toEqual([{ tick: 960, microsecondsPerQuarter: 600_000 }]);
  fc.assert(
    fc.property(fc.array(fc.double({ min: 0.2, max: 2, noNaN: true }), { minLength: 1, maxLength: 80 }), (lengths) => {
      const changes = tempoOfStretches(
        lengths.map((seconds) => ({ quarters: 1, seconds })),
        ticks(0),
      );
      let [wanted, written] = [0, 0];
      changes.forEach(({ microsecondsPerQuarter }, i) => {
        wanted += lengths[i]!;
        written += microsecondsPerQuarter / 1e6;
        expect(Math.abs(wanted - written)).toBeLessThan(0.51e-6);
      });
    }),
  );
});

describe('a grid that follows the player', () => {
  test.each([3, 7, 8, 11, 33])(
    'take %i: hits keep their times, lines lie under the beats, and the bars begin with the first downbeat',
    (seed) => {
      const { part, reading, result } = followed(seed);
      expect(furthest(timesOf(part), timesOf(result))).toBeLessThan(0.01);
      const map = tempoMapOf(result);
      const offset = map.toSeconds(result.hits[0]!.tick) - tempoMapOf(part).toSeconds(part.hits[0]!.tick);
      const quarters = reading.meter[1] === 8 ? 1.5 : 1;
      // Beats of the reading stand on beats of the grid, its downbeat on a bar line.
      const meters = meterMapOf(result);
      reading.beats.forEach((at, i) => {
        const tick = map.toTicks((at + offset) as never);
        const beat = (tick - result.origin) / (quarters * Q);
        if (i < reading.beats.length - 1) expect(Math.abs(beat - Math.round(beat))).toBeLessThan(0.001);
      });
      const one = map.toTicks((reading.beats[reading.downbeat]! + offset) as never);
      const bar = meters.barAt(ticks(one + 100));
      expect(Math.abs(bar.start - one)).toBeLessThan(2);
      // The first hit is in the first bar, or leans on its line.
      expect(result.hits[0]!.tick).toBeGreaterThan(result.origin - quarters * Q * 0.3);
      expect(result.hits[0]!.tick).toBeLessThan(result.origin + meters.barOf(0).length);
      expect(meters.barAt(result.hits.at(-1)!.tick).index).toBeLessThan(result.bars);
      expect(gridOfPlayer(result)).toBe('follows');
      expect(explainedByGrid(result)).toBeGreaterThan(explainedByGrid(part) + 0.3);
    },
  );

  test('exported at 1920 and imported again, all times are within 0.3 ms', () => {
    const { result } = followed(20);
    const { bytes, ppq } = exportPart(result);
    expect(ppq).toBeGreaterThanOrEqual(1920);
    const file = readSmf(bytes);
    const again = importPart(file, { name: 'again', lanes: listLanes(file) }).part;
    const [was, now] = [[...timesOf(result).values()].sort((a, b) => a - b), [...timesOf(again).values()].sort((a, b) => a - b)];
    expect(now).toHaveLength(was.length);
    was.forEach((at, i) => expect(Math.abs(at - now[i]!)).toBeLessThan(0.3));
  });

  test('the time before the first bar is kept or cut; a first bar before zero moves everything later', () => {
    // Beats at 1.0, 1.5 ... s; the first hit on beat 3 of a bar: its bar began 1 s before it, at 0.
    const part = smallPart([
      ['kick', 2, 100],
      ['snare', 3, 100],
      ['kick', 4, 100],
    ]);
    const count: Count = { meter: [4, 4], beats: [1, 1.5, 2, 2.5, 3], downbeat: 2 };
    const kept = followPlayer(part, count, 'kept');
    expect([kept.origin, kept.bars, kept.hits.map((h) => h.tick)]).toEqual([0, 2, [2 * Q, 3 * Q, 4 * Q]]);
    const later = followPlayer(part, { ...count, downbeat: 0 }, 'kept');
    expect([later.origin, later.bars, later.hits.map((h) => h.tick / Q)]).toEqual([2 * Q, 1, [2, 3, 4]]);
    expect(followPlayer(part, { ...count, downbeat: 0 }, 'cut').hits.map((h) => h.tick / Q)).toEqual([0, 1, 2]);
    // On beat 4 the bar began at -0.5 s: all is half a second later.
    const before = followPlayer(part, { ...count, downbeat: 1 }, 'kept');
    expect([before.origin, before.hits.map((h) => h.tick / Q)]).toEqual([0, [3, 4, 5]]);
  });

  test('breaks, sections and rows with cycles of their own hinder it', () => {
    const part = smallPart([['kick', 0, 100]]);
    expect(hindranceTo(part)).toBeNull();
    expect(hindranceTo({ ...part, sections: [{ id: 's', name: 'A', from: 1, bars: 1 }] })).toBe('sections');
    expect(hindranceTo({ ...part, rows: [{ voice: 'kick', cycle: { grid: '1/16', steps: 5 } }] })).toBe('cycles');
  });
});

describe('a steady tempo with the feel kept', () => {
  test('each hit keeps its line and its lean in ms; the player comes back as it was', () => {
    const { result } = followed(8);
    const range = rangeOfPlayer(result)!;
    const steady = setSteady(result, range.mean);
    expect([gridOfPlayer(steady), steady.tempo.length]).toEqual(['steady', 1]);
    const [a, b] = [tempoMapOf(result), tempoMapOf(steady)];
    const was = byId(result);
    for (const hit of steady.hits) {
      const before = was.get(hit.id)!;
      expect(hit.home).toBe(before.home);
      expect(Math.abs(b.between(hit.home, hit.tick) - a.between(before.home, before.tick))).toBeLessThan(0.02);
    }
    const back = followAgain(steady);
    expect(gridOfPlayer(back)).toBe('follows');
    for (const hit of back.hits) expect(Math.abs(hit.tick - was.get(hit.id)!.tick)).toBeLessThanOrEqual(1);
  });

  test('by hand: 10 ms after its line at 120 is 10 ms after it at 100', () => {
    const part = smallPart([['snare', 1, 90]]);
    const late = { ...part, hits: part.hits.map((h) => ({ ...h, tick: ticks(h.tick + (0.01 / 0.5) * Q) })) };
    // 10 ms are a sixtieth of 0.6 s.
    expect(setSteady(late, bpm(100)).hits[0]!.tick).toBe(Math.round(Q + Q / 60));
  });

  test('scaling the tempo and repeating bars also change the tempo of the player', () => {
    const { result } = followed(8);
    const faster = setTempo(result, bpm(200));
    expect([gridOfPlayer(faster), faster.playerTempo]).toEqual(['follows', faster.tempo]);
    let n = 0;
    const twice = doublePart(setSteady(result, bpm(150)), () => `n${n++}`);
    expect(twice.tempo).toHaveLength(1);
    expect(twice.playerTempo!.at(-1)!.tick).toBeGreaterThan(result.playerTempo!.at(-1)!.tick * 1.8);
    expect(rangeOfPlayer(twice)!.mean).toBeCloseTo(rangeOfPlayer(result)!.mean, 1);
  });
});

describe('a beat that is moved', () => {
  const { result } = followed(8);
  test('hits sound when they did; those beyond its neighbours keep their ticks', () => {
    const map = tempoMapOf(result);
    const index = 9;
    const moved = moveBeat(result, index, map.toSeconds(result.tempo[index]!.tick) + 0.03);
    expect(furthest(timesOf(result), timesOf(moved))).toBeLessThan(0.01);
    expect(tempoMapOf(moved).toSeconds(result.tempo[index]!.tick)).toBeCloseTo(map.toSeconds(result.tempo[index]!.tick) + 0.03, 5);
    expect([moved.playerTempo, moved.tempo.length]).toEqual([moved.tempo, result.tempo.length]);
    const [from, to] = [result.tempo[index - 1]!.tick, result.tempo[index + 1]!.tick];
    const was = byId(result);
    for (const hit of moved.hits) {
      const before = was.get(hit.id)!;
      expect(hit.home).toBe(before.home);
      if (before.tick <= from || before.tick > to) expect(Math.abs(hit.tick - before.tick)).toBeLessThanOrEqual(1);
    }
    expect(moved.hits.some((h) => Math.abs(h.tick - was.get(h.id)!.tick) > 100)).toBe(true);
  });

  test('it stays between its neighbours; the first one cannot move', () => {
    const far = moveBeat(result, 9, 1e6);
    expect(Math.min(...far.tempo.map((t) => t.microsecondsPerQuarter))).toBeGreaterThan(10_000);
    expect(tempoMapOf(far).toSeconds(result.tempo[10]!.tick)).toBeCloseTo(tempoMapOf(result).toSeconds(result.tempo[10]!.tick), 5);
    expect(moveBeat(result, 0, 5)).toBe(result);
    expect(moveBeat(result, 9999, 5)).toBe(result);
  });
});

test('adjusting a count: half and double tempo, another beat 1, another number of beats', () => {
  const count: Count = { meter: [4, 4], beats: [0, 0.5, 1, 1.5, 2, 2.5, 3], downbeat: 1 };
  expect(tempoOfCount(count)).toEqual({ mean: 120, min: 120, max: 120 });
  expect(halfTempo(count)).toEqual({ meter: [4, 4], beats: [0.5, 1.5, 2.5], downbeat: 0 });
  expect(doubleTempo({ ...count, beats: [0, 0.5, 1] })).toEqual({ meter: [4, 4], beats: [0, 0.25, 0.5, 0.75, 1], downbeat: 2 });
  expect(withBeatOne(count, 7).downbeat).toBe(3);
  expect(withBeatsToBar({ ...count, downbeat: 3 }, 3)).toEqual({ ...count, meter: [3, 4], downbeat: 3 });
});

describe('a part that was played freely is noticed', () => {
  test('at least 19 of 20 free takes are', () => {
    const seeds = Array.from({ length: 60 }, (_, i) => 9000 + i);
    expect(seeds.filter((seed) => fitsNoGrid(freePart(seed).part)).length).toBeGreaterThanOrEqual(57);
  });

  test('no take to a click is, however sloppy, and no demo part', () => {
    for (const style of STYLES)
      for (const sloppiness of Object.keys(SLOPPINESS) as Sloppiness[])
        for (let seed = 21; seed < 24; seed++) expect(fitsNoGrid(playTake(style, sloppiness, seed).part)).toBe(false);
    for (const { part } of demoCues()) expect([part.name, fitsNoGrid(part)]).toEqual([part.name, false]);
  });

  test('nor is one whose grid was made, nor one of a few hits', () => {
    const { part, result } = followed(3 + 5);
    expect(fitsNoGrid(result)).toBe(false);
    expect(fitsNoGrid({ ...part, hits: part.hits.slice(0, 20) })).toBe(false);
  });
});
