import type { Bpm } from '../units';
import type { VoiceName } from '../row-names';
import type { Groove } from '../model/groove';
import { stepCount } from './steps';
import { commonSteps, sampleGroove } from './sample';

/** How one step differs. */
export interface StepDifference {
  /** Quarter notes from the start. */
  beat: number;
  /** How much later the second is, in ms at the tempo. */
  ms: number;
  /** Its level less the first's. */
  level: number;
}

export interface GrooveDifference {
  /** Every place that both speak of, in order. */
  steps: StepDifference[];
  /** Of the places that were compared. */
  stepsPerBeat: number;
  rmsMs: number;
  /** Root mean square of the differences in level: 0.1 = 10 %. */
  rmsLevel: number;
}

const rms = (values: readonly number[]): number =>
  values.length === 0 ? 0 : Math.sqrt(values.reduce((sum, v) => sum + v * v, 0) / values.length);

/**
 * Compares two grooves step by step over the longer one, the shorter going round; on the steps of both where that are at most 24 a beat,
 * else on the first one's.
 * @param learntOnly leaves out places where the second was learnt from no hit: for a part's own groove
 * @example compareGrooves(hold, ballast, bpm(100)).rmsMs
 */
export function compareGrooves(
  a: Groove,
  b: Groove,
  tempo: Bpm,
  { voice, learntOnly = false }: { voice?: VoiceName | undefined; learntOnly?: boolean } = {},
): GrooveDifference {
  const common = commonSteps(a.stepsPerBeat, b.stepsPerBeat);
  const stepsPerBeat = common <= 24 ? common : a.stepsPerBeat;
  const quarterMs = 60_000 / tempo;
  const steps = Array.from({ length: stepCount(Math.max(a.beats, b.beats), stepsPerBeat) }, (_, i) => i / stepsPerBeat).flatMap(
    (beat): StepDifference[] => {
      const [x, y] = [sampleGroove(a, beat, voice), sampleGroove(b, beat, voice)];
      return learntOnly && y.n === 0 ? [] : [{ beat, ms: (y.offset - x.offset) * quarterMs, level: y.level - x.level }];
    },
  );
  return { steps, stepsPerBeat, rmsMs: rms(steps.map((s) => s.ms)), rmsLevel: rms(steps.map((s) => s.level)) };
}
