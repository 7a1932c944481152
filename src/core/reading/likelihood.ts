import { align, type WayLines } from './alignment';
import type { Cell } from './cells';
import { FINEST, MS_PER_QUARTER, PLACES, type Material, type RowCell } from './material';
import { usualAt, type ReadingParameters } from './learnt';
import { TICKS_PER_QUARTER } from '../units';
import { EXCURSIONS, linesOfBase, linesOfExcursion, type CellLines } from './states';

const QUARTER = TICKS_PER_QUARTER;
/** A stroke whose line was decided, on any other line. */
const DECIDED_ELSEWHERE = 1e-3;
/** No stroke is less likely on a line than this. Beyond so many spreads it is no likelier either. */
const FLOOR = 1e-7;
const FAR = 15;
/** The density at a distance of n / FINENESS spreads, without its peak: a narrow normal curve, and a wide one for strays. */
const FINENESS = 128;
const DENSITY = Float64Array.from({ length: FAR * FINENESS + 2 }, (_, n) => {
  const square = (n / FINENESS) ** 2;
  return 0.96 * Math.exp(-square / 2) + (0.04 / 3) * Math.exp(-square / 18);
});
/** What the neighbouring cell claims of a line that both have is not struck twice. */
const CLAIMED = 0.95;

/** One way to count a cell. */
export interface Way extends WayLines {
  /** Line by line: what it stands for, in 1/24 of a quarter from the cell's start, and where it is played, in ticks. */
  slots: Int32Array;
  places: Float64Array;
}

/** Ways to count a cell, with the distinct places of all their lines: many ways share them. */
export interface Ways {
  /** The bases, then the excursions; null where a cell cannot be counted so. */
  ways: readonly (Way | null)[];
  /** Place by place: ms from the cell's start where it is played, and what it stands for, in 1/24 of a quarter. */
  ms: Float64Array;
  slots: Int32Array;
  /** The slots that occur. */
  used: Int32Array;
}

function withPlaces(lines: readonly (CellLines | null)[]): Ways {
  const ms: number[] = [];
  const slots: number[] = [];
  const known = new Map<string, number>();
  const ways = lines.map((own): Way | null => {
    if (!own) return null;
    const slotsOfWay = Int32Array.from(own.homes, (home) => Math.round((home * QUARTER) / FINEST));
    const placeOf = Int32Array.from(own.places, (at, l) => {
      const slot = slotsOfWay[l] as number;
      const key = `${at} ${slot}`;
      let found = known.get(key);
      if (found === undefined) {
        known.set(key, (found = ms.length));
        ms.push(at * MS_PER_QUARTER);
        slots.push(slot);
      }
      return found;
    });
    return {
      placeOf,
      priors: Float64Array.from(own.priors),
      slots: slotsOfWay,
      places: Float64Array.from(own.places, (at) => at * QUARTER),
    };
  });
  return { ways, ms: Float64Array.from(ms), slots: Int32Array.from(slots), used: Int32Array.from(new Set(slots)) };
}

/** How likely the strokes of a row in a cell are, counted in each way, by what was learnt so far. */
export class Likelihood {
  private readonly ways = new Map<number, Ways>();
  private readonly factors = new Float64Array(PLACES);
  /** By row cell: where its strengths begin. */
  private readonly from: Int32Array;
  private readonly strengths: Float64Array;
  private readonly rasterMs: number;

  /** @param cells those that will be asked for */
  constructor(
    private readonly of: Material,
    private readonly learnt: ReadingParameters,
    cells: readonly number[],
  ) {
    this.from = new Int32Array(of.rowCells.length);
    let size = 0;
    for (const c of cells) {
      const places = this.waysOf(of.cells[c] as Cell).ms.length;
      for (let index = of.firstOfCell[c] as number; index < (of.firstOfCell[c + 1] as number); index++) {
        const rc = of.rowCells[index] as RowCell;
        this.from[index] = size;
        size += (rc.to - rc.from) * places;
      }
    }
    this.strengths = new Float64Array(size);
    this.rasterMs = (of.raster / QUARTER) * MS_PER_QUARTER;
  }

