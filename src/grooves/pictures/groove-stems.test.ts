import { HOUSE_GROOVES } from '@/core/groove/house-grooves';
import type { GrooveStep } from '@/core/model/groove';
import { layOutSteps, lensFor, magnificationOf, stepUnderHead } from './groove-stems';

const frame = { width: 420, height: 103, magnified: 3 };
const steps: GrooveStep[] = [
  { offset: 0, level: 1, n: 1 },
  { offset: 0.1, level: 0.5, n: 1 },
  { offset: -0.05, level: 1.5, n: 0 },
  { offset: 0.4, level: 2, n: 1 },
];

test('feet stand evenly, heads lean threefold, heights go by level, wide leans are broken', () => {
  const drawn = layOutSteps({ stepsPerBeat: 2 }, steps, frame);
  // 400 px for four steps: feet at 60, 160, 260, 360; the floor at 100, 94 px of height, 0.52 of them for level 1.
  expect(drawn.map((s) => s.footX)).toEqual([60, 160, 260, 360]);
  expect(drawn.map((s) => s.headX)).toEqual([60, 190, 245, 405].map((x) => expect.closeTo(x, 9)));
  expect(drawn.map((s) => s.headY)).toEqual([100 - 48.88, 100 - 24.44, 100 - 73.32, 6].map((y) => expect.closeTo(y, 9)));
  expect(drawn.map((s) => [s.side, s.broken, s.guessed, s.onBeat])).toEqual([
    ['line', false, false, true],
    ['late', false, false, false],
    ['early', false, true, true],
    ['late', true, false, false],
  ]);
});

test('heads of neighbours never cross, in any groove of ours, at any lens', () => {
  for (const groove of HOUSE_GROOVES) {
    const heads = layOutSteps(groove, groove.steps, { width: 300, height: 90, magnified: magnificationOf(15) }).map((s) => s.headX);
    heads.slice(1).forEach((x, i) => expect(x).toBeGreaterThan(heads[i]!));
    const shown = layOutSteps(groove, groove.steps, { width: 300, height: 90, magnified: magnificationOf(lensFor(groove)) });
    expect(shown.some((s) => s.broken)).toBe(false);
  }
});

test('a head dragged to a place says the step that stands there', () => {
  const drawn = layOutSteps({ stepsPerBeat: 2 }, steps, frame);
  for (const i of [0, 1, 2]) {
    const back = stepUnderHead(frame, 4, i, drawn[i]!.headX, drawn[i]!.headY);
    expect(back.offset).toBeCloseTo(steps[i]!.offset, 9);
    expect(back.level).toBeCloseTo(steps[i]!.level, 9);
  }
});
