import { FIRST_SIZE, runNet, SECOND_SIZE, secondValues, SOUNDS, type NetLayer, type StrokeWeights } from '@/core/onsets/stroke-net';
import type { Example, LoopExamples } from './examples';
import { fitNet, UNIT } from './fit';

/** The two passes of the net, fitted one after the other. */

const FIRST = [FIRST_SIZE, 64, 48, 3 * SOUNDS.length] as const;
const SECOND = [SECOND_SIZE, 32, SOUNDS.length] as const;
const NOISE = 0.04;
/** Nothing is quite sure. */
const YES = 0.99;
const NO = 0.01;
/** Weight and steepness of level errors. They are limited, so that wrong labels cannot dominate. */
const LOUD = { weight: 2, steep: 3 } as const;
const LATE = { weight: 1, steep: 2 } as const;

const limited = (x: number): number => Math.max(-1, Math.min(1, x));
const likelySlope = (said: number, struck: boolean): number => 1 / (1 + Math.exp(-said)) - (struck ? YES : NO);

/** Fits the first pass: what a stroke is by itself and against its loop. */
export const fitFirst = (loops: readonly LoopExamples[], steps: number, onStep?: (step: number) => void): NetLayer[] =>
  fitNet<Example>(
    {
      examples: loops.flatMap((l) => l.examples),
      valuesOf: (e) => e.values,
      slope: ({ truth }, k, said) => {
        const own = truth[k % SOUNDS.length];
        if (k < SOUNDS.length) return likelySlope(said, own !== null);
        if (!own) return 0;
        return k < 2 * SOUNDS.length
          ? LOUD.weight * limited((said - own.loud) * LOUD.steep)
          : LATE.weight * limited((said - own.late) * LATE.steep);
      },
    },
    { sizes: FIRST, steps, noise: NOISE },
    onStep,
  );

/** What the first pass says of a loop's strokes, and what the second goes by. */
export interface Answered {
  loop: LoopExamples;
  first: readonly Float64Array[];
  second: readonly Float64Array[];
}

export function answered(first: readonly NetLayer[], loops: readonly LoopExamples[]): Answered[] {
  return loops.map((loop) => {
    const values = loop.examples.map((e) => e.values);
    const said = values.map((v) => runNet(first, UNIT, v));
    const looks = loop.examples.map(({ fresh }) => ({ fresh: Float64Array.from(fresh) }));
    return {
      loop,
      first: said,
      second: secondValues(
        looks,
        loop.examples.map((e) => e.plain),
        values,
        said,
      ),
    };
  });
}

/** Fits the second pass on answers of first passes that did not know the drums. */
export const fitSecond = (answers: readonly Answered[], steps: number): NetLayer[] =>
  fitNet<{ truth: Example['truth']; values: Float64Array }>(
    {
      examples: answers.flatMap(({ loop, second }) => loop.examples.map(({ truth }, i) => ({ truth, values: second[i] as Float64Array }))),
      valuesOf: (e) => e.values,
      slope: ({ truth }, k, said) => likelySlope(said, truth[k] !== null),
    },
    { sizes: SECOND, steps, noise: NOISE / 2 },
  );

/** @param second null: what the first pass says alone */
export const chancesOf = (answers: readonly Answered[], second: readonly NetLayer[] | null): number[][][] =>
  answers.map(({ first, second: values }) =>
    values.map((v, i) => {
      const logits = second ? runNet(second, UNIT, v) : (first[i] as Float64Array);
      return SOUNDS.map((_, k) => 1 / (1 + Math.exp(-(logits[k] as number))));
    }),
  );

export const weightsOf = (first: readonly NetLayer[], second: readonly NetLayer[]): StrokeWeights => ({ unit: UNIT, first, second });
