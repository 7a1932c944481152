import type { Cell } from './cells';
import { isThreeEighths } from './cells';
import { chainOf, type Step } from './chain';
import { priorsOf, type ReadingParameters } from './learnt';
import { posteriorsOfAlign } from './alignment';
import { Likelihood, type Way } from './likelihood';
import type { Material, RowCell } from './material';
import { EXCURSION_PRIORS, EXCURSIONS, STAYS } from './states';

const NX = EXCURSIONS.length;
/** Ways that a row hardly counts a cell in are not followed. */
const LEAST_SHARE = 1e-3;
/** No message is zero; products of messages are taken as logarithms before they get smaller than numbers can be. */
const LEAST_MESSAGE = 1e-100;
const SMALL = 1e-100;
const OWN_BASE = 1 - EXCURSION_PRIORS.reduce((a, b) => a + b, 0);

/** How each cell is counted, given all rows and what was learnt. */
export interface Expectation {
  /** The cells that were looked at. */
  cells: readonly number[];
  likelihood: Likelihood;
  /** By row cell and way to count it: likelihood of its strokes, as a share of the likeliest way's. */
  shares: Float64Array;
  /** By cell looked at: how likely each way to count it is. */
  kit: Float64Array;
  /** By cell looked at: how likely each base is, excursions or not. */
  bases: Float64Array;
  /** Logarithm of the likelihood of all strokes. */
  log: number;
}

/** @param sample the cells to look at; all without it */
export function expect(of: Material, learnt: ReadingParameters, sample: readonly number[] | null = null): Expectation {
  const nb = learnt.bases.length;
  const ne = nb + NX;
  const shares = new Float64Array(of.rowCells.length * ne);
  const cells = sample ?? Array.from(of.cells, (_, c) => c);
  const likelihood = new Likelihood(of, learnt, cells);
  const priors = priorsOf(learnt.bases);
  const count = cells.length;
  const messages = new Float64Array(count * ne);
  const logs = new Float64Array(ne);
  const products = new Float64Array(ne);
  let log = 0;
  for (let at = 0; at < count; at++) {
    const c = cells[at] as number;
    const ways = likelihood.waysOf(of.cells[c] as Cell);
    products.fill(1);
    for (let index = of.firstOfCell[c] as number; index < (of.firstOfCell[c + 1] as number); index++) {
      const rc = of.rowCells[index] as RowCell;
      const { row } = rc;
      likelihood.prepare(index, ways);
      let most = -Infinity;
      for (let e = 0; e < ne; e++) {
        const way = ways.ways[e];
        const value = way ? likelihood.log(index, rc, ways, way, false) : -1e9;
        logs[e] = value;
        if (value > most) most = value;
      }
      log += most;
      const independent = of.rows > 1 ? (learnt.independence[row] as number) : 0;
      const own = index * ne;
      let average = 0;
      for (let e = 0; e < ne; e++) {
        const share = Math.exp((logs[e] as number) - most);
        shares[own + e] = share;
        if (e < nb) average += (learnt.own[row * nb + e] as number) * share;
      }
      for (let e = 0; e < ne; e++) {
        const product = (products[e] as number) * ((1 - independent) * (shares[own + e] as number) + independent * average + LEAST_MESSAGE);
        if (product > SMALL) products[e] = product;
        else {
          messages[at * ne + e] = (messages[at * ne + e] as number) + Math.log(product);
          products[e] = 1;
        }
      }
    }
    for (let e = 0; e < ne; e++) messages[at * ne + e] = (messages[at * ne + e] as number) + Math.log(products[e] as number);
  }
  const steps = stepsOf(of, learnt, cells);
  const chain = chainOf(steps, messages, priors);
  return { cells, likelihood, shares, kit: chain.posterior, bases: chain.bases, log: log + chain.log };
}

/** How each cell follows the one before; cells that follow alike share their step. */
function stepsOf(of: Material, learnt: ReadingParameters, cells: readonly number[]): Step[] {
  const known = new Map<string, Step>();
  let before: Cell | null = null;
  return cells.map((c) => {
    const cell = of.cells[c] as Cell;
    const inBar = before?.bar === cell.bar;
    const touches: boolean = before !== null && before.start + before.length === cell.start;
    before = cell;
    const key = `${cell.place} ${cell.length} ${inBar} ${touches}`;
    let step = known.get(key);
    if (!step) known.set(key, (step = { stay: inBar ? STAYS.inBar : STAYS.overBar, touches, fresh: freshIn(learnt, cell) }));
    return step;
  });
}

