import type { Groove, GrooveStep } from '../model/groove';
import type { VoiceName } from '../voices';

/** The steps that count for a voice. */
export const stepsFor = (groove: Groove, voice: VoiceName): readonly GrooveStep[] => (groove.voices && Object.hasOwn(groove.voices, voice) ? (groove.voices[voice] as readonly GrooveStep[]) : groove.steps);

/** Quarter notes of a bar. @example beatsOfMeter([7, 8]) // 3.5 */
export const beatsOfMeter = ([numerator, denominator]: readonly [number, number]): number => (numerator * 4) / denominator;

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
