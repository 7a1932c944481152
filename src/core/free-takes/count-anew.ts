import type { BeatReading } from '../beats/find-beats';

/** What a reading says by itself, without how likely it is. */
export type Count = Pick<BeatReading, 'meter' | 'beats' | 'downbeat'>;

/** Beats of a bar; in eighths that come in threes the dotted ones. @example beatsOfBar([6, 8]) // 2 */
export const beatsOfBar = ([numerator, denominator]: Count['meter']): number => (denominator === 8 ? numerator / 3 : numerator);
/** Quarter notes of a beat. @example quartersOfBeat([6, 8]) // 1.5 */
export const quartersOfBeat = ([, denominator]: Count['meter']): number => (denominator === 8 ? 1.5 : 4 / denominator);

const modulo = (a: number, b: number): number => ((a % b) + b) % b;

/** How fast a count goes, in its own beats a minute: over all, and at its slowest and fastest beat. */
export function tempoOfCount({ beats }: Count): BeatReading['bpm'] {
  const tempos = beats.slice(1).map((b, i) => 60 / (b - (beats[i] as number)));
  const mean = (60 * (beats.length - 1)) / ((beats.at(-1) as number) - (beats[0] as number));
  return { mean, min: Math.min(mean, ...tempos), max: Math.max(mean, ...tempos) };
}

/** A beat for each two: at half the tempo. A bar's first beat stays one. */
export function halfTempo({ meter, beats, downbeat }: Count): Count {
  const from = downbeat % 2;
  const kept = beats.filter((_, i) => i % 2 === from);
  return { meter, beats: kept, downbeat: modulo((downbeat - from) / 2, beatsOfBar(meter)) };
}

/** A beat more within each two: at double the tempo. */
export function doubleTempo({ meter, beats, downbeat }: Count): Count {
  const twice = beats.flatMap((b, i) => (i === 0 ? [b] : [((beats[i - 1] as number) + b) / 2, b]));
  return { meter, beats: twice, downbeat: modulo(downbeat * 2, beatsOfBar(meter)) };
}

/** Another beat begins the bars. @param beat index of one that does */
export const withBeatOne = (count: Count, beat: number): Count => ({ ...count, downbeat: modulo(beat, beatsOfBar(count.meter)) });

/** Another number of quarters to the bar; beat 1 stays where it is. */
export const withBeatsToBar = (count: Count, beats: number): Count => ({
  ...count,
  meter: [beats, 4],
  downbeat: count.meter[1] === 4 ? count.downbeat : modulo(count.downbeat, beats),
});