/** How likely each excursion begins in a cell, none first. */
function freshIn(learnt: ReadingParameters, cell: Cell): number[] {
  const own = learnt.excursionsAt.get(cell.place);
  const fresh = EXCURSION_PRIORS.map((p, x) => (x === 1 && isThreeEighths(cell.length) ? 0 : own ? 0.5 * p + 0.5 * (own[x] as number) : p));
  return [1 - fresh.reduce((a, b) => a + b, 0), ...fresh];
}

/** How a row counts a cell: with the kit, or by itself. @returns how likely by itself */
function rowShares(
  of: Material,
  learnt: ReadingParameters,
  index: number,
  at: number,
  { kit, shares }: Expectation,
  out: Float64Array,
  cavity: Float64Array,
): number {
  const nb = learnt.bases.length;
  const ne = nb + NX;
  const { row } = of.rowCells[index] as RowCell;
  const lone = of.rows === 1;
  const independent = lone ? 0 : (learnt.independence[row] as number);
  const own = index * ne;
  let average = 0;
  for (let b = 0; b < nb; b++) average += (learnt.own[row * nb + b] as number) * (shares[own + b] as number);
  // What the rest of the kit says, without this row's own message.
  let sum = 0;
  for (let e = 0; e < ne; e++) {
    const message = (1 - independent) * (shares[own + e] as number) + independent * average + LEAST_MESSAGE;
    const rest = (kit[at * ne + e] as number) / message;
    cavity[e] = rest;
    sum += rest;
  }
  let withKit = 0;
  let alone = 0;
  for (let e = 0; e < ne; e++) {
    const usual = e < nb ? (learnt.own[row * nb + e] as number) * OWN_BASE : (EXCURSION_PRIORS[e - nb] as number);
    const likelihood = shares[own + e] as number;
    const a = (1 - independent) * ((cavity[e] as number) / sum) * likelihood;
    const b = independent * usual * likelihood;
    withKit += a;
    alone += b;
    out[e] = a + b;
  }
  const total = withKit + alone;
  for (let e = 0; e < ne; e++) out[e] = (out[e] as number) / total;
  return alone / total;
}

/** Told, row cell by row cell, how likely each stroke belongs to each line. */
export interface MatchReader {
  /** A row cell begins. @param shares how likely the row counts it in each way @param alone how likely by itself */
  begin(index: number, rc: RowCell, cell: Cell, shares: Float64Array, alone: number): void;
  /** The strokes of that row cell, counted in one way. @param posteriors by stroke and line @param share how likely this way is */
  way(e: number, way: Way, posteriors: Float64Array, share: number): void;
  end?(): void;
}

/** Matches less likely than this are left out. */
export const LEAST_MATCH = 1e-6;

/** Goes through all row cells that were looked at. */
export function eachMatch(of: Material, learnt: ReadingParameters, expectation: Expectation, reader: MatchReader) {
  const ne = learnt.bases.length + NX;
  const { likelihood, cells } = expectation;
  const shares = new Float64Array(ne);
  const cavity = new Float64Array(ne);
  for (let at = 0; at < cells.length; at++) {
    const c = cells[at] as number;
    const cell = of.cells[c] as Cell;
    const ways = likelihood.waysOf(cell);
    for (let index = of.firstOfCell[c] as number; index < (of.firstOfCell[c + 1] as number); index++) {
      const rc = of.rowCells[index] as RowCell;
      const alone = rowShares(of, learnt, index, at, expectation, shares, cavity);
      reader.begin(index, rc, cell, shares, alone);
      for (let e = 0; e < ne; e++) {
        const way = ways.ways[e];
        const share = shares[e] as number;
        if (!way || share < LEAST_SHARE) continue;
        likelihood.log(index, rc, ways, way, true);
        reader.way(e, way, posteriorsOfAlign(), share);
      }
      reader.end?.();
    }
  }
}
