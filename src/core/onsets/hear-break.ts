import type { HeardStrokes } from '../model/break';
import { seconds } from '../units';
import { guessStroke } from './classify';
import { checkSound } from './listen';
import { findPeaks, onsetsOf, standOut } from './onsets';
import { levelsOf } from './part-of-strokes';
import { readingsOf } from './readings';

const rounded = (x: number, digits: number): number => Math.round(x * 10 ** digits) / 10 ** digits;

/**
 * Everything in a sound that might be a stroke, with what it may be and how loud it begins: what a sensitivity then chooses among, without
 * listening again.
 * @param onProgress 0 to 1; throwing ends the work
 * @throws NamedError silent-sound, sound-too-long
 */
export function hearBreak(mono: Float32Array, rate: number, onProgress?: (done: number) => void): Omit<HeardStrokes, 'break'> {
  const length = mono.length / rate;
  checkSound(mono, rate);
  const peaks = findPeaks(mono, rate, (done) => onProgress?.(0.8 * done));
  const { list } = peaks;
  // What follows a stroke ends what can be told of it: of what is plainly struck, the next such.
  const plain = list.filter((p) => p.over >= 1).map((p) => p.seconds);
  let k = 0;
  const until = list.map(({ seconds: at, over }, i) => {
    while (k < plain.length && (plain[k] as number) <= at) k++;
    return over >= 1 ? (plain[k] ?? length) : (list[i + 1]?.seconds ?? length);
  });
  const guesses = list.map(({ seconds: at }, i) => {
    if (i % 64 === 0) onProgress?.(0.8 + (0.2 * i) / list.length);
    return guessStroke(mono, rate, at, until[i] as number);
  });
  const levels = levelsOf(mono, rate, list.map(({ seconds: at }, i) => ({ seconds: at, until: seconds(until[i] as number) })));
  return {
    at: list.map((p) => rounded(p.seconds, 6)),
    strength: list.map((p) => rounded(p.strength, 4)),
    over: list.map((p) => rounded(p.over, 3)),
    level: levels.map((l) => rounded(l, 5)),
    kinds: guesses.map((g) => g.voice),
    sure: guesses.map((g) => rounded(g.sure, 2)),
    also: guesses.map((g) => g.also ?? null),
    readings: standOut(list.map((p) => p.over)) ? readingsOf(onsetsOf(peaks), length) : [],
  };
}
