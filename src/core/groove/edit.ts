import { mod } from '../time/cycle';
import { mean } from '../statistics';
import { clamp } from '../units';
import type { VoiceName } from '../row-names';
import { MOST_LEVEL, MOST_OFFSET, type Groove, type GrooveStep } from '../model/groove';
import { mapSteps } from './steps';

/** Edits of a groove by hand. Each takes one and gives one; `fit` goes, since it told of what was learnt. */

const limited = (step: GrooveStep): GrooveStep => ({
  ...step,
  offset: clamp(step.offset, -MOST_OFFSET, MOST_OFFSET) + 0,
  level: clamp(step.level, 0, MOST_LEVEL),
});

function withoutFit(groove: Groove): Groove {
  const { fit: _fit, ...rest } = groove;
  return rest;
}

/** Which steps: those for all voices (null) or a voice's own. */
export type Curve = VoiceName | null;

/** Sets a step's offset (steps, -0.5 to 0.5) or level (0 to 2); what lies outside is limited. */
export function setStep(groove: Groove, curve: Curve, index: number, change: Partial<Pick<GrooveStep, 'offset' | 'level'>>): Groove {
  return withoutFit(
    mapSteps(groove, (steps, voice) =>
      voice === curve ? steps.map((s, i) => (i === index ? limited({ ...s, ...change, n: Math.max(1, s.n) }) : s)) : steps,
    ),
  );
}

/** Puts a step back on its line, at level 1. */
export const resetStep = (groove: Groove, curve: Curve, index: number): Groove => setStep(groove, curve, index, { offset: 0, level: 1 });

/** Early becomes late and late early; levels stay. */
export const mirrorGroove = (groove: Groove): Groove =>
  withoutFit(mapSteps(groove, (steps) => steps.map((s) => limited({ ...s, offset: -s.offset }))));

/**
 * Multiplies leans, and the distance of levels from 1.
 * @example scaleGroove(groove, 0.5, 1) // half the lean, the same levels
 */
export const scaleGroove = (groove: Groove, lean: number, level: number): Groove =>
  withoutFit(mapSteps(groove, (steps) => steps.map((s) => limited({ ...s, offset: s.offset * lean, level: 1 + (s.level - 1) * level }))));

/** What steps are brought nearer to: their neighbours on either side, or the same place of the other beats, which keeps a swing. */
export type Smoothing = 'neighbours' | 'beats';

/** Brings each step half way to the mean of its like; done again it goes on. */
export function smoothGroove(groove: Groove, by: Smoothing): Groove {
  const perBeat = groove.stepsPerBeat;
  const alike = (steps: readonly GrooveStep[], i: number): GrooveStep[] =>
    by === 'neighbours'
      ? [-1, 0, 1].map((d) => steps[mod(i + d, steps.length)] as GrooveStep)
      : steps.filter((_, k) => (k - i) % perBeat === 0);
  return withoutFit(
    mapSteps(groove, (steps) =>
      steps.map((s, i) => {
        const like = alike(steps, i);
        return limited({
          ...s,
          offset: (s.offset + mean(like.map((l) => l.offset))) / 2,
          level: (s.level + mean(like.map((l) => l.level))) / 2,
        });
      }),
    ),
  );
}
