import type { Cell } from './cells';
import { FINEST, PLACES, type Material } from './material';
import { BASE_PRIORS, firstBases, isSwung, type Base } from './states';

/** What a fit learns of a part, round by round. */
export interface ReadingParameters {
  bases: readonly Base[];
  /** Ms: how loosely and how late each row is played. */
  spreads: Float64Array;
  leans: Float64Array;
  /** By row: how likely it counts a cell by itself, not with the kit. */
  independence: Float64Array;
  /** By row and base: how often the row is counted so. */
  own: Float64Array;
  /** By stroke: how late the whole kit is there, ms. */
  drift: Float64Array;
  /** By row cell: how likely its strokes claim the cell's first line, and its end. */
  claims: Float64Array;
  /** By the cell's place in its bar: how likely each excursion begins. */
  excursionsAt: ReadonlyMap<number, readonly number[]>;
  /** By row and place of the bar: in how many bars it is struck there. */
  usual: Float64Array;
  placesOfBar: number;
  /** By row cell and place of the cell: how likely it is struck there. */
  struck: Float64Array;
  /** By row: bars with strokes. */
  barsOf: Float64Array;
}

/** Milliseconds, as all spreads: what is expected before anything is learnt. */
export const SPREAD_PRIOR = 12;
export const INDEPENDENCE = 0.04;

/** How likely each base is before anything is learnt; the swung ones of a kind share what their kind has. */
export function priorsOf(bases: readonly Base[]): number[] {
  const shares = bases.map((b) => BASE_PRIORS[b.kind] / (isSwung(b) ? bases.filter((o) => o.kind === b.kind).length : 1));
  const sum = shares.reduce((a, b) => a + b, 0);
  return shares.map((s) => s / sum);
}

/** What a fit begins with. @param spreads ms, one for all rows: a beginning for each */
export function firstLearnt(of: Material, spreads: readonly number[]): ReadingParameters[] {
  const bases = firstBases();
  const priors = priorsOf(bases);
  const placesOfBar = 1 + Math.ceil(of.cells.reduce((most, c) => Math.max(most, c.barLength), 0) / FINEST);
  const blank: Omit<ReadingParameters, 'spreads'> = {
    bases,
    leans: new Float64Array(of.rows),
    independence: new Float64Array(of.rows).fill(INDEPENDENCE),
    own: Float64Array.from({ length: of.rows * priors.length }, (_, i) => priors[i % priors.length] as number),
    drift: new Float64Array(of.ticks.length),
    claims: new Float64Array(2 * of.rowCells.length),
    excursionsAt: new Map(),
    usual: new Float64Array(of.rows * placesOfBar),
    placesOfBar,
    struck: new Float64Array(of.rowCells.length * PLACES),
    barsOf: new Float64Array(of.rows),
  };
  return spreads.map((spread) => ({ ...blank, spreads: new Float64Array(of.rows).fill(spread) }));
}

/**
 * Where a place of a cell is counted in {@link ReadingParameters.usual}; the bar's end is the next bar's first line.
 * @param i in 1/24 of a quarter
 */
export function usualAt({ placesOfBar }: Pick<ReadingParameters, 'placesOfBar'>, row: number, cell: Cell, i: number): number {
  const place = cell.slot + i;
  return row * placesOfBar + (place >= cell.slotsOfBar ? 0 : place);
}
