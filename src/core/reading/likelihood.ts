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

/** Ways to count a cell, with the distinct places of all their lines: many ways share them. */
export interface Ways {
  /** The bases, then the excursions; null where a cell cannot be counted so. */
  lines: readonly (Lines | null)[];
  /** Quarters from the cell's start: where lines are played, and what they stand for. */
  places: readonly { at: number; home: number }[];
  /** By way and line: its place. */
  placeOf: readonly Int32Array[];
}

function withPlaces(lines: readonly (Lines | null)[]): Ways {
  const places: { at: number; home: number }[] = [];
  const known = new Map<string, number>();
  const placeOf = lines.map((way) =>
    Int32Array.from(way?.places ?? [], (at, l) => {
      const home = way?.homes[l] as number;
      const key = `${at} ${home}`;
      let found = known.get(key);
      if (found === undefined) {
        known.set(key, (found = places.length));
        places.push({ at, home });
      }
      return found;
    }),
  );
  return { lines, places, placeOf };
}

/** How likely the strokes of a row in a cell are, counted in each way, by what was learnt so far. */
export class Likelihood {
  private readonly ways = new Map<number, Ways>();
  private readonly factors = new Float64Array(PLACES);
  private factorsOf = -1;
  private densities = new Float64Array(1024);
  private densitiesOf = -1;
  private readonly weights = new Float64Array(64);

  constructor(
    private readonly of: Material,
    private readonly learnt: Learnt,
  ) {}

  /** All ways to count a cell. */
  waysOf(cell: Cell): Ways {
    const onQuarter = cell.place % QUARTER === 0;
    const key = cell.length * 2 + (onQuarter ? 1 : 0);
    let found = this.ways.get(key);
    if (!found) {
      const length = cell.length / QUARTER;
      this.ways.set(key, (found = withPlaces([...this.learnt.bases.map((b) => linesOfBase(b, length, onQuarter)), ...EXCURSIONS.map((x) => linesOfExcursion(x, length))])));
    }
    return found;
  }

  /** The likelihood of a row cell's strokes on the lines of one way to count it. */
  alignment(index: number, ways: Ways, way: number, wantsPosterior: boolean): Alignment {
    const rc = this.of.rowCells[index] as RowCell;
    this.setDensities(index, rc, ways);
    const lines = ways.lines[way] as Lines;
    const m = lines.places.length;
    const { weights, factors } = this;
    for (let l = 0; l < m; l++) weights[l] = (lines.priors[l] as number) * (factors[Math.round((lines.homes[l] as number) * 24)] as number);
    // What the neighbouring cell claims of a line that both have is not struck twice.
    if (rc.before >= 0) weights[0] = (weights[0] as number) * (1 - 0.95 * (this.learnt.claims[2 * rc.before + 1] as number));
    if (rc.after >= 0) weights[m - 1] = (weights[m - 1] as number) * (1 - 0.95 * (this.learnt.claims[2 * rc.after] as number));
    return align(rc.to - rc.from, m, weights, { values: this.densities, places: ways.places.length, of: ways.placeOf[way] as Int32Array }, wantsPosterior);
  }

  /** Densities of a row cell's strokes at all places of its ways. */
  private setDensities(index: number, rc: RowCell, { places }: Ways) {
    if (this.densitiesOf === index) return;
    this.densitiesOf = index;
    const { of } = this;
    const cell = of.cells[rc.cell] as Cell;
    this.setFactors(index, rc, cell);
    const u = places.length;
    const n = rc.to - rc.from;
    if (this.densities.length < n * u) this.densities = new Float64Array(2 * n * u);
    const d = this.densities;
    const spread = this.learnt.spreads[rc.row] as number;
    const rasterMs = (of.raster / QUARTER) * MS_PER_QUARTER;
    const variance = spread * spread + (rasterMs * rasterMs) / 12;
    const peak = 1 / Math.sqrt(2 * Math.PI * variance);
    const narrow = -1 / (18 * variance);
    const far = FAR * variance;
    for (let k = 0; k < n; k++) {
      const stroke = rc.from + k;
      const decided = of.decided[stroke] as number;
      if (decided === decided) {
        for (let p = 0; p < u; p++) d[k * u + p] = Math.abs(decided - cell.start - (places[p] as { home: number }).home * QUARTER) < 1 ? 1 : DECIDED_ELSEWHERE;
        continue;
      }
      const ms = (((of.ticks[stroke] as number) - cell.start) / QUARTER) * MS_PER_QUARTER - (this.learnt.leans[rc.row] as number) - (this.learnt.drift[stroke] as number);
      for (let p = 0; p < u; p++) {
        const away = ms - (places[p] as { at: number }).at * MS_PER_QUARTER;
        const square = away * away;
        if (square > far) {
          d[k * u + p] = FLOOR;
          continue;
        }
        // The wide curve's exponential, and its ninth power, which is the narrow one's.
        const wide = Math.exp(square * narrow);
        const cube = wide * wide * wide;
        d[k * u + p] = peak * (0.96 * cube * cube * cube + (0.04 / 3) * wide) + FLOOR;
      }
    }
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
