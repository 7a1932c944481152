import { clamp } from '../units';
import { BANDS } from './look';
import { SOUNDS, type SoundGuess } from './stroke-net';

/** Packs a stroke's sound and the net's answer into a short text, one character per number. */

/** The character of the least of each. */
const FIRST = 48;
/** Bands in steps of 1 dB, chances in steps of a quarter of a logit, levels in steps of half a dB. */
const BAND = { least: -2, most: 0, step: 0.05 } as const;
const LOGIT = { least: -8, most: 8, step: 0.25 } as const;
const LEVEL = { least: -80, most: 0, step: 0.5 } as const;

export const PRINT_LENGTH = BANDS + 2 * SOUNDS.length;
/** Each of its characters is one of these. */
export const PRINT_PATTERN = new RegExp(`^[\\u0030-\\u00d0]{${PRINT_LENGTH}}$`, 'u');

/** A stroke's unpacked print. */
export interface StrokePrint {
  /** How its new sound is spread, as `printOf` (alike.ts) has it. */
  bands: Float64Array;
  /** By sound: the logarithm of how much likelier than not it is. */
  logits: Float64Array;
  /** By sound: how loud it is by itself, in dB. */
  levels: Float64Array;
}

type Steps = Readonly<{ least: number; most: number; step: number }>;
const packed = (x: number, { least, most, step }: Steps): string =>
  String.fromCharCode(FIRST + Math.round((clamp(x, least, most) - least) / step));
const unpacked = (text: string, at: number, { least, step }: Steps): number => least + (text.charCodeAt(at) - FIRST) * step;

export function packPrint(bands: ArrayLike<number>, sounds: readonly SoundGuess[], total: number): string {
  return [
    ...Array.from(bands, (x) => packed(x, BAND)),
    ...sounds.map(({ likely }) => packed(Math.log(likely / (1 - likely)), LOGIT)),
    ...sounds.map(({ loud }) => packed(total + loud, LEVEL)),
  ].join('');
}

export const unpackPrint = (print: string): StrokePrint => ({
  bands: Float64Array.from({ length: BANDS }, (_, b) => unpacked(print, b, BAND)),
  logits: Float64Array.from(SOUNDS, (_, k) => unpacked(print, BANDS + k, LOGIT)),
  levels: Float64Array.from(SOUNDS, (_, k) => unpacked(print, BANDS + SOUNDS.length + k, LEVEL)),
});
