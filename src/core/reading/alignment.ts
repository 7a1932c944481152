/** Two strokes on one line cost this. */
const SHARED = 0.03;

/** What strokes of a row in a cell say of one way to count it. */
export interface Alignment {
  /** Logarithm of the likelihood of the strokes. */
  log: number;
  /** Stroke by stroke, line by line: how likely the stroke belongs to the line. Null where only the likelihood was asked for. */
  posterior: Float64Array | null;
}

/** Densities of strokes at places, of which the lines of a way to count are some. */
export interface Densities {
  /** At `stroke * places + place`. */
  values: Float64Array;
  places: number;
  /** The place of each line. */
  of: Int32Array;
}

const forward = new Float64Array(64 * 32);

/**
 * Strokes in their order belong to lines in theirs: each to a later line than the one before, or, rarely, to the same. Sums over all
 * ways (forward-backward).
 * @param strokes how many
 * @param lines how many
 * @param weights how usual a stroke on each line is
 */
export function align(strokes: number, lines: number, weights: ArrayLike<number>, { values, places, of }: Densities, wantsPosterior: boolean): Alignment {
  const m = lines;
  const f = strokes * m <= forward.length ? forward : new Float64Array(strokes * m);
  let log = 0;
  for (let i = 0; i < strokes; i++) {
    let before = i === 0 ? 1 : 0;
    let sum = 0;
    for (let l = 0; l < m; l++) {
      const same = i === 0 ? 0 : (f[(i - 1) * m + l] as number);
      const value = (values[i * places + (of[l] as number)] as number) * (weights[l] as number) * (before + SHARED * same);
      f[i * m + l] = value;
      sum += value;
      before += same;
    }
    if (!(sum > 0)) return { log: -1e9, posterior: wantsPosterior ? new Float64Array(strokes * m) : null };
    for (let l = 0; l < m; l++) f[i * m + l] = (f[i * m + l] as number) / sum;
    log += Math.log(sum);
  }
  if (!wantsPosterior) return { log, posterior: null };
  const posterior = new Float64Array(strokes * m);
  const back = new Float64Array(m).fill(1);
  for (let i = strokes - 1; i >= 0; i--) {
    let sum = 0;
    for (let l = 0; l < m; l++) {
      const value = (f[i * m + l] as number) * (back[l] as number);
      posterior[i * m + l] = value;
      sum += value;
    }
    for (let l = 0; l < m; l++) posterior[i * m + l] = (posterior[i * m + l] as number) / sum;
    if (i === 0) break;
    // What follows a stroke on line l: this stroke on any later line, or on the same.
    let after = 0;
    for (let l = m - 1; l >= 0; l--) {
      const own = (values[i * places + (of[l] as number)] as number) * (weights[l] as number) * (back[l] as number);
      back[l] = after + SHARED * own;
      after += own;
    }
    let most = 0;
    for (let l = 0; l < m; l++) most = Math.max(most, back[l] as number);
    if (most > 0) for (let l = 0; l < m; l++) back[l] = (back[l] as number) / most;
  }
  return { log, posterior };
}
