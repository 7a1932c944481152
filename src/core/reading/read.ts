import type { Hit } from '../model/part';
import { columnsOfHits } from '../part/columns';
import { indicesByVoice } from '../part/by-voice';
import { meterMapOf, tempoMapOf } from '../part/part-time';
import { ticks, TICKS_PER_QUARTER } from '../units';
import { cellsOfHits, type Cell } from './cells';
import { exactHomes } from './exact';
import { mainStrokes } from './flams';
import { fit as fitted } from './fit';
import type { Fit, Material, Readable, RowCell } from './material';
import { swingsOnLines, type Swings } from '../homes/swings';

/** Where the hits of a part belong, as read; columns run parallel to `part.hits`. */
export interface HomesRead {
  /** The straight line that a hit belongs to, in ticks. */
  homes: Float64Array;
  /** How likely that is, 0 to 1; 1 where it stands exactly on its line, or was decided. */
  sure: Float64Array;
  /** The line that is next likely; NaN where there is none. */
  others: Float64Array;
  /** Where the home's line is played, in ticks: as the part swings. */
  places: Float64Array;
  /** How much the part swings by itself; null where straight explains it as well. */
  swings: Swings | null;
}

/** Lines that are less likely than this are not worth naming. */
const LEAST_OTHER = 0.005;
/** Lines that no swing bends between its own: whole multiples of 1/64 of a quarter. */
const BINARY = TICKS_PER_QUARTER / 64;
const NEAR_SWUNG = 0.02 * TICKS_PER_QUARTER;

/** Whether a hit's home stands, and is not read. */
export type FixedTest = (hit: Hit) => boolean;

/** A hand chose the line, or put the hit there. */
export const isSettled: FixedTest = ({ decided, placed }) => decided === true || placed === true;

/**
 * Reads the homes of all hits together: a hidden Markov model over beats, fitted by expectation and maximisation.
 * @param isFixed hits that keep their homes; these help to read the others
 */
export function readHomes(part: Readable, isFixed: FixedTest = isSettled): HomesRead {
  const { hits } = part;
  const reading: HomesRead = {
    homes: new Float64Array(hits.length),
    sure: new Float64Array(hits.length),
    others: new Float64Array(hits.length).fill(Number.NaN),
    places: new Float64Array(hits.length),
    swings: null,
  };
  if (hits.length === 0) return reading;
  const times = columnsOfHits(hits).ticks;
  const fixed = Uint8Array.from(hits, (hit) => (isFixed(hit) ? 1 : 0));
  const { material, strokes, mains, literal } = materialOf(part, times, fixed);
  if (isStraight(part, literal, fixed)) return { ...reading, homes: literal, places: literal.slice(), sure: reading.sure.fill(1) };
  const fit = fitted(material);
  reading.swings = swingsAsFitted(part, times, strokes, fit);
  settle(reading, part, strokes, mains, literal, fit, fixed);
  return reading;
}

/** Every hit stands exactly on a line that no swing bends: there is nothing to weigh. */
function isStraight(part: Readable, literal: Float64Array, fixed: Uint8Array): boolean {
  const map = meterMapOf(part);
  return literal.every((line, i) => !Number.isNaN(line) && fixed[i] === 0 && (line - map.barAt(ticks(line)).start) % BINARY === 0);
}

/** How much main strokes swing, on the lines that they are taken for. */
function swingsAsFitted(part: Readable, times: Float64Array, strokes: Int32Array, { homes }: Fit): Swings | null {
  const all = new Float64Array(part.hits.length).fill(Number.NaN);
  strokes.forEach((i, k) => (all[i] = ticks(homes[k] as number)));
  return swingsOnLines(part, all, times, (i) => !Number.isNaN(all[i] as number));
}

/** What of a part is read: its cells, and the strokes of its rows without grace strokes. */
function materialOf(
  part: Readable,
  times: Float64Array,
  fixed: Uint8Array,
): { material: Material; strokes: Int32Array; mains: Int32Array; literal: Float64Array } {
  const { hits } = part;
  const tempo = tempoMapOf(part);
  const { velocities } = columnsOfHits(hits);
  const raster = part.source?.ppq ? TICKS_PER_QUARTER / part.source.ppq : 1;
  const { cells, of } = cellsOfHits(meterMapOf(part), times);
  const mains = new Int32Array(hits.length);
  const literal = new Float64Array(hits.length).fill(Number.NaN);
  const byRow: RowCell[] = [];
  const ofCell: number[][] = cells.map(() => []);
  const strokesByRow: number[] = [];
  const rows = [...indicesByVoice(hits).values()];
  rows.forEach((indices, row) => {
    const own = taken(times, indices);
    const exact = exactHomes(
      own,
      indices.map((i) => cells[of[i] as number] as Cell),
      raster,
    );
    for (let k = 0; k < own.length; k++) literal[indices[k] as number] = exact[k] as number;
    const isFree = (k: number): boolean => Number.isNaN(exact[k] as number) && fixed[indices[k] as number] === 0;
    const main = mainStrokes(
      { ticks: own, velocities: taken(velocities, indices), seconds: own.map((t) => tempo.toSeconds(ticks(t))) },
      isFree,
      TICKS_PER_QUARTER,
    );
    let open: RowCell | null = null as RowCell | null;
    for (let k = 0; k < indices.length; k++) {
      const i = indices[k] as number;
      mains[i] = indices[main[k] as number] as number;
      if (main[k] !== k) continue;
      const cell = of[i] as number;
      if (open?.cell !== cell) {
        const before: RowCell | null = open;
        const touches: boolean =
          before !== null && before.cell === cell - 1 && cells[cell - 1]!.start + cells[cell - 1]!.length === cells[cell]!.start;
        open = { row, cell, from: strokesByRow.length, to: strokesByRow.length, before: touches ? byRow.length - 1 : -1, after: -1 };
        if (before && touches) before.after = byRow.length;
        ofCell[cell]!.push(byRow.length);
        byRow.push(open);
      }
      strokesByRow.push(i);
      open.to = strokesByRow.length;
    }
  });
  const { rowCells, firstOfCell, strokes } = inCellOrder(byRow, ofCell, strokesByRow);
  const own = taken(times, strokes);
  const inTime = new Int32Array(own.length);
  for (let k = 0; k < inTime.length; k++) inTime[k] = k;
  const material: Material = {
    cells,
    rows: rows.length,
    rowCells,
    firstOfCell,
    ticks: own,
    decided: Float64Array.from(strokes, (i) => (fixed[i] === 1 ? (hits[i] as Hit).home : Number.NaN)),
    inTime: inTime.sort((a, b) => (own[a] as number) - (own[b] as number)),
    raster,
  };
  return { material, strokes, mains, literal };
}

