import type { Groove, GrooveStep } from './groove';

/** Grooves of our own, made of numbers: offsets in percent of a sixteenth and levels in percent, step by step. */
const groove = (name: string, offsets: readonly number[], levels: readonly number[]): Groove => ({
  format: 'nod-sway/groove@1',
  name,
  meter: [4, 4],
  beats: 4,
  stepsPerBeat: 4,
  steps: Array.from({ length: 16 }, (_, i): GrooveStep => ({ offset: (offsets[i % offsets.length] as number) / 100, level: (levels[i % levels.length] as number) / 100, n: 1 })),
});

/** The first of them; more families come with the Grooves place. */
export const HOUSE_GROOVES: readonly Groove[] = [
  // The backbeat behind, everything else at home.
  groove('Hold', [0, 0, 2, 0, 9, 3, 2, 0, 0, 0, 2, 0, 10, 3, 2, 0], [112, 82, 96, 80, 108, 80, 94, 82]),
  // Sixteenths at 4:3: the second of each pair 14.3 % of a step late.
  groove('Gangplank', [0, 14.3, 0, 14.3], [110, 78, 98, 84]),
  // A street parade: the second half of the bar pushes.
  groove('Parade Rest', [0, 10, -3, 12, 2, 8, -4, 10, -2, 6, -6, 8, -3, 5, -7, 6], [104, 84, 110, 80, 96, 88, 112, 86]),
];
