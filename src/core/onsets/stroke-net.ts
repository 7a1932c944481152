import type { StrokeKind } from '../model/break';
import { alikeInLoop, printOf, secondSize, type FirstSaid } from './alike';
import { LOOK_SIZE, type Look } from './look';
import { CONTEXT_SIZE, contextOf, standingOut } from './loop-context';
import weights from './stroke-weights.json';

/** What the net tells apart, by the kind that each is: other drums are of two, which are alike in nothing. */
export const SOUND_KINDS = { kick: 'kick', snare: 'snare', hat: 'hat', skin: 'other', bright: 'other' } as const satisfies Readonly<
  Record<string, StrokeKind>
>;
/** Of other drums: skins and wood, and all that rings or rattles high. */
export type SoundKind = keyof typeof SOUND_KINDS;
export const SOUNDS = Object.keys(SOUND_KINDS) as readonly SoundKind[];

/** Size of the first net's input: the look, and the comparison with the loop. */
export const FIRST_SIZE = LOOK_SIZE + CONTEXT_SIZE;
export const SECOND_SIZE = secondSize(SOUNDS.length);

/** One layer: a row a neuron, the constant first; whole numbers. */
export type NetLayer = readonly (readonly number[])[];

/** Two nets, fitted by `npm run fit:strokes` (measure/strokes). Every layer but the last of each goes through tanh. */
export interface StrokeWeights {
  /** What one in the rows is worth. */
  unit: number;
  /** Ends in rows of how likely each sound is, then of how loud, then of how late. */
  first: readonly NetLayer[];
  /** Ends in rows of how likely each sound is, given what the first said of the loop's strokes. */
  second: readonly NetLayer[];
}

/** What the net says of one sound. */
export interface SoundGuess {
  sound: SoundKind;
  /** 0 to 1: how likely it is among what was struck. */
  likely: number;
  /** How loud it is by itself, in dB above the mean power of the start of all. */
  loud: number;
  /** By how much it was struck after the moment that was looked at, in seconds. */
  late: number;
}

/** What the last rows are worth. */
export const DB_OF_LOUD = 10;
export const SECONDS_OF_LATE = 0.01;

/** Runs numbers through a net's layers. */
export function runNet(layers: readonly NetLayer[], unit: number, values: ArrayLike<number>): Float64Array {
  let now = values;
  layers.forEach((rows, i) => {
    const next = Float64Array.from(rows, (row) => unit * weighted(row, now));
    now = i < layers.length - 1 ? next.map(Math.tanh) : next;
  });
  return now as Float64Array;
}

function weighted(row: readonly number[], values: ArrayLike<number>): number {
  let sum = row[0] as number;
  for (let i = 0; i < values.length; i++) sum += (row[i + 1] as number) * (values[i] as number);
  return sum;
}

/** The first net's input for each stroke of a loop. @param plain whether each is clearly a stroke */
export function firstValues(looks: readonly Look[], plain: readonly boolean[]): Float64Array[] {
  const sure = looks.filter((_, i) => plain[i]);
  const context = contextOf(sure.length > 0 ? sure : looks);
  return looks.map((look) => {
    const values = new Float64Array(FIRST_SIZE);
    values.set(look.values);
    values.set(standingOut(look, context), LOOK_SIZE);
    return values;
  });
}

/**
 * The second net's input for each stroke of a loop.
 * @param said what came out of the first pass, by stroke: how likely, how loud and how late each sound is
 */
export function secondValues(
  looks: readonly Pick<Look, 'fresh'>[],
  plain: readonly boolean[],
  values: readonly ArrayLike<number>[],
  said: readonly Float64Array[],
): Float64Array[] {
  const count = SOUNDS.length;
  const ownPower = LOOK_SIZE + CONTEXT_SIZE / 2 - 1;
  return alikeInLoop(
    looks.map((look, i): FirstSaid => {
      const own = said[i] as Float64Array;
      const seen = values[i] as ArrayLike<number>;
      return {
        print: printOf(look),
        logits: own.subarray(0, count),
        loud: own.subarray(count, 2 * count),
        stands: [seen[ownPower] as number, seen[ownPower + CONTEXT_SIZE / 2] as number],
        plain: plain[i] as boolean,
      };
    }),
  );
}

/** What each stroke of a loop is. @param plain whether each is surely a stroke: others say nothing of the loop */
export function guessSounds(looks: readonly Look[], plain: readonly boolean[], net: StrokeWeights = weights): SoundGuess[][] {
  const values = firstValues(looks, plain);
  const said = values.map((v) => runNet(net.first, net.unit, v));
  const second = secondValues(looks, plain, values, said);
  return said.map((first, i) => {
    const likely = runNet(net.second, net.unit, second[i] as Float64Array);
    return SOUNDS.map((sound, k) => ({
      sound,
      likely: 1 / (1 + Math.exp(-(likely[k] as number))),
      loud: DB_OF_LOUD * (first[SOUNDS.length + k] as number),
      late: SECONDS_OF_LATE * (first[2 * SOUNDS.length + k] as number),
    }));
  });
}
