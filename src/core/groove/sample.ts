import { mod } from '../time/cycle';
import type { Groove, GrooveStep } from '../model/groove';
import type { VoiceName } from '../row-names';
import { stepsFor } from './steps';

/** What a groove says at a place, whatever its steps. */
export interface GrooveSample {
  /** In quarter notes, negative = early. */
  offset: number;
  level: number;
  /** Hits that the step was learnt from, where the place is a step; 0 between steps. */
  n: number;
  spreadMs?: number;
}

/** Places closer than this, in steps, are the same. */
const SAME_PLACE = 1e-9;

/**
 * A groove at a place in quarter notes from its start, going round: the offset lies on the straight line between its steps, the level
 * is the nearest step's (ties to the later), as the template move reads them.
 * @example sampleGroove(groove, 0.5).offset // of the second eighth
 */
export function sampleGroove(groove: Groove, beat: number, voice?: VoiceName): GrooveSample {
  const steps = voice === undefined ? groove.steps : stepsFor(groove, voice);
  const place = mod(beat * groove.stepsPerBeat, steps.length);
  const near = Math.round(place);
  if (Math.abs(place - near) < SAME_PLACE) {
    const { offset, ...rest } = steps[near % steps.length] as GrooveStep;
    return { ...rest, offset: offset / groove.stepsPerBeat };
  }
  const i = Math.floor(place);
  const [a, b] = [steps[i] as GrooveStep, steps[(i + 1) % steps.length] as GrooveStep];
  const share = place - i;
  return { offset: (a.offset + (b.offset - a.offset) * share) / groove.stepsPerBeat, level: share >= 0.5 ? b.level : a.level, n: 0 };
}

const divisor = (a: number, b: number): number => (b === 0 ? a : divisor(b, a % b));

/** The least number of steps a beat that has the steps of both. @example commonSteps(4, 3) // 12 */
export const commonSteps = (a: number, b: number): number => (a * b) / divisor(a, b);