/** The same row cells and strokes, one cell after another: passes over cells then go through memory in its order. */
function inCellOrder(
  byRow: readonly RowCell[],
  ofCell: readonly (readonly number[])[],
  strokesByRow: readonly number[],
): Pick<Material, 'rowCells' | 'firstOfCell'> & { strokes: Int32Array } {
  const order = ofCell.flat();
  const indexOf = new Int32Array(byRow.length + 1);
  order.forEach((old, index) => (indexOf[old] = index));
  const firstOfCell = new Int32Array(ofCell.length + 1);
  ofCell.forEach((own, c) => (firstOfCell[c + 1] = (firstOfCell[c] as number) + own.length));
  const strokes = new Int32Array(strokesByRow.length);
  let to = 0;
  const rowCells = order.map((old): RowCell => {
    const rc = byRow[old] as RowCell;
    const from = to;
    for (let k = rc.from; k < rc.to; k++) strokes[to++] = strokesByRow[k] as number;
    return {
      row: rc.row,
      cell: rc.cell,
      from,
      to,
      before: rc.before < 0 ? -1 : (indexOf[rc.before] as number),
      after: rc.after < 0 ? -1 : (indexOf[rc.after] as number),
    };
  });
  return { rowCells, firstOfCell, strokes };
}

/** What a column has at some indices. */
function taken(column: ArrayLike<number>, indices: ArrayLike<number>): Float64Array {
  const own = new Float64Array(indices.length);
  for (let k = 0; k < indices.length; k++) own[k] = column[indices[k] as number] as number;
  return own;
}

function settle(
  reading: HomesRead,
  part: Readable,
  strokes: Int32Array,
  mains: Int32Array,
  literal: Float64Array,
  fit: Fit,
  fixed: Uint8Array,
) {
  const { hits } = part;
  const { homes, sure, others, places, swings } = reading;
  const triplets = swings
    ? tripletRows(part, literal, swings.division === '1/8' ? TICKS_PER_QUARTER : TICKS_PER_QUARTER / 2)
    : new Set<string>();
  strokes.forEach((i, k) => {
    const hit = hits[i] as Hit;
    homes[i] = fit.homes[k] as number;
    places[i] = fit.places[k] as number;
    sure[i] = Math.min(1, fit.sure[k] as number);
    if ((fit.otherP[k] as number) >= LEAST_OTHER) others[i] = fit.others[k] as number;
    const line = literal[i] as number;
    // What stands exactly where the part swings to belongs to the swung line, unless the row plays both thirds: those are triplets.
    const isSwungThere =
      swings !== null &&
      !triplets.has(hit.voice) &&
      homes[i] !== line &&
      Math.abs((places[i] as number) - line) < NEAR_SWUNG &&
      Math.abs((places[i] as number) - (homes[i] as number)) > NEAR_SWUNG;
    if (!Number.isNaN(line) && !isSwungThere) {
      homes[i] = places[i] = line;
      sure[i] = 1;
      others[i] = Number.NaN;
    }
    if (fixed[i] === 1) {
      homes[i] = hit.home;
      sure[i] = 1;
      others[i] = Number.NaN;
    }
  });
  // Grace strokes take the home of their main stroke.
  mains.forEach((main, i) => {
    if (main === i) return;
    homes[i] = homes[main] as number;
    sure[i] = sure[main] as number;
    others[i] = others[main] as number;
    places[i] = places[main] as number;
  });
  for (let i = 0; i < homes.length; i++) homes[i] = ticks(homes[i] as number);
}

/** At least this share as many exact strokes on the first third of pairs as on the second. */
const BOTH_THIRDS = 0.2;

/** Rows whose exact strokes stand on both thirds of pairs. @param pair ticks */
function tripletRows(part: Readable, literal: Float64Array, pair: number): Set<string> {
  const map = meterMapOf(part);
  const counts = new Map<string, [first: number, second: number]>();
  part.hits.forEach((hit, i) => {
    const line = literal[i] as number;
    if (Number.isNaN(line)) return;
    const place = (line - map.barAt(ticks(line)).start) % pair;
    const third = Math.abs(place - pair / 3) < 1 ? 0 : Math.abs(place - (2 * pair) / 3) < 1 ? 1 : null;
    if (third === null) return;
    const count = counts.get(hit.voice) ?? [0, 0];
    count[third]++;
    counts.set(hit.voice, count);
  });
  return new Set([...counts].flatMap(([voice, [first, second]]) => (first > 0 && first >= BOTH_THIRDS * second ? [voice] : [])));
}
