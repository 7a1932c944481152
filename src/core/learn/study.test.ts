import { smallPart } from '@tests/support/arbitraries';
import { writtenPerformance } from '../perform/perform';
import type { Part } from '../model/part';
import { normalStream, randomStream } from '../random';
import { studyGroove } from './study';

/** Sixteen bars of eighths at 120 BPM, each hit moved and levelled by a function of its step and of chance. */
function played(
  msOf: (step: number, normal: () => number) => number,
  velocityOf: (step: number, normal: () => number) => number = () => 80,
  bars = 16,
): Part {
  const normal = normalStream(randomStream(11));
  const hits = Array.from({ length: bars * 8 }, (_, i): [string, number, number] => [
    'hat-closed',
    Math.max(0, i / 2 + msOf(i % 8, normal) / 500),
    Math.round(velocityOf(i % 8, normal)),
  ]);
  return smallPart(hits, { bars });
}
const study = (part: Part, without?: ReadonlySet<number>) =>
  studyGroove(part, { stepsPerBeat: 2, ...(without ? { without } : {}) }, writtenPerformance(part));

test('dead straight and flat: nothing to learn; accents alone can be learnt', () => {
  expect(study(played(() => 0))).toMatchObject({ timing: 'none', levels: 'none', outliers: [], scatterMs: 0 });
  expect(
    study(
      played(
        () => 0,
        (s) => (s % 2 ? 60 : 100),
      ),
    ),
  ).toMatchObject({ timing: 'none', levels: 'habit' });
});

test('scatter alone is not a habit; a lean under the same scatter is', () => {
  const scatter = study(
    played(
      (_, normal) => 8 * normal(),
      (_, normal) => 80 + 6 * normal(),
    ),
  );
  expect(scatter).toMatchObject({ timing: 'scatter', levels: 'scatter' });
  expect(Math.abs(scatter.scatterMs - 8)).toBeLessThan(1.5);
  expect(study(played((s, normal) => (s % 2 ? 12 : 0) + 8 * normal()))).toMatchObject({ timing: 'habit' });
});

test('one hit a step: too few to tell', () => {
  expect(
    study(
      played(
        (s) => s,
        () => 80,
        1,
      ),
    ),
  ).toMatchObject({ timing: 'few' });
});

test('scatter is rarely taken for a habit', () => {
  let taken = 0;
  for (let seed = 1; seed <= 60; seed++) {
    const normal = normalStream(randomStream(seed));
    const part = smallPart(
      Array.from({ length: 64 }, (_, i): [string, number, number] => ['hat-closed', Math.max(0, i / 2 + 0.016 * normal()), 80]),
      { bars: 8 },
    );
    if (study(part).timing === 'habit') taken++;
  }
  expect(taken).toBeLessThanOrEqual(3);
});

test('outliers are named with how far they are off, and can be left out', () => {
  const part = played((s, normal) => (s % 2 ? 10 : 0) + 2 * normal());
  const moved = { ...part, hits: part.hits.map((h, i) => (i === 21 ? { ...h, tick: (h.tick + 6000) as typeof h.tick } : h)) };
  const { outliers } = study(moved);
  expect(outliers.map((o) => [o.hit, o.step])).toEqual([[21, 5]]);
  // 6,000 of 80,640 ticks at 500 ms a quarter: 37.2 ms, and its own scatter.
  expect(Math.abs(outliers[0]!.ms - 37.2)).toBeLessThan(7);
  const without = study(moved, new Set([21]));
  expect([without.outliers.length, without.hits]).toEqual([0, 127]);
});

test('all steps late by the same: said, since the lines want moving', () => {
  expect(study(played((_, normal) => 25 + normal())).commonMs).toBeCloseTo(25, 0);
  expect(study(played((s) => (s % 2 ? 20 : 0))).commonMs).toBeNull();
});

test('steps whose hits fall into two places explain nothing: no habit in time', () => {
  // Of each step's hits two thirds are 30 ms late, one third 90 ms early: the middle makes it worse.
  const part = smallPart(
    Array.from({ length: 96 }, (_, i): [string, number, number] => ['hat-closed', 1 + i / 2 + (i % 3 === 0 ? -0.18 : 0.06), 80]),
    { bars: 16 },
  );
  const { groove, timing } = study(part);
  expect(groove.fit!).toBeLessThan(0);
  expect(timing).toBe('scatter');
});
