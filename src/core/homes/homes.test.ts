import { smallPart } from '@tests/support/arbitraries';
import { randomStream } from '../random';
import { ticks, TICKS_PER_QUARTER } from '../units';
import { setOrigin } from '../commands/settings';
import type { Hit } from '../model/part';
import { MeterMap } from '../time/meter-map';
import { gridOfLine, homesOf, provisionalHome, shifted } from './homes';
import { betterOrigin, findOrigin } from './origin';

const Q = TICKS_PER_QUARTER;

test('homes are those of the hits; what was read with little certainty is doubtful until it is decided', () => {
  const part = smallPart([
    ['snare', 0, 90],
    ['snare', 0.26, 90],
    ['snare', 0.5, 90],
    ['snare', 0.75, 90],
  ]);
  const hits = part.hits.map(
    (h, i): Hit => [h, { ...h, sure: 0.89 }, { ...h, sure: 0.89, decided: true as const }, { ...h, sure: 0.9 }][i] as Hit,
  );
  expect([...homesOf({ hits }).ticks].map((t) => t / Q)).toEqual([0, 0.25, 0.5, 0.75]);
  expect([...homesOf({ hits }).doubtful]).toEqual([0, 1, 0, 0]);
});

test('the coarsest grid that holds a line, from its bar line', () => {
  const map = new MeterMap([{ tick: ticks(0), numerator: 7, denominator: 8 }]);
  const grid = (quarters: number) => gridOfLine(map, ticks(Math.round(quarters * Q)));
  expect([0, 3.5, 3, 0.5, 0.25, 1 / 3, 1 / 6, 1 / 16, 0.2].map(grid)).toEqual([
    '1/4',
    '1/4',
    '1/4',
    '1/8',
    '1/16',
    '1/8T',
    '1/16T',
    '1/64',
    undefined,
  ]);
});

test('a hit that nobody has read has the line that it stands on, else the nearest sixteenth', () => {
  const map = new MeterMap([]);
  const home = (quarters: number) => provisionalHome(map, ticks(Math.round(quarters * Q))) / Q;
  expect([1 / 3, 1 / 16, 0.26, 0.36, 3.9].map(home)).toEqual([expect.closeTo(1 / 3), 1 / 16, 0.25, 0.25, 4]);
});

test('moved, a hit takes its lines along', () => {
  const hit = { ...smallPart([['snare', 0.26, 90]]).hits[0]!, other: ticks(Q / 3) };
  expect(shifted(hit, Q)).toEqual({ ...hit, tick: hit.tick + Q, home: hit.home + Q, other: Q / 3 + Q });
  expect(shifted(hit, 0)).toBe(hit);
});

test('the lines move to the hits: homes follow by less than half a sixteenth', () => {
  const part = smallPart([
    ['snare', 1.1, 90],
    ['kick', 2.1, 90],
  ]);
  const moved = setOrigin(part, ticks(Math.round(0.1 * Q)));
  expect(moved.hits.map((h) => h.home / Q)).toEqual(part.hits.map((h) => expect.closeTo(h.home / Q + 0.1, 4)));
  // By a whole sixteenth: the same lines.
  expect(setOrigin(part, ticks(Q / 4)).hits).toEqual(part.hits);
});

describe('origin', () => {
  const late = (offset: number, scatter: number, step = 0.25) => {
    const random = randomStream(5);
    return smallPart(
      Array.from({ length: 64 }, (_, i) => ['hat-closed', i * step + offset + (random() - 0.5) * scatter, 90] as const),
      { bars: 8 },
    );
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
  expect(
    betterOrigin(
      smallPart([
        ['kick', 0.1, 90],
        ['kick', 1.1, 90],
      ]),
    ),
  ).toBeNull();
});

describe('an origin is shared by the hits, or is none', () => {
  test('most hits on the line and some late ones have no common distance', () => {
    const part = smallPart(
      Array.from({ length: 400 }, (_, i): [string, number, number] => ['hat-closed', i * 0.25 + (i % 5 === 4 ? 0.05 : 0), 80]),
      { bars: 25 },
    );
    expect(findOrigin(part).offset).toBe(0);
    expect(betterOrigin(part)).toBeNull();
  });

  test('the share of hits around it is told', () => {
    const part = smallPart(
      Array.from({ length: 400 }, (_, i): [string, number, number] => ['hat-closed', i * 0.25 + (i % 5 === 4 ? 0.16 : 0.05), 80]),
      { bars: 25 },
    );
    const finding = findOrigin(part);
    if (finding.offset !== 0) expect(finding.share).toBeCloseTo(0.8, 2);
    const even = smallPart(
      Array.from({ length: 64 }, (_, i): [string, number, number] => ['hat-closed', i * 0.25 + 0.05, 80]),
      { bars: 4 },
    );
    expect(findOrigin(even).share).toBe(1);
  });
});
