import { smallPart } from '@tests/support/arbitraries';
import { randomStream } from '../random';
import { ticks, TICKS_PER_QUARTER } from '../units';
import { homesOf } from './homes';
import { betterOrigin, findOrigin } from './origin';

const Q = TICKS_PER_QUARTER;

test('a beat of triplets has triplet homes, its neighbours keep theirs', () => {
  const part = smallPart([['snare', 0, 90], ['snare', 1 / 3, 90], ['snare', 2 / 3, 90], ['snare', 1, 90], ['snare', 1.25, 90]]);
  const homes = homesOf(part);
  expect([...homes.ticks].map((t) => Math.round((t / Q) * 12))).toEqual([0, 4, 8, 12, 15]);
  expect(homes.grids).toEqual(['1/8T', '1/8T', '1/8T', '1/16', '1/16']);
});

test('each row is fitted by itself', () => {
  const part = smallPart([['snare', 1 / 3, 90], ['hat-closed', 0.25, 90]]);
  expect(homesOf(part).grids).toEqual(['1/16', '1/8T']);
});

test('a hit that fits no grid goes to the nearest 1/16 and is doubtful past 30 % of a step', () => {
  const part = smallPart([['kick', 0.25 * 0.36, 100], ['kick', 1 + 0.25 * 0.2, 100]]);
  const homes = homesOf(part);
  // 0.36 of a 1/16 is 0.18 of an 1/8 and 0.72 of a 1/32: no candidate's step has it within 12 %.
  expect(homes.grids[0]).toBe('1/16');
  expect([...homes.doubtful]).toEqual([1, 0]);
});

test('a pinned home wins over the fitted one', () => {
  const part = smallPart([['kick', 0.1, 100]]);
  const pinned = { ...part, hits: part.hits.map((h) => ({ ...h, home: ticks(Q / 4) })) };
  expect(homesOf(pinned).ticks[0]).toBe(Q / 4);
});

describe('origin', () => {
  const late = (offset: number, scatter: number, step = 0.25) => {
    const random = randomStream(5);
    return smallPart(Array.from({ length: 64 }, (_, i) => ['hat-closed', i * step + offset + (random() - 0.5) * scatter, 90] as const), { bars: 8 });
  };
  test('a constant amount is found to a fifth of a millisecond', () => {
    // 0.085 of a quarter is 6854 ticks.
    expect(Math.abs(findOrigin(late(0.085, 0.01)).offset - 6854)).toBeLessThan(40);
    expect(Math.abs(findOrigin(late(-0.06, 0.01)).offset + 4838)).toBeLessThan(40);
  });
  test('nothing is offered for a part on its grid, a scattered one, or an empty one', () => {
    expect(findOrigin(late(0.001, 0.002)).offset).toBe(0);
    expect(findOrigin(late(0.05, 0.3)).offset).toBe(0);
    expect(findOrigin(smallPart([])).offset).toBe(0);
  });
  test('late triplets are measured on triplets', () => {
    const finding = findOrigin(late(0.05, 0.004, 1 / 3));
    expect(finding.grid).toBe('1/8T');
    expect(Math.abs(finding.offset - 4032)).toBeLessThan(40);
  });
});

test('better lines are offered where the whole part sits off them, and not once they are there, nor for a handful of hits', () => {
  const late = smallPart(Array.from({ length: 16 }, (_, i): [string, number, number] => ['hat-closed', i / 4 + 0.1, 80]));
  expect(betterOrigin(late)).toBeCloseTo(0.1 * Q, -1);
  expect(betterOrigin({ ...late, origin: ticks(0.1 * Q) })).toBeNull();
  expect(betterOrigin(smallPart([['kick', 0.1, 90], ['kick', 1.1, 90]]))).toBeNull();
});

describe('one place, several strokes', () => {
  test('a double does not dilute the fit of its beat: a hit on its line is on its line', () => {
    // A hat on the beat and on its eighth, the latter doubled 10 ms behind: 0.02 of a quarter at 120 BPM.
    const part = smallPart([['hat-closed', 0, 90], ['hat-closed', 0.5, 90], ['hat-closed', 0.52, 60]]);
    const homes = homesOf(part);
    expect([...homes.ticks].map((t) => t / Q)).toEqual([0, 0.5, 0.5]);
    expect([...homes.doubtful]).toEqual([0, 0, 0]);
  });

  test('a flam stands at its loudest stroke', () => {
    const part = smallPart([['snare', 0.94, 40], ['snare', 1, 110], ['snare', 2, 100]]);
    expect([...homesOf(part).ticks].map((t) => t / Q)).toEqual([1, 1, 2]);
  });
});

describe('an origin is shared by the hits, or is none', () => {
  test('most hits on the line and some late ones have no common distance', () => {
    const part = smallPart(Array.from({ length: 400 }, (_, i): [string, number, number] => ['hat-closed', i * 0.25 + (i % 5 === 4 ? 0.05 : 0), 80]), { bars: 25 });
    expect(findOrigin(part).offset).toBe(0);
    expect(betterOrigin(part)).toBeNull();
  });

  test('the share of hits around it is told', () => {
    const part = smallPart(Array.from({ length: 400 }, (_, i): [string, number, number] => ['hat-closed', i * 0.25 + (i % 5 === 4 ? 0.16 : 0.05), 80]), { bars: 25 });
    const finding = findOrigin(part);
    if (finding.offset !== 0) expect(finding.share).toBeCloseTo(0.8, 2);
    const even = smallPart(Array.from({ length: 64 }, (_, i): [string, number, number] => ['hat-closed', i * 0.25 + 0.05, 80]), { bars: 4 });
    expect(findOrigin(even).share).toBe(1);
  });
});
