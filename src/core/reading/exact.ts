import type { Cell } from './cells';
import { isThreeEighths } from './cells';
import { TICKS_PER_QUARTER } from '../units';

/** Lines a quarter, in the order in which they are tried, with how many distinct lines there are up to each. */
const DIVISIONS: readonly (readonly [division: number, lines: number])[] = [
  [1, 1],
  [2, 2],
  [4, 4],
  [3, 6],
  [8, 10],
  [6, 12],
  [16, 20],
  [12, 24],
  [5, 28],
  [24, 36],
  [7, 42],
  [10, 46],
  [9, 52],
];
const COMPOUND_DIVISIONS: readonly (readonly [division: number, lines: number])[] = [
  [1, 1],
  [2, 2],
  [4, 4],
  [8, 8],
  [16, 16],
  [3, 18],
  [6, 20],
  [12, 24],
  [24, 36],
];
/** Of a stroke that is exact by itself alone. */
const ALONE = new Set([1, 2, 4, 3, 8, 6, 16, 12]);
const USUAL = new Set([1, 2, 4]);
const USUAL_CHANCE = 0.3;
const LEAST_STEP = 4;
const RUN = 1e-4;
const EXACT_ROW = 0.01;
const EXACT_SHARE = 0.9;
const FEWEST = 4;
const ALONE_LIMIT = 0.001;

/**
 * The line of a division that a place stands on exactly, in ticks; null where it stands on none.
 * @param raster ticks between places that the source can hold
 */
function lineAt(place: number, division: number, raster: number): number | null {
  const step = TICKS_PER_QUARTER / division;
  if (step < LEAST_STEP * raster) return null;
  const line = Math.round(place / step) * step;
  const offRaster = Math.abs(line / raster - Math.round(line / raster)) > 1e-6;
  const away = Math.abs(place - line);
  return offRaster ? (away < raster ? Math.round(line) : null) : away < 1e-6 ? line : null;
}

interface Exact {
  line: number;
  /** How likely a stroke stands on a line so fine by accident. */
  chance: number;
}

/**
 * Strokes that were placed on lines, not played: their homes are those lines. A row is taken for exact where so many strokes in a row on
 * exact lines are no accident.
 * @param times strokes of one row, sorted ticks
 * @param cells the cell of each
 * @param raster ticks between places that the source can hold: 80640 / its resolution
 * @returns the home of each stroke that is exact, in ticks; NaN of the others
 */
export function exactHomes(times: ArrayLike<number>, cells: readonly Cell[], raster: number): Float64Array {
  const homes = new Float64Array(times.length).fill(Number.NaN);
  const found: (Exact | null)[] = new Array<Exact | null>(times.length).fill(null);
  const ppq = TICKS_PER_QUARTER / raster;
  for (let i = 0; i < times.length;) {
    const cell = cells[i] as Cell;
    let to = i + 1;
    while (to < times.length && cells[to] === cell) to++;
    const divisions = isThreeEighths(cell.length) ? COMPOUND_DIVISIONS : DIVISIONS;
    const chanceOf = (division: number, lines: number): number => (lines / ppq) * (Number.isInteger(ppq / division) ? 1 : 2);
    for (const [division, lines] of divisions) {
      let k = i;
      while (k < to && lineAt((times[k] as number) - cell.start, division, raster) !== null) k++;
      if (k < to) continue;
      const own = chanceOf(division, lines);
      const chance = USUAL.has(division) ? Math.max(USUAL_CHANCE, own) : own;
      for (k = i; k < to; k++)
        found[k] = { line: cell.start + (lineAt((times[k] as number) - cell.start, division, raster) as number), chance };
      break;
    }
    for (let k = i; k < to && 2 / ppq < ALONE_LIMIT; k++) {
      for (const [division, lines] of divisions) {
        if (!ALONE.has(division)) continue;
        const line = lineAt((times[k] as number) - cell.start, division, raster);
        if (line === null) continue;
        if (chanceOf(division, lines) * 2 < ALONE_LIMIT) homes[k] = cell.start + line;
        break;
      }
    }
    i = to;
  }
  const exact = found.filter((f) => f !== null).length;
  const limit = exact >= FEWEST && exact >= EXACT_SHARE * times.length ? EXACT_ROW : RUN;
  for (let i = 0; i < times.length;) {
    let to = i;
    let chance = 1;
    for (; to < times.length && found[to]; to++) chance *= (found[to] as Exact).chance;
    if (to > i && chance < limit) for (let k = i; k < to; k++) homes[k] = (found[k] as Exact).line;
    i = to + 1;
  }
  return homes;
}
