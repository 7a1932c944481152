import type { Cell } from './cells';
import { isThreeEighths } from './cells';
import { chainOf, type Step } from './chain';
import { priorsOf, type Learnt } from './learnt';
import { Likelihood } from './likelihood';
import type { Material, RowCell } from './material';
import { EXCURSION_PRIORS, EXCURSIONS, STAYS, type Lines } from './states';

const NX = EXCURSIONS.length;
/** Ways that a row hardly counts a cell in are not followed. */
const LEAST_SHARE = 1e-3;
const OWN_BASE = 1 - EXCURSION_PRIORS.reduce((a, b) => a + b, 0);

/** How each cell is counted, given all rows and what was learnt. */
export interface Expectation {
  /** The cells that were looked at. */
  cells: readonly number[];
  likelihood: Likelihood;
  /** By row cell and way to count it: logarithm of the likelihood of its strokes. */
  logs: Float64Array;
  /** By cell looked at: how likely each way to count it is. */
  kit: Float64Array;
  /** By cell looked at: how likely each base is, excursions or not. */
  bases: Float64Array;
  /** Logarithm of the likelihood of all strokes. */
  log: number;
}

/** @param sample the cells to look at; all without it */
export function expect(of: Material, learnt: Learnt, sample: readonly number[] | null = null): Expectation {
  const likelihood = new Likelihood(of, learnt);
  const nb = learnt.bases.length;
  const ne = nb + NX;
  const logs = new Float64Array(of.rowCells.length * ne);
  const cells = sample ?? Array.from(of.cells, (_, c) => c);
  const priors = priorsOf(learnt.bases);
  const count = cells.length;
  const messages = new Float64Array(count * ne);
  let log = 0;
  cells.forEach((c, at) => {
    const ways = likelihood.waysOf(of.cells[c] as Cell);
    for (const index of of.ofCell[c] as readonly number[]) {
      const rc = of.rowCells[index] as RowCell;
      let most = -Infinity;
      for (let e = 0; e < ne; e++) {
        const value = ways.lines[e] ? likelihood.alignment(index, ways, e, false).log : -1e9;
        logs[index * ne + e] = value;
        if (value > most) most = value;
      }
      const independent = of.rows > 1 ? (learnt.independence[rc.row] as number) : 0;
      let average = 0;
      for (let b = 0; b < nb; b++) average += (learnt.own[rc.row * nb + b] as number) * Math.exp((logs[index * ne + b] as number) - most);
      for (let e = 0; e < ne; e++) messages[at * ne + e] = (messages[at * ne + e] as number) + Math.log((1 - independent) * Math.exp((logs[index * ne + e] as number) - most) + independent * average + 1e-300);
      log += most;
    }
  });
  const steps = cells.map((c, at) => stepTo(of, learnt, at === 0 ? -1 : (cells[at - 1] as number), c));
  const chain = chainOf(steps, messages, priors);
  return { cells, likelihood, logs, kit: chain.posterior, bases: chain.bases, log: log + chain.log };
}

function stepTo(of: Material, learnt: Learnt, from: number, to: number): Step {
  const cell = of.cells[to] as Cell;
  const before = from < 0 ? null : (of.cells[from] as Cell);
  const own = learnt.excursionsAt.get(cell.place);
  const fresh = EXCURSION_PRIORS.map((p, x) => (x === 1 && isThreeEighths(cell.length) ? 0 : own ? 0.5 * p + 0.5 * (own[x] as number) : p));
  const none = 1 - fresh.reduce((a, b) => a + b, 0);
  return { stay: before?.bar === cell.bar ? STAYS.inBar : STAYS.overBar, touches: before !== null && before.start + before.length === cell.start, fresh: [none, ...fresh] };
}

/** How a row counts a cell: with the kit, or by itself. @returns how likely by itself */
function rowShares(of: Material, learnt: Learnt, index: number, at: number, { kit, logs }: Expectation, out: Float64Array, cavity: Float64Array): number {
  const nb = learnt.bases.length;
  const ne = nb + NX;
  const { row } = of.rowCells[index] as RowCell;
  const lone = of.rows === 1;
  const independent = lone ? 0 : (learnt.independence[row] as number);
  let most = -Infinity;
  for (let e = 0; e < ne; e++) most = Math.max(most, logs[index * ne + e] as number);
  let average = 0;
  for (let b = 0; b < nb; b++) average += (learnt.own[row * nb + b] as number) * Math.exp((logs[index * ne + b] as number) - most);
  // What the rest of the kit says, without this row's own message.
  let sum = 0;
  for (let e = 0; e < ne; e++) {
    const message = (1 - independent) * Math.exp((logs[index * ne + e] as number) - most) + independent * average + 1e-300;
    cavity[e] = (kit[at * ne + e] as number) / message;
    sum += cavity[e] as number;
  }
  let withKit = 0;
  let alone = 0;
  for (let e = 0; e < ne; e++) {
    const own = e < nb ? (learnt.own[row * nb + e] as number) * OWN_BASE : (EXCURSION_PRIORS[e - nb] as number);
    const likelihood = Math.exp((logs[index * ne + e] as number) - most);
    const a = (1 - independent) * ((cavity[e] as number) / sum) * likelihood;
    const b = independent * own * likelihood;
    withKit += a;
    alone += b;
    out[e] = a + b;
  }
  const total = withKit + alone;
  for (let e = 0; e < ne; e++) out[e] = (out[e] as number) / total;
  return alone / total;
}

/** Calls back for each stroke, way and line with how likely they belong together. */
export function eachMatch(of: Material, learnt: Learnt, expectation: Expectation, begin: (index: number, shares: Float64Array, alone: number) => void, match: (stroke: number, w: number, e: number, l: number, lines: Lines, cell: Cell) => void) {
  const ne = learnt.bases.length + NX;
  const { likelihood } = expectation;
  const shares = new Float64Array(ne);
  const cavity = new Float64Array(ne);
  expectation.cells.forEach((c, at) => {
    const cell = of.cells[c] as Cell;
    const ways = likelihood.waysOf(cell);
    for (const index of of.ofCell[c] as readonly number[]) {
      const rc = of.rowCells[index] as RowCell;
      begin(index, shares, rowShares(of, learnt, index, at, expectation, shares, cavity));
      for (let e = 0; e < ne; e++) {
        const lines = ways.lines[e];
        const share = shares[e] as number;
        if (!lines || share < LEAST_SHARE) continue;
        const m = lines.places.length;
        const { posterior } = likelihood.alignment(index, ways, e, true);
        if (!posterior) continue;
        for (let k = rc.from; k < rc.to; k++) for (let l = 0; l < m; l++) {
          const w = share * (posterior[(k - rc.from) * m + l] as number);
          if (w > 1e-6) match(k, w, e, l, lines, cell);
        }
      }
    }
  });
}