  /** All ways to count a cell. */
  waysOf(cell: Cell): Ways {
    const onQuarter = cell.place % QUARTER === 0;
    const key = cell.length * 2 + (onQuarter ? 1 : 0);
    let found = this.ways.get(key);
    if (!found) {
      const length = cell.length / QUARTER;
      this.ways.set(
        key,
        (found = withPlaces([
          ...this.learnt.bases.map((b) => linesOfBase(b, length, onQuarter)),
          ...EXCURSIONS.map((x) => linesOfExcursion(x, length)),
        ])),
      );
    }
    return found;
  }

  /** Works out what {@link log} needs of a row cell. Called once for each. */
  prepare(index: number, ways: Ways): void {
    this.setStrengths(index, this.of.rowCells[index] as RowCell, ways);
  }

  /** The logarithm of the likelihood of a row cell's strokes on the lines of one way to count it. */
  log(index: number, rc: RowCell, ways: Ways, way: WayLines, wantsPosteriors: boolean): number {
    return align(rc.to - rc.from, way, this.strengths, this.from[index] as number, ways.ms.length, wantsPosteriors);
  }

  /** Density of each stroke at each place, times how usual the place is and whether it is still free. */
  private setStrengths(index: number, rc: RowCell, { ms: places, slots, used }: Ways) {
    const { of, learnt, factors } = this;
    const cell = of.cells[rc.cell] as Cell;
    this.setFactors(index, rc, cell, used);
    const u = places.length;
    const n = rc.to - rc.from;
    const from = this.from[index] as number;
    const d = this.strengths;
    const spread = learnt.spreads[rc.row] as number;
    const variance = spread * spread + (this.rasterMs * this.rasterMs) / 12;
    const peak = 1 / Math.sqrt(2 * Math.PI * variance);
    const scale = FINENESS / Math.sqrt(variance);
    const lean = learnt.leans[rc.row] as number;
    for (let k = 0; k < n; k++) {
      const stroke = rc.from + k;
      const at = from + k * u;
      const decided = of.decided[stroke] as number;
      if (decided === decided) {
        const slot = (decided - cell.start) / FINEST;
        for (let p = 0; p < u; p++)
          d[at + p] = (Math.abs(slot - (slots[p] as number)) < 1e-3 ? 1 : DECIDED_ELSEWHERE) * (factors[slots[p] as number] as number);
        continue;
      }
      const ms = (((of.ticks[stroke] as number) - cell.start) / QUARTER) * MS_PER_QUARTER - lean - (learnt.drift[stroke] as number);
      for (let p = 0; p < u; p++) {
        const away = Math.abs(ms - (places[p] as number)) * scale;
        let density = FLOOR;
        if (away < FAR * FINENESS) {
          const n = Math.floor(away);
          const below = DENSITY[n] as number;
          density += peak * (below + (away - n) * ((DENSITY[n + 1] as number) - below));
        }
        d[at + p] = density * (factors[slots[p] as number] as number);
      }
    }
  }

  /** How much more likely a stroke is at each place of a cell, where the row's other bars strike it and no neighbouring cell claims it. */
  private setFactors(index: number, rc: RowCell, cell: Cell, used: Int32Array) {
    const { learnt, factors } = this;
    const bars = learnt.barsOf[rc.row] as number;
    const last = cell.slots;
    const own = index * PLACES;
    for (let u = 0; u < used.length; u++) {
      const i = used[u] as number;
      if (bars < 2) {
        factors[i] = 1;
        continue;
      }
      let struck = learnt.struck[own + i] as number;
      if (i === 0 && rc.before >= 0) struck += learnt.struck[rc.before * PLACES + this.slotsOf(rc.before)] as number;
      if (i === last && rc.after >= 0) struck += learnt.struck[rc.after * PLACES] as number;
      const others = ((learnt.usual[usualAt(learnt, rc.row, cell, i)] as number) - Math.min(1, struck)) / (bars - 1);
      factors[i] = others <= 0 ? 1 : others >= 1 ? 6 : 1 + 5 * others;
    }
    if (rc.before >= 0) factors[0] = (factors[0] as number) * (1 - CLAIMED * (learnt.claims[2 * rc.before + 1] as number));
    if (rc.after >= 0) factors[last] = (factors[last] as number) * (1 - CLAIMED * (learnt.claims[2 * rc.after] as number));
  }

  private slotsOf(index: number): number {
    return (this.of.cells[(this.of.rowCells[index] as RowCell).cell] as Cell).slots;
  }
}
