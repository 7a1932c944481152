import type { StrokeKind } from '../model/break';
import { LOOK_SIZE } from './look';
import weights from './stroke-weights.json';

/** What the net tells apart, by the kind that each is: other drums are of two, which are alike in nothing. */
export const SOUND_KINDS = { kick: 'kick', snare: 'snare', hat: 'hat', skin: 'other', bright: 'other' } as const satisfies Readonly<
  Record<string, StrokeKind>
>;
/** Of other drums: skins and wood, and all that rings or rattles high. */
export type SoundKind = keyof typeof SOUND_KINDS;
export const SOUNDS = Object.keys(SOUND_KINDS) as readonly SoundKind[];

/** A net of one hidden layer, fitted by `npm run fit:strokes` (measure/strokes): rows of whole numbers, the constant first. */
export interface StrokeWeights {
  /** What one in the rows is worth. */
  unit: number;
  /** A row a hidden neuron: a constant, then LOOK_SIZE weights. */
  hidden: readonly (readonly number[])[];
  /** Rows of how likely each sound is, then of how loud, then of how late: a constant, then a weight a hidden neuron. */
  out: readonly (readonly number[])[];
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

/** Numbers of the last layer: rows of likely, loud and late, by sound. */
export function runNet({ unit, hidden, out }: StrokeWeights, values: ArrayLike<number>): Float64Array {
  const inner = Float64Array.from(hidden, (row) => Math.tanh(unit * weighted(row, values)));
  return Float64Array.from(out, (row) => unit * weighted(row, inner));
}

function weighted(row: readonly number[], values: ArrayLike<number>): number {
  let sum = row[0] as number;
  for (let i = 0; i < values.length; i++) sum += (row[i + 1] as number) * (values[i] as number);
  return sum;
}

/** @param values LOOK_SIZE of them */
export function guessSounds(values: Float64Array, net: StrokeWeights = weights): SoundGuess[] {
  if (values.length !== LOOK_SIZE) throw new RangeError(`${values.length} numbers are not what a look has`);
  const said = runNet(net, values);
  const sounds = SOUNDS.length;
  return SOUNDS.map((sound, k) => ({
    sound,
    likely: 1 / (1 + Math.exp(-(said[k] as number))),
    loud: DB_OF_LOUD * (said[sounds + k] as number),
    late: SECONDS_OF_LATE * (said[2 * sounds + k] as number),
  }));
}
