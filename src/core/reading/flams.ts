/** Strokes of one row in time order, column by column. */
export interface RowStrokes {
  ticks: ArrayLike<number>;
  velocities: ArrayLike<number>;
  /** Real time. */
  seconds: ArrayLike<number>;
}

const MOST_STROKES = 4;
const GAP_SECONDS = 0.045;
const GAP_QUARTERS = 0.09375;
/** Grace strokes are softer than this share of the main one, or this close to it. */
const SOFTER = 0.75;
const CLOSE_SECONDS = 0.015;

/**
 * Flams and drags of a row: chains of up to four strokes of which one is the main one.
 * @param isFree whether a stroke may be a grace stroke: those that stand exactly on a line of their own may not
 * @param quarter ticks a quarter
 * @returns for each stroke the index of the main stroke whose home it takes; its own where it stands alone
 */
export function mainStrokes({ ticks, velocities, seconds }: RowStrokes, isFree: (i: number) => boolean, quarter: number): Int32Array {
  const n = ticks.length;
  const main = new Int32Array(n);
  for (let i = 0; i < n; i++) main[i] = i;
  const isNear = (a: number, b: number): boolean =>
    (seconds[b] as number) - (seconds[a] as number) < GAP_SECONDS && (ticks[b] as number) - (ticks[a] as number) < GAP_QUARTERS * quarter;
  for (let i = 0; i < n;) {
    let to = i + 1;
    while (to < n && to - i < MOST_STROKES && isNear(to - 1, to)) to++;
    if (to - i > 1) {
      let loudest = i;
      for (let k = i + 1; k < to; k++) if ((velocities[k] as number) > (velocities[loudest] as number)) loudest = k;
      const isGrace = (k: number): boolean =>
        k === loudest ||
        (isFree(k) &&
          ((velocities[k] as number) <= SOFTER * (velocities[loudest] as number) ||
            Math.abs((seconds[k] as number) - (seconds[loudest] as number)) < CLOSE_SECONDS));
      let all = true;
      for (let k = i; k < to; k++) all &&= isGrace(k);
      if (all) for (let k = i; k < to; k++) main[k] = loudest;
    }
    i = to;
  }
  return main;
}
