import type { Part } from '../model/part';
import type { Cell } from './cells';

/** What of a part homes are read from. */
export type Readable = Pick<Part, 'hits' | 'meter' | 'origin' | 'tempo' | 'source'>;

/** A quarter is counted as so many ms, whatever the tempo: homes do not depend on it. */
export const MS_PER_QUARTER = 500;
/** Lines of a cell that are multiples of 1/24 of a quarter: it has at most three eighths, and its end. */
export const PLACES = 37;
export { FINEST } from './cells';

/** Strokes of one row in one cell, grace strokes left out: `from` to `to` of the row's strokes. */
export interface RowCell {
  row: number;
  cell: number;
  from: number;
  to: number;
  /** Index of the row's cell right before and after in time, where the cells touch; -1 without. */
  before: number;
  after: number;
}

/** What is read. */
export interface Material {
  cells: readonly Cell[];
  rows: number;
  rowCells: readonly RowCell[];
  /** By cell: the first of its row cells, and at the end their number; those of a cell follow each other. */
  firstOfCell: Int32Array;
  /** Ticks of each stroke; those of a row cell follow each other. */
  ticks: Float64Array;
  /** Home that a user decided, in ticks; NaN elsewhere. */
  decided: Float64Array;
  /** Strokes in time order, as indices. */
  inTime: Int32Array;
  /** Ticks between places that the source can hold. */
  raster: number;
}

/** What each stroke is taken for, column by column. */
export interface Fit {
  /** The likeliest line in ticks, how likely it is, and its mean place in ticks. */
  homes: Float64Array;
  sure: Float64Array;
  places: Float64Array;
  /** The next likely line; NaN without. */
  others: Float64Array;
  otherP: Float64Array;
}
