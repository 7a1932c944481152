import type { GrooveStep } from '@/core/model/groove';
import { layOutSteps, type StemsFrame } from '../pictures/groove-stems';
import { dragStep, pressStep } from './drag-step';

const frame: StemsFrame = { width: 420, height: 103, magnified: 3 };
const steps: GrooveStep[] = Array.from({ length: 4 }, () => ({ offset: 0, level: 1, n: 1 }));
const press = () => pressStep(layOutSteps({ stepsPerBeat: 4 }, steps, frame)[1]!, steps[1]!, 4, 161, 50);

test('nothing under 4 px; then sideways is lean, with the head under the pointer', () => {
  expect(dragStep(press(), 164, 51, false, frame).change).toBeNull();
  const { drag, change } = dragStep(press(), 176, 52, false, frame);
  expect(drag.kind).toBe('lean');
  // 15 px of a step of 100 px, drawn threefold.
  expect(change!.offset).toBeCloseTo(0.05, 9);
  expect(
    layOutSteps(
      { stepsPerBeat: 4 },
      steps.map((s, i) => (i === 1 ? { ...s, ...change } : s)),
      frame,
    )[1]!.headX,
  ).toBeCloseTo(175, 9);
  // Decided once: upwards it still leans.
  expect(dragStep(drag, 191, 0, false, frame).change).toEqual({ offset: expect.closeTo(0.1, 9) });
});

test('up and down is level; Shift is fine; both stay within limits', () => {
  const { drag, change } = dragStep(press(), 161, 50 - 24.44, false, frame);
  expect([drag.kind, change!.level]).toEqual(['level', expect.closeTo(1.5, 9)]);
  expect(dragStep(drag, 161, 40, true, frame).change!.level).toBeCloseTo(1.05, 9);
  expect(dragStep(drag, 161, -900, false, frame).change!.level).toBe(2);
  const sideways = dragStep(press(), 171, 50, true, frame);
  expect(sideways.change!.offset).toBeCloseTo(0.02, 9);
  expect(dragStep(sideways.drag, 900, 50, true, frame).change!.offset).toBe(0.5);
});
