import type { Ticks } from '../units';

/** A stroke of one row, as it is read. */
export interface Stroke {
  /** Ticks. */
  at: Ticks;
  velocity: number;
  /** Real time in seconds. */
  seconds: number;
}

const MOST_STROKES = 4;
const GAP_SECONDS = 0.045;
const GAP_QUARTERS = 0.09375;
/** Grace strokes are softer than this share of the main one, or this close to it. */
const SOFTER = 0.75;
const CLOSE_SECONDS = 0.015;

/**
 * Flams and drags of a row: chains of up to four strokes of which one is the main one.
 * @param strokes of one row in time order
 * @param isFree whether a stroke may be a grace stroke: those that stand exactly on a line of their own may not
 * @param quarter ticks a quarter
 * @returns for each stroke the index of the main stroke whose home it takes; its own where it stands alone
 */
export function mainStrokes(strokes: readonly Stroke[], isFree: (i: number) => boolean, quarter: number): Int32Array {
  const main = Int32Array.from(strokes, (_, i) => i);
  for (let i = 0; i < strokes.length; ) {
    let to = i + 1;
    while (to < strokes.length && to - i < MOST_STROKES && isNear(strokes[to - 1] as Stroke, strokes[to] as Stroke, quarter)) to++;
    if (to - i > 1) {
      let loudest = i;
      for (let k = i + 1; k < to; k++) if ((strokes[k] as Stroke).velocity > (strokes[loudest] as Stroke).velocity) loudest = k;
      const own = strokes[loudest] as Stroke;
      const isGrace = (k: number): boolean => {
        const stroke = strokes[k] as Stroke;
        return k === loudest || (isFree(k) && (stroke.velocity <= SOFTER * own.velocity || Math.abs(stroke.seconds - own.seconds) < CLOSE_SECONDS));
      };
      let all = true;
      for (let k = i; k < to; k++) all &&= isGrace(k);
      if (all) for (let k = i; k < to; k++) main[k] = loudest;
    }
    i = to;
  }
  return main;
}

const isNear = (a: Stroke, b: Stroke, quarter: number): boolean => b.seconds - a.seconds < GAP_SECONDS && b.at - a.at < GAP_QUARTERS * quarter;
