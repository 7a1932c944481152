import type { VoiceName } from '../voices';

/** One step of a groove template. */
export interface GrooveStep {
  /** In steps: 0.12 is 12 % of a step late. -0.5 to 0.5. */
  offset: number;
  /** Factor of the velocity, 0 to 2. */
  level: number;
  /** Hits that it was learnt from; 0: taken from its neighbours. */
  n: number;
  /** Scatter of those hits in ms. */
  spreadMs?: number;
}

/** A groove template (groove@1): timing offsets and levels a step, over one or more beats. */
export interface Groove {
  format: 'nod-sway/groove@1';
  name: string;
  meter: readonly [number, number];
  /** Length in quarter notes; 3.5 for a bar of 7/8. */
  beats: number;
  stepsPerBeat: number;
  steps: readonly GrooveStep[];
  /** Steps of their own for some voices. */
  voices?: Readonly<Record<VoiceName, readonly GrooveStep[]>>;
  /** How much of the deviation it explains, 0 to 1; null where there was none. */
  fit?: number | null;
}

/** The steps that count for a voice. */
export const stepsFor = (groove: Groove, voice: VoiceName): readonly GrooveStep[] => (groove.voices && Object.hasOwn(groove.voices, voice) ? (groove.voices[voice] as readonly GrooveStep[]) : groove.steps);

/** Quarter notes of a bar. @example beatsOfMeter([7, 8]) // 3.5 */
export const beatsOfMeter = ([numerator, denominator]: readonly [number, number]): number => (numerator * 4) / denominator;

/** Most that a step may be early or late, in steps. */
export const MOST_OFFSET = 0.5;
/** Most that a step's level may be. */
export const MOST_LEVEL = 2;

/** How many steps a groove of these sizes has; at least one. */
export const stepCount = (beats: number, stepsPerBeat: number): number => Math.max(1, Math.round(beats * stepsPerBeat));

/** The voices that have steps of their own, in the file's order. */
export const ownVoices = (groove: Groove): readonly VoiceName[] => Object.keys(groove.voices ?? {});

/** Changes every list of steps of a groove: those for all voices and those of single ones. */
export function mapSteps(groove: Groove, change: (steps: readonly GrooveStep[], voice: VoiceName | null) => readonly GrooveStep[]): Groove {
  const { voices } = groove;
  return {
    ...groove,
    steps: change(groove.steps, null),
    ...(voices ? { voices: Object.fromEntries(Object.entries(voices).map(([voice, own]) => [voice, change(own, voice)])) } : {}),
  };
}
