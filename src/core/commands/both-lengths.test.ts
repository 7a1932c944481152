import fc from 'fast-check';
import { partArbitrary, smallPart } from '@tests/support/arbitraries';
import { isNamedError } from '../errors';
import { EMPTY_FEEL, type Move } from '../model/feel';
import type { Part } from '../model/part';
import { tempoMapOf } from '../part/part-time';
import { performPart, writtenPerformance } from '../perform/perform';
import { ticks } from '../units';
import { gridTimes, timesLength } from './both-lengths';

const heard = (part: Part): [number, number][] =>
  [...performPart(part).ticks].map((t, i) => [Math.round(tempoMapOf(part).toSeconds(ticks(t)) * 1e5), performPart(part).velocities[i]!]);
const moves = (...list: Move[]) => ({ ...EMPTY_FEEL, moves: list });

test('twice the tempo in notes twice as long: what is heard stays, bars are counted otherwise', () => {
  const part = smallPart(
    [
      ['kick', 0, 100],
      ['hat-closed', 0.25, 60],
      ['snare', 1, 90],
      ['hat-closed', 1.75, 70],
    ],
    { bars: 1, feel: moves({ kind: 'swing', division: '1/16', percent: 60 }, { kind: 'lay', ms: 5, scope: { voices: ['snare'] } }) },
  );
  const long = timesLength(part, 2);
  expect([long.bars, long.tempo[0]!.microsecondsPerQuarter, long.hits.map((h) => h.tick / 80_640)]).toEqual([2, 250_000, [0, 0.5, 2, 3.5]]);
  expect((long.feel.moves[0] as { division: string }).division).toBe('1/8');
  expect(heard(long)).toEqual(heard(part));
  expect(timesLength(long, 0.5)).toEqual(part);
});

test('grids, grooves, scopes, sections and ornaments go along', () => {
  const groove = {
    format: 'nod-sway/groove@1' as const,
    name: 'Late twos',
    meter: [4, 4] as const,
    beats: 2,
    stepsPerBeat: 4,
    steps: Array.from({ length: 8 }, (_, i) => ({ offset: i % 2 ? 0.1 : 0, level: 1, n: 4 })),
    fit: 0.9,
  };
  const part: Part = {
    ...smallPart(
      [
        ['kick', 0, 100],
        ['hat-closed', 0.25, 60],
        ['hat-closed', 4.5, 60],
      ],
      { bars: 2 },
    ),
    feel: moves(
      { kind: 'groove', groove: groove as never, lean: 1, level: 1 },
      {
        kind: 'accents',
        grid: '1/8',
        levels: [1, 0.7],
        depth: 1,
        contrast: 1,
        scale: 1,
        add: 0,
        jitter: 0,
        floor: 1,
        ceiling: 127,
        scope: { bars: { every: 2, at: [2] }, steps: { grid: '1/8', of: 2, at: [1] } },
      },
    ),
    sections: [{ id: 'b', name: 'Bridge', from: 2, bars: 1 }],
  };
  const long = timesLength(part, 2);
  expect(long.sections).toEqual([{ id: 'b', name: 'Bridge', from: 3, bars: 2 }]);
  expect(long.feel.moves.map((m) => m.scope)).toEqual([
    undefined,
    { bars: { every: 4, at: [3, 4] }, steps: { grid: '1/4', of: 2, at: [1] } },
  ]);
  expect(heard(long)).toEqual(heard(part));
  expect(timesLength(long, 0.5)).toEqual(part);
});

test('what has no such length is refused by name', () => {
  const why = (part: Part, times: 2 | 0.5): unknown => {
    try {
      timesLength(part, times);
      return 'done';
    } catch (e) {
      return isNamedError(e) ? [e.code, e.message] : e;
    }
  };
  const part = smallPart([['kick', 0, 100]], { bars: 3 });
  expect(why({ ...part, tempo: [{ tick: ticks(0), microsecondsPerQuarter: 300_000 }] }, 2)).toEqual([
    'no-such-length',
    'The part cannot be converted: its tempo would lie outside of 20 to 300 BPM.',
  ]);
  expect(why({ ...part, feel: moves({ kind: 'swing', division: '1/32', percent: 55 }) }, 0.5)).toEqual([
    'no-such-length',
    'The part cannot be converted: there is no swing of 1/64.',
  ]);
  expect(why({ ...part, sections: [{ id: 'a', name: 'A', from: 2, bars: 2 }] }, 0.5)).toEqual([
    'no-such-length',
    expect.stringContaining('second half'),
  ]);
  // Three bars are two, the last of them half empty.
  expect(timesLength(part, 0.5).bars).toBe(2);
  expect([gridTimes('1/16T', 2), gridTimes('1/8', 0.5)]).toEqual(['1/8T', '1/16']);
});

test('of any part what is written stands at the same seconds, there and back', () => {
  fc.assert(
    fc.property(partArbitrary, fc.constantFrom(2 as const, 0.5 as const), (any, times) => {
      const part = { ...any, feel: EMPTY_FEEL };
      let other: Part;
      try {
        other = timesLength(part, times);
      } catch (e) {
        expect(isNamedError(e)).toBe(true);
        return;
      }
      const at = (of: Part) =>
        new Map([...writtenPerformance(of).ticks].map((t, i) => [of.hits[i]!.id, tempoMapOf(of).toSeconds(ticks(t))]));
      const [before, after] = [at(part), at(other)];
      for (const [id, seconds] of before) expect(Math.abs(after.get(id)! - seconds)).toBeLessThan(1e-4);
    }),
    { numRuns: 200 },
  );
});
