import { NamedError } from '../errors';
import { MOST_SECONDS } from '../limits';
import { guessStrokes, placesOf, type StrokeGuess } from './classify';
import { findPeaks, onsetsOf, standOut, USUAL_SENSITIVITY, type DetectedOnset } from './onsets';
import { readingsOf, type LoopReading } from './readings';

/** A stroke in a sound. */
export type HeardStroke = DetectedOnset & StrokeGuess;

/** What a loop of drums holds. */
export interface HeardLoop {
  rate: number;
  seconds: number;
  onsets: HeardStroke[];
  readings: LoopReading[];
}

/** Softer than this at its loudest there is nothing to hear: -80 dB. */
const SILENT = 1e-4;

/** Both sides as one. */
export function monoOf({ left, right }: { left: Float32Array; right?: Float32Array | undefined }): Float32Array {
  return right ? left.map((x, i) => (x + (right[i] as number)) / 2) : left;
}

/** Whether there is anything to hear in a sound. */
export const isHeard = (mono: Float32Array): boolean => mono.some((x) => Math.abs(x) > SILENT);

/** @throws NamedError silent-sound, sound-too-long */
export function checkSound(mono: Float32Array, rate: number): void {
  const length = mono.length / rate;
  if (length > MOST_SECONDS) throw new NamedError('sound-too-long', { seconds: Math.round(length) });
  if (!isHeard(mono)) throw new NamedError('silent-sound');
}

/**
 * Finds the strokes of a sound, what they may be, and how it may be counted.
 * @param sensitivity 0 to 1 @param onProgress 0 to 1; throwing ends the work
 * @throws NamedError silent-sound, sound-too-long
 */
export function listenTo(
  mono: Float32Array,
  rate: number,
  sensitivity = USUAL_SENSITIVITY,
  onProgress?: (done: number) => void,
): HeardLoop {
  const length = mono.length / rate;
  checkSound(mono, rate);
  const peaks = findPeaks(mono, rate, onProgress);
  const found = onsetsOf(peaks, sensitivity);
  const guesses = guessStrokes(
    mono,
    rate,
    placesOf(
      found.map((o) => o.seconds),
      length,
    ),
  );
  const onsets = found.map((onset, i): HeardStroke => ({ ...onset, ...(guesses[i] as StrokeGuess) }));
  return { rate, seconds: length, onsets, readings: standOut(peaks.list.map((p) => p.over)) ? readingsOf(found, length) : [] };
}
