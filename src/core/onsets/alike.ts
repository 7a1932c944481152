import { BANDS, type Look } from './look';

/** Compares strokes of a loop by sound, and builds the second net's input. */

/** Floor of a band relative to the whole stroke, in dB; DB scales it. */
const FLOOR_DB = -40;
const DB = 20;
/** Strokes compared on each side. */
const NEIGHBOURS = 64;
/** How fast a neighbour's weight falls with the squared distance: a narrow and a wide view. */
const FALLS = [60, 15] as const;
const MOST_LOGIT = 8;
const LOGIT = 4;
/** Distance to a kind that the loop does not have. */
const FAR = 2;

/** How a stroke's new sound is spread over the bands, however loud it is: BANDS numbers. */
export function printOf({ fresh }: Pick<Look, 'fresh'>): Float64Array {
  let sum = 0;
  for (const db of fresh) sum += 10 ** (db / 10);
  const total = 10 * Math.log10(sum);
  return Float64Array.from(fresh, (db) => Math.max(FLOOR_DB, db - total) / DB);
}

/** The mean square of the differences of two prints. */
export function farApart(a: ArrayLike<number>, b: ArrayLike<number>): number {
  let sum = 0;
  for (let i = 0; i < BANDS; i++) sum += ((a[i] as number) - (b[i] as number)) ** 2;
  return sum / BANDS;
}

const chanceOf = (logit: number): number => 1 / (1 + Math.exp(-logit));
const limited = (logit: number): number => Math.max(-MOST_LOGIT, Math.min(MOST_LOGIT, logit)) / LOGIT;

/** What the first pass says of a stroke. */
export interface FirstSaid {
  /** How its new sound is spread. */
  print: Float64Array;
  /** By sound. */
  logits: Float64Array;
  loud: Float64Array;
  /** Its power relative to the loudest and to the median stroke's. */
  stands: readonly [number, number];
  /** Whether it is surely a stroke: only these speak for others. */
  plain: boolean;
}

/** Size of the second net's input for a number of kinds. */
export const secondSize = (sounds: number): number => 8 * sounds + 4;

/** The second net's input: the first net's answers for each stroke, for strokes that sound like it, and for the loop. */
export function alikeInLoop(strokes: readonly FirstSaid[]): Float64Array[] {
  const sounds = strokes[0]?.logits.length ?? 0;
  const plain = strokes.filter((s) => s.plain);
  const said = plain.length > 0 ? plain : strokes;
  const chances = new Map(said.map((s) => [s, s.logits.map(chanceOf)]));
  const kinds = Array.from({ length: sounds }, (_, k) => middleOf(said, (s) => (chances.get(s) as Float64Array)[k] as number));
  const indices = new Map(said.map((s, i) => [s, i]));
  let near = 0;
  return strokes.map((stroke) => {
    const own = indices.get(stroke);
    if (own !== undefined) near = own;
    const values = new Float64Array(secondSize(sounds));
    let n = 0;
    for (const logit of stroke.logits) values[n++] = limited(logit);
    const around = said.slice(Math.max(0, near - NEIGHBOURS), near + NEIGHBOURS + 1).filter((s) => s !== stroke);
    const distances = around.map((s) => farApart(stroke.print, s.print));
    for (const fall of FALLS) {
      let mass = 0;
      const sums = new Float64Array(sounds);
      around.forEach((s, i) => {
        const weight = Math.exp(-fall * (distances[i] as number));
        mass += weight;
        for (let k = 0; k < sounds; k++) sums[k]! += weight * limited(s.logits[k] as number);
      });
      // A stroke speaks for itself as much as one that is just like it.
      for (let k = 0; k < sounds; k++) values[n++] = ((sums[k] as number) + limited(stroke.logits[k] as number)) / (mass + 1);
      values[n++] = Math.log1p(mass) / 2;
    }
    for (const { share } of kinds) values[n++] = share;
    for (const { middle } of kinds) values[n++] = middle ? Math.min(FAR, 4 * Math.sqrt(farApart(stroke.print, middle))) : FAR;
    const own5 = stroke.logits.map(chanceOf);
    for (let k = 0; k < sounds; k++) values[n++] = own5.reduce((all, p, j) => all * (j === k ? p : 1 - p), 1);
    for (const loud of stroke.loud) values[n++] = Math.max(-4, Math.min(2, loud)) / 2;
    for (const share of own5) values[n++] = share;
    values[n++] = stroke.stands[0];
    values[n++] = stroke.stands[1];
    return values;
  });
}

/** How much of a loop is of a kind, and how that sounds; null where there is next to nothing of it. */
function middleOf(strokes: readonly FirstSaid[], weightOf: (s: FirstSaid) => number): { share: number; middle: Float64Array | null } {
  let mass = 0;
  const middle = new Float64Array(BANDS);
  for (const stroke of strokes) {
    const weight = weightOf(stroke) ** 2;
    mass += weight;
    for (let b = 0; b < BANDS; b++) middle[b]! += weight * (stroke.print[b] as number);
  }
  return { share: mass / Math.max(1, strokes.length), middle: mass > 0.2 ? middle.map((x) => x / mass) : null };
}
