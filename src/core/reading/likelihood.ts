import { align, type Alignment } from './alignment';
import type { Cell } from './cells';
import { FINEST, MS_PER_QUARTER, PLACES, type Material, type RowCell } from './material';
import { usualAt, type Learnt } from './learnt';
import { TICKS_PER_QUARTER } from '../units';
import { EXCURSIONS, linesOfBase, linesOfExcursion, type Lines } from './states';

const QUARTER = TICKS_PER_QUARTER;
/** A stroke whose line was decided, on any other line. */
const DECIDED_ELSEWHERE = 1e-3;
/** No stroke is less likely on a line than this. Beyond so many squared spreads it is no likelier either. */
const FLOOR = 1e-7;
const FAR = 225;

/** How likely the strokes of a row in a cell are, counted in each way, by what was learnt so far. */
export class Likelihood {
  private readonly lines = new Map<number, (Lines | null)[]>();
  private readonly factors = new Float64Array(PLACES);
  private factorsOf = -1;
  private densities = new Float64Array(512);

  constructor(
    private readonly of: Material,
    private readonly learnt: Learnt,
  ) {}

  /** Lines of all ways to count a cell: the bases, then the excursions. */
  waysOf(cell: Cell): (Lines | null)[] {
    const onQuarter = cell.place % QUARTER === 0;
    const key = cell.length * 2 + (onQuarter ? 1 : 0);
    let found = this.lines.get(key);
    if (!found) {
      const length = cell.length / QUARTER;
      this.lines.set(key, (found = [...this.learnt.bases.map((b) => linesOfBase(b, length, onQuarter)), ...EXCURSIONS.map((x) => linesOfExcursion(x, length))]));
    }
    return found;
  }

  /** The likelihood of a row cell's strokes on the lines of one way to count it. */
  alignment(index: number, lines: Lines, wantsPosterior: boolean): Alignment {
    const { from, to } = this.of.rowCells[index] as RowCell;
    return align(to - from, lines, this.densityOf(index, lines), wantsPosterior);
  }

  /** Densities of a row cell's strokes on lines, by stroke and line. */
  private densityOf(index: number, lines: Lines): Float64Array {
    const { of } = this;
    const rc = of.rowCells[index] as RowCell;
    const cell = of.cells[rc.cell] as Cell;
    const m = lines.places.length;
    const n = rc.to - rc.from;
    if (this.densities.length < n * m) this.densities = new Float64Array(2 * n * m);
    const d = this.densities;
    const spread = this.learnt.spreads[rc.row] as number;
    const rasterMs = (of.raster / QUARTER) * MS_PER_QUARTER;
    const variance = spread * spread + (rasterMs * rasterMs) / 12;
    const peak = 1 / Math.sqrt(2 * Math.PI * variance);
    const narrow = -1 / (18 * variance);
    const far = FAR * variance;
    this.setFactors(index, rc, cell);
    const claimedBefore = rc.before < 0 ? 0 : (this.learnt.claims[2 * rc.before + 1] as number);
    const claimedAfter = rc.after < 0 ? 0 : (this.learnt.claims[2 * rc.after] as number);
    for (let l = 0; l < m; l++) {
      const line = cell.start + (lines.places[l] as number) * QUARTER;
      const home = cell.start + (lines.homes[l] as number) * QUARTER;
      let factor = this.factors[Math.round((lines.homes[l] as number) * 24)] as number;
      if (l === 0) factor *= 1 - 0.95 * claimedBefore;
      else if (l === m - 1) factor *= 1 - 0.95 * claimedAfter;
      for (let k = 0; k < n; k++) {
        const stroke = rc.from + k;
        const decided = of.decided[stroke] as number;
        if (decided === decided) {
          d[k * m + l] = Math.abs(decided - home) < 1 ? 1 : DECIDED_ELSEWHERE;
          continue;
        }
        const away = (((of.ticks[stroke] as number) - line) / QUARTER) * MS_PER_QUARTER - (this.learnt.leans[rc.row] as number) - (this.learnt.drift[stroke] as number);
        const square = away * away;
        if (square > far) {
          d[k * m + l] = factor * FLOOR;
          continue;
        }
        // The wide curve's exponential, and its ninth power, which is the narrow one's.
        const wide = Math.exp(square * narrow);
        const cube = wide * wide * wide;
        d[k * m + l] = factor * (peak * (0.96 * cube * cube * cube + (0.04 / 3) * wide) + FLOOR);
      }
    }
    return d;
  }

  /** How much more likely a stroke is at each place of a cell, where the row's other bars strike it. */
  private setFactors(index: number, rc: RowCell, cell: Cell) {
    const bars = this.learnt.barsOf[rc.row] as number;
    if (bars < 2) return void this.factors.fill(1);
    if (this.factorsOf === index) return;
    this.factorsOf = index;
    const length = Math.round(cell.length / FINEST);
    for (let i = 0; i <= length; i++) {
      let own = this.learnt.struck[index * PLACES + i] as number;
      if (i === 0 && rc.before >= 0) own += this.learnt.struck[rc.before * PLACES + this.lengthOf(rc.before)] as number;
      if (i === length && rc.after >= 0) own += this.learnt.struck[rc.after * PLACES] as number;
      const others = (this.learnt.usual[usualAt(this.learnt, rc.row, cell, i)] as number) - Math.min(1, own);
      this.factors[i] = 1 + 5 * Math.max(0, Math.min(1, others / (bars - 1)));
    }
  }

  private lengthOf = (index: number): number => Math.round((this.of.cells[(this.of.rowCells[index] as RowCell).cell] as Cell).length / FINEST);
}
