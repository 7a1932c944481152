import { BANDS } from '@/core/onsets/look';
import { FIRST_SIZE, SOUNDS } from '@/core/onsets/stroke-net';
import type { Example, LoopExamples, Truth } from './examples';

/** Loops as numbers, to be passed between threads and kept in a file: making them takes longer than fitting. */

const STRUCK = 3;
const WIDTH = FIRST_SIZE + BANDS + 1 + STRUCK * SOUNDS.length;

export interface PackedLoops {
  loops: { seed: number; origins: readonly string[]; played: number; found: number; count: number }[];
  numbers: Float32Array;
}

export function packed(loops: readonly LoopExamples[]): PackedLoops {
  const count = loops.reduce((sum, l) => sum + l.examples.length, 0);
  const numbers = new Float32Array(count * WIDTH);
  let at = 0;
  for (const { examples } of loops)
    for (const { values, fresh, plain, truth } of examples) {
      numbers.set(values, at);
      numbers.set(fresh, at + FIRST_SIZE);
      numbers[at + FIRST_SIZE + BANDS] = plain ? 1 : 0;
      truth.forEach((t, k) => numbers.set(t ? [t.loud, t.late, t.velocity] : [NaN, NaN, NaN], at + FIRST_SIZE + BANDS + 1 + STRUCK * k));
      at += WIDTH;
    }
  return {
    loops: loops.map(({ seed, origins, played, found, examples }) => ({ seed, origins, played, found, count: examples.length })),
    numbers,
  };
}

export function unpacked({ loops, numbers }: PackedLoops): LoopExamples[] {
  let at = 0;
  return loops.map(({ count, ...loop }) => ({
    ...loop,
    examples: Array.from({ length: count }, (): Example => {
      const from = at;
      at += WIDTH;
      const behind = from + FIRST_SIZE + BANDS;
      return {
        values: numbers.subarray(from, from + FIRST_SIZE),
        fresh: numbers.subarray(from + FIRST_SIZE, behind),
        plain: numbers[behind] === 1,
        truth: SOUNDS.map((_, k) => {
          const own = behind + 1 + STRUCK * k;
          const [loud, late, velocity] = [numbers[own], numbers[own + 1], numbers[own + 2]] as [number, number, number];
          return Number.isNaN(loud) ? null : { loud, late, velocity };
        }) satisfies Truth,
      };
    }),
  }));
}
