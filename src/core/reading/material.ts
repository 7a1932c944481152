import type { Part } from '../model/part';
import { TICKS_PER_QUARTER } from '../units';
import type { Cell } from './cells';

/** What of a part homes are read from. */
export type Readable = Pick<Part, 'hits' | 'meter' | 'origin' | 'tempo' | 'source'>;

/** A quarter is counted as so many ms, whatever the tempo: homes do not depend on it. */
export const MS_PER_QUARTER = 500;
/** All lines are multiples of this: 1/24 of a quarter. A cell has at most three eighths, and its end. */
export const FINEST = TICKS_PER_QUARTER / 24;
export const PLACES = 37;

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
  /** By cell: its row cells. */
  ofCell: readonly (readonly number[])[];
  /** Ticks of each stroke, and its row; strokes of a row follow each other. */
  ticks: Float64Array;
  /** Home that a user decided, in ticks; NaN elsewhere. */
  decided: Float64Array;
  /** Strokes in time order, as indices. */
  inTime: Int32Array;
  /** Ticks between places that the source can hold. */
  raster: number;
}

/** What each stroke is taken for. */
export interface Fit {
  /** By stroke: homes in ticks with their probability and where they are played; likeliest first. */
  answers: Answer[][];
}

export interface Answer {
  home: number;
  p: number;
  /** Mean place of the line, in ticks. */
  place: number;
}
