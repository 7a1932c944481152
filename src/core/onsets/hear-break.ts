import type { HeardStrokes } from '../model/break';
import { guessStrokes } from './classify';
import { checkSound } from './listen';
import { findPeaks, onsetsOf, standOut } from './onsets';
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
  // Where a stroke is cut off, the next plain one is struck; what might be one rings through others like it.
  const plain = list.filter((p) => p.over >= 1).map((p) => p.seconds as number);
  let k = 0;
  const places = list.map(({ seconds: at }) => {
    while (k < plain.length && (plain[k] as number) <= at) k++;
    const before = plain[k - 1] === at ? plain[k - 2] : plain[k - 1];
    return { at, previous: before ?? -1, next: plain[k] ?? length };
  });
  const guesses = guessStrokes(mono, rate, places, {
    plain: list.map((p) => p.over >= 1),
    onEach: (i) => {
      if (i % 64 === 0) onProgress?.(0.8 + (0.2 * i) / list.length);
    },
  });
  return {
    at: list.map((p) => rounded(p.seconds, 6)),
    strength: list.map((p) => rounded(p.strength, 4)),
    over: list.map((p) => rounded(p.over, 3)),
    level: guesses.map((g) => rounded(g.struck[0].level, 5)),
    kinds: guesses.map((g) => g.voice),
    sure: guesses.map((g) => rounded(g.sure, 2)),
    also: guesses.map((g) => g.also ?? null),
    prints: guesses.map((g) => g.print),
    readings: standOut(list.map((p) => p.over)) ? readingsOf(onsetsOf(peaks), length) : [],
  };
}
