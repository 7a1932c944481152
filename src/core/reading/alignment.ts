/** Two strokes on one line cost this. */
const SHARED = 0.03;
/** Products are taken as logarithms before they get smaller than numbers can be. */
const SMALL = 1e-200;

/** The lines of one way to count a cell. */
export interface WayLines {
  /** The place of each line. */
  placeOf: Int32Array;
  /** How usual a stroke on each line is. */
  priors: Float64Array;
}

let forward = new Float64Array(64 * 32);
let posteriors = new Float64Array(64 * 32);
let back = new Float64Array(64);

/**
 * Stroke by stroke, line by line: how likely the stroke belongs to the line, after {@link align} was asked for it; overwritten by the next.
 */
export const posteriorsOfAlign = (): Float64Array => posteriors;

/**
 * Strokes in their order belong to lines in theirs: each to a later line than the one before, or, rarely, to the same. Sums over all
 * ways (forward-backward).
 * @param strokes how many
 * @param strengths how strongly each stroke belongs to each place of the cell's ways to count, at `from + stroke * places + place`
 * @returns the logarithm of the likelihood of the strokes
 */
export function align(
  strokes: number,
  way: WayLines,
  strengths: Float64Array,
  from: number,
  places: number,
  wantsPosteriors: boolean,
): number {
  const { placeOf, priors } = way;
  const m = placeOf.length;
  if (strokes * m > forward.length) {
    forward = new Float64Array(2 * strokes * m);
    posteriors = new Float64Array(2 * strokes * m);
  }
  if (strokes === 1) return single(way, strengths, from, wantsPosteriors);
  const f = forward;
  let log = 0;
  let product = 1;
  for (let i = 0; i < strokes; i++) {
    const own = from + i * places;
    const previous = (i - 1) * m;
    let before = i === 0 ? 1 : 0;
    let sum = 0;
    for (let l = 0; l < m; l++) {
      const same = i === 0 ? 0 : (f[previous + l] as number);
      const value = (strengths[own + (placeOf[l] as number)] as number) * (priors[l] as number) * (before + SHARED * same);
      f[i * m + l] = value;
      sum += value;
      before += same;
    }
    if (!(sum > 0)) {
      if (wantsPosteriors) posteriors.fill(0, 0, strokes * m);
      return -1e9;
    }
    const share = 1 / sum;
    for (let l = 0; l < m; l++) f[i * m + l] = (f[i * m + l] as number) * share;
    product *= sum;
    if (product < SMALL) {
      log += Math.log(product);
      product = 1;
    }
  }
  log += Math.log(product);
  if (wantsPosteriors) backwards(strokes, way, strengths, from, places);
  return log;
}

/** The same for one stroke: most rows have no more in a cell. */
function single({ placeOf, priors }: WayLines, strengths: Float64Array, from: number, wantsPosteriors: boolean): number {
  const m = placeOf.length;
  let sum = 0;
  for (let l = 0; l < m; l++) {
    const value = (strengths[from + (placeOf[l] as number)] as number) * (priors[l] as number);
    posteriors[l] = value;
    sum += value;
  }
  if (wantsPosteriors) for (let l = 0; l < m; l++) posteriors[l] = (posteriors[l] as number) / sum;
  return Math.log(sum);
}

function backwards(strokes: number, { placeOf, priors }: WayLines, strengths: Float64Array, from: number, places: number): void {
  const m = placeOf.length;
  const f = forward;
  if (back.length < m) back = new Float64Array(m);
  back.fill(1, 0, m);
  for (let i = strokes - 1; i >= 0; i--) {
    let sum = 0;
    for (let l = 0; l < m; l++) {
      const value = (f[i * m + l] as number) * (back[l] as number);
      posteriors[i * m + l] = value;
      sum += value;
    }
    for (let l = 0; l < m; l++) posteriors[i * m + l] = (posteriors[i * m + l] as number) / sum;
    if (i === 0) return;
    // What follows a stroke on line l: this stroke on any later line, or on the same.
    const own = from + i * places;
    let after = 0;
    let most = 0;
    for (let l = m - 1; l >= 0; l--) {
      const strength = (strengths[own + (placeOf[l] as number)] as number) * (priors[l] as number) * (back[l] as number);
      const value = after + SHARED * strength;
      back[l] = value;
      if (value > most) most = value;
      after += strength;
    }
    if (most > 0) for (let l = 0; l < m; l++) back[l] = (back[l] as number) / most;
  }
}
