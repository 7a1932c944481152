import type { BeatReading } from '../beats/find-beats';

/** A reading without its likelihood. */
export type Count = Pick<BeatReading, 'meter' | 'beats' | 'downbeat'>;

/** Beats per bar; dotted quarters in 6/8. @example beatsOfBar([6, 8]) // 2 */
export const beatsOfBar = ([numerator, denominator]: Count['meter']): number => (denominator === 8 ? numerator / 3 : numerator);
/** Quarter notes per beat. @example quartersOfBeat([6, 8]) // 1.5 */
export const quartersOfBeat = ([, denominator]: Count['meter']): number => (denominator === 8 ? 1.5 : 4 / denominator);

const modulo = (a: number, b: number): number => ((a % b) + b) % b;

/** Mean, slowest and fastest tempo of a count, in its own beats per minute. */
export function tempoOfCount({ beats }: Count): BeatReading['bpm'] {
  const tempos = beats.slice(1).map((b, i) => 60 / (b - (beats[i] as number)));
  const mean = (60 * (beats.length - 1)) / ((beats.at(-1) as number) - (beats[0] as number));
  return { mean, min: Math.min(mean, ...tempos), max: Math.max(mean, ...tempos) };
}

/** Halves the tempo: keeps every second beat, including the downbeats. */
export function halfTempo({ meter, beats, downbeat }: Count): Count {
  const from = downbeat % 2;
  const kept = beats.filter((_, i) => i % 2 === from);
  return { meter, beats: kept, downbeat: modulo((downbeat - from) / 2, beatsOfBar(meter)) };
}

/** Doubles the tempo: adds a beat halfway between each two. */
export function doubleTempo({ meter, beats, downbeat }: Count): Count {
  const twice = beats.flatMap((b, i) => (i === 0 ? [b] : [((beats[i - 1] as number) + b) / 2, b]));
  return { meter, beats: twice, downbeat: modulo(downbeat * 2, beatsOfBar(meter)) };
}

/** Moves beat 1. @param beat index of a beat that starts a bar */
export const withBeatOne = (count: Count, beat: number): Count => ({ ...count, downbeat: modulo(beat, beatsOfBar(count.meter)) });

/** Changes the number of quarters per bar; beat 1 stays. */
export const withBeatsToBar = (count: Count, beats: number): Count => ({
  ...count,
  meter: [beats, 4],
  downbeat: count.meter[1] === 4 ? count.downbeat : modulo(count.downbeat, beats),
});
