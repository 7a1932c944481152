import type { Groove, GrooveStep } from '../model/groove';
import { standIns, type VoiceName } from '../row-names';

/**
 * The steps that count for a row: its own, those of its voice or of what stands for that, else those of all.
 * @example stepsFor(groove, 'snare:2') // those of 'snare'
 */
export function stepsFor({ voices, steps }: Groove, row: VoiceName): readonly GrooveStep[] {
  if (!voices) return steps;
  const name = [row, ...standIns(row)].find((candidate) => Object.hasOwn(voices, candidate));
  return name === undefined ? steps : (voices[name] as readonly GrooveStep[]);
}

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
