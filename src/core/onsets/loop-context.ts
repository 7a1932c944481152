import { BANDS, type Look } from './look';

/** Size of a stroke's comparison with its loop: BANDS and their sum, against the loudest and the median stroke. */
export const CONTEXT_SIZE = 2 * (BANDS + 1);

/** The percentile taken as loudest. */
const LOUDEST = 0.95;
/** Limits of a difference, in dB; DB scales it. */
const LEAST = -50;
const MOST = 30;
const DB = 20;

/** New power of a loop's strokes, per band and in total: the loudest and the median, in dB. */
export interface LoopContext {
  loudest: Float64Array;
  usual: Float64Array;
}

/** @param plain the clear strokes */
export function contextOf(plain: readonly Pick<Look, 'fresh'>[]): LoopContext {
  const columns = Array.from({ length: BANDS + 1 }, (_, b) => Float64Array.from(plain, (look) => brought(look, b)).sort());
  const at = (share: number): Float64Array =>
    Float64Array.from(columns, (column) => column[Math.min(column.length - 1, Math.floor(share * column.length))] ?? 0);
  return { loudest: at(LOUDEST), usual: at(0.5) };
}

/** @returns CONTEXT_SIZE numbers around 0 */
export function standingOut(look: Pick<Look, 'fresh'>, { loudest, usual }: LoopContext): Float64Array {
  const values = new Float64Array(CONTEXT_SIZE);
  for (let b = 0; b <= BANDS; b++) {
    const own = brought(look, b);
    values[b] = limited(own - (loudest[b] as number));
    values[BANDS + 1 + b] = limited(own - (usual[b] as number));
  }
  return values;
}

const limited = (db: number): number => Math.max(LEAST, Math.min(MOST, db)) / DB;

/** New power in a band, or, behind the last, in all of them, in dB. */
function brought({ fresh }: Pick<Look, 'fresh'>, band: number): number {
  if (band < BANDS) return fresh[band] as number;
  let sum = 0;
  for (const db of fresh) sum += 10 ** (db / 10);
  return 10 * Math.log10(sum);
}
