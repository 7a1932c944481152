import type { Cell } from './cells';
import { eachMatch, LEAST_MATCH, type Expectation } from './expectation';
import { INDEPENDENCE, priorsOf, SPREAD_PRIOR, usualAt, type ReadingParameters } from './learnt';
import { MS_PER_QUARTER, PLACES, type Material, type RowCell } from './material';
import { TICKS_PER_QUARTER } from '../units';
import { EXCURSION_PRIORS, EXCURSIONS, isSwung, type Base } from './states';

/**
 * How what was expected of the strokes becomes what is learnt: the maximising half of a round. Priors count as so many strokes or cells.
 */

const QUARTER = TICKS_PER_QUARTER;
/** 1/24 of a quarter in a quarter. */
const SLOTS = 24;
const NX = EXCURSIONS.length;
/** Milliseconds. */
const LEAN_PRIOR = 12;
const DRIFT_MS = 800;
const POOL_WEIGHT = 12;
const ROW_WEIGHT = 30;
const RATIO_WEIGHT = 3;
/** A ratio moves by no more than this in a round, and stays between these. */
const RATIO_STEP = 0.02;
const RATIO_LIMITS = [0.52, 0.75] as const;
const OWN_WEIGHT = 4;
const INDEPENDENCE_WEIGHT = 20;
const MOST_INDEPENDENT = 0.9;
const PLACE_WEIGHT = 6;
/** Swung bases by which fewer cells are counted, by this number and share, are dropped. */
const DROPPED = 0.3;
const DROPPED_SHARE = 0.002;
/** Strays weigh no more than so many spreads. */
const STRAY = 3;

/** Sums over all strokes, lines and ways to count, each as likely as it was expected. */
interface Collected {
  /** By stroke: distance from its lines in ms, its square, and how likely it is on any. */
  away: Float64Array;
  squares: Float64Array;
  weights: Float64Array;
  rowOf: Int32Array;
  /** By row and base, and by row: cells counted so, by the row itself, and at all. */
  ownMass: Float64Array;
  aloneMass: Float64Array;
  cellsOfRow: Float64Array;
  /** By base: where second lines of pairs were played. */
  ratios: { sum: number; weight: number }[];
  claims: Float64Array;
  usual: Float64Array;
  struck: Float64Array;
  barsOf: Float64Array;
}

/** What is learnt from an expectation. */
export function learn(of: Material, learnt: ReadingParameters, expectation: Expectation): ReadingParameters {
  const sums = collected(of, learnt, expectation);
  const { claims, usual, struck, barsOf } = sums;
  const timing = timingOf(of, learnt, sums);
  return {
    ...learnt,
    ...timing,
    ...basesOf(of, learnt, expectation, sums),
    independence: independenceOf(learnt, sums),
    excursionsAt: excursionsAtOf(of, learnt, expectation),
    claims,
    usual,
    struck,
    barsOf,
  };
}

function collected(of: Material, learnt: ReadingParameters, expectation: Expectation): Collected {
  const nb = learnt.bases.length;
  const { rows } = of;
  const n = of.ticks.length;
  const away = new Float64Array(n);
  const squares = new Float64Array(n);
  const weights = new Float64Array(n);
  const rowOf = new Int32Array(n);
  const ownMass = new Float64Array(rows * nb);
  const aloneMass = new Float64Array(rows);
  const cellsOfRow = new Float64Array(rows);
  const ratios = learnt.bases.map(() => ({ sum: 0, weight: 0 }));
  const claims = new Float64Array(learnt.claims.length);
  const usual = new Float64Array(learnt.usual.length);
  const struck = new Float64Array(learnt.struck.length);
  const barsOf = new Float64Array(rows);
  const lastBar = new Int32Array(rows).fill(-0x7fffffff);
  let current = -1;
  let rc: RowCell;
  let cell: Cell;
  eachMatch(of, learnt, expectation, {
    begin(index, own, ownCell, shares, alone) {
      [current, rc, cell] = [index, own, ownCell];
      const { row } = rc;
      let sum = 0;
      for (let b = 0; b < nb; b++) sum += shares[b] as number;
      if (sum > 0) for (let b = 0; b < nb; b++) ownMass[row * nb + b] = (ownMass[row * nb + b] as number) + (shares[b] as number) / sum;
      aloneMass[row] = (aloneMass[row] as number) + alone;
      cellsOfRow[row] = (cellsOfRow[row] as number) + 1;
      if (lastBar[row] !== cell.bar) {
        lastBar[row] = cell.bar;
        barsOf[row] = (barsOf[row] as number) + 1;
      }
    },
    way(e, { slots, places }, posteriors, share) {
      const m = slots.length;
      const base = e < nb ? (learnt.bases[e] as Base) : null;
      const pair = base && isSwung(base) ? (base.kind === 'swung-eighths' ? SLOTS : SLOTS / 2) : 0;
      const lean = learnt.leans[rc.row] as number;
      for (let stroke = rc.from; stroke < rc.to; stroke++) {
        const isFree = Number.isNaN(of.decided[stroke] as number);
        const ms = (((of.ticks[stroke] as number) - cell.start) / QUARTER) * MS_PER_QUARTER;
        rowOf[stroke] = rc.row;
        for (let l = 0; l < m; l++) {
          const w = share * (posteriors[(stroke - rc.from) * m + l] as number);
          if (w <= LEAST_MATCH) continue;
          const d = ms - ((places[l] as number) / QUARTER) * MS_PER_QUARTER;
          const slot = slots[l] as number;
          if (isFree) {
            away[stroke] = (away[stroke] as number) + w * d;
            squares[stroke] = (squares[stroke] as number) + w * d * d;
            weights[stroke] = (weights[stroke] as number) + w;
          }
          if (l === 0) claims[2 * current] = Math.min(1, (claims[2 * current] as number) + w);
          else if (l === m - 1) claims[2 * current + 1] = Math.min(1, (claims[2 * current + 1] as number) + w);
          const was = struck[current * PLACES + slot] as number;
          const now = Math.min(1, was + w);
          struck[current * PLACES + slot] = now;
          const at = usualAt(learnt, rc.row, cell, slot);
          usual[at] = (usual[at] as number) + now - was;
          // On the second line of a swung pair: what the ratio would have to be.
          if (base && pair > 0 && isFree && slot % pair === pair / 2) {
            const clean = d - lean - (learnt.drift[stroke] as number);
            const r = ratios[e]!;
            r.sum += w * (base.ratio + (clean / MS_PER_QUARTER) * (SLOTS / pair));
            r.weight += w;
          }
        }
      }
    },
  });
  return { away, squares, weights, rowOf, ownMass, aloneMass, cellsOfRow, ratios, claims, usual, struck, barsOf };
}

/** Leans of rows, then the drift that all share, then what is left as spread. */
function timingOf(
  of: Material,
  learnt: ReadingParameters,
  { away, squares, weights, rowOf }: Collected,
): Pick<ReadingParameters, 'leans' | 'drift' | 'spreads'> {
  const rows = of.rows;
  const leanSums = new Float64Array(rows);
  const counts = new Float64Array(rows);
  weights.forEach((w, k) => {
    const row = rowOf[k] as number;
    leanSums[row] = (leanSums[row] as number) + (away[k] as number) - w * (learnt.drift[k] as number);
    counts[row] = (counts[row] as number) + w;
  });
  const leans = leanSums.map((sum, row) => sum / ((counts[row] as number) + ((learnt.spreads[row] as number) / LEAN_PRIOR) ** 2));
  const pooled = learnt.spreads.reduce((a, b) => a + b, 0) / rows;
  const drift = driftOf(of, leans, away, weights, rowOf, pooled);
  const rowSquares = new Float64Array(rows);
  let allSquares = 0;
  let allCounts = 0;
  weights.forEach((w, k) => {
    const row = rowOf[k] as number;
    const centre = (leans[row] as number) + (drift[k] as number);
    const square = Math.max(0, (squares[k] as number) - 2 * centre * (away[k] as number) + w * centre * centre);
    const limited = Math.min(square, w * (STRAY * (learnt.spreads[row] as number)) ** 2);
    rowSquares[row] = (rowSquares[row] as number) + limited;
    allSquares += limited;
    allCounts += w;
  });
  const least = 0.4 + 0.3 * (of.raster / QUARTER) * MS_PER_QUARTER;
  const pool = (allSquares + POOL_WEIGHT * SPREAD_PRIOR ** 2) / (allCounts + POOL_WEIGHT);
  const spreads = rowSquares.map((sum, row) =>
    Math.max(least, Math.sqrt((sum + ROW_WEIGHT * pool) / ((counts[row] as number) + ROW_WEIGHT))),
  );
  return { leans, drift, spreads };
}

/**
 * How the whole kit wanders: a mean of the strokes around each, without itself, that falls off on both sides.
 * @param pooled mean spread of the rows, ms
 */
function driftOf(
  { inTime, ticks }: Material,
  leans: Float64Array,
  away: Float64Array,
  weights: Float64Array,
  rowOf: Int32Array,
  pooled: number,
): Float64Array {
  const drift = new Float64Array(inTime.length);
  const n = inTime.length;
  const sums = new Float64Array(n);
  const masses = new Float64Array(n);
  for (const backwards of [false, true]) {
    let sum = 0;
    let mass = 0;
    let last = 0;
    for (let i = 0; i < n; i++) {
      const at = backwards ? n - 1 - i : i;
      const k = inTime[at] as number;
      const ms = ((ticks[k] as number) / QUARTER) * MS_PER_QUARTER;
      if (i > 0) {
        const fade = Math.exp(-Math.abs(ms - last) / DRIFT_MS);
        sum *= fade;
        mass *= fade;
      }
      sums[at] = (sums[at] as number) + sum;
      masses[at] = (masses[at] as number) + mass;
      const w = weights[k] as number;
      sum += (away[k] as number) - w * (leans[rowOf[k] as number] as number);
      mass += w;
      last = ms;
    }
  }
  const shrink = (pooled / 5) ** 2;
  for (let at = 0; at < n; at++) drift[inTime[at] as number] = (sums[at] as number) / ((masses[at] as number) + shrink);
  return drift;
}

/** How likely each excursion begins at each place of the bar. */
function excursionsAtOf(of: Material, learnt: ReadingParameters, { cells, kit }: Expectation): ReadingParameters['excursionsAt'] {
  const nb = learnt.bases.length;
  const ne = nb + NX;
  const places = new Map<number, { n: number; sums: number[] }>();
  cells.forEach((c, at) => {
    const { place } = of.cells[c] as Cell;
    let p = places.get(place);
    if (!p) places.set(place, (p = { n: 0, sums: EXCURSIONS.map(() => 0) }));
    p.n++;
    for (let x = 0; x < NX; x++) p.sums[x] = (p.sums[x] as number) + (kit[at * ne + nb + x] as number);
  });
  const learntAt = [...places].map(
    ([place, { n, sums }]) =>
      [place, sums.map((sum, x) => (sum + PLACE_WEIGHT * (EXCURSION_PRIORS[x] as number)) / (n + PLACE_WEIGHT))] as const,
  );
  return new Map([...learnt.excursionsAt, ...learntAt]);
}

const independenceOf = (learnt: ReadingParameters, { aloneMass, cellsOfRow }: Collected): Float64Array =>
  learnt.independence.map((_, row) =>
    Math.min(
      MOST_INDEPENDENT,
      ((aloneMass[row] as number) + INDEPENDENCE * INDEPENDENCE_WEIGHT) / ((cellsOfRow[row] as number) + INDEPENDENCE_WEIGHT),
    ),
  );

/** Bases with their ratios, without those that hardly a cell is counted by, and how often each row is counted by them. */
function basesOf(
  of: Material,
  learnt: ReadingParameters,
  { cells, bases }: Expectation,
  { ownMass, cellsOfRow, ratios }: Collected,
): Pick<ReadingParameters, 'bases' | 'own'> {
  const nb = learnt.bases.length;
  const priors = priorsOf(learnt.bases);
  const massOf = (b: number): number => cells.reduce((sum, _, at) => sum + (bases[at * nb + b] as number), 0);
  const kept = learnt.bases.flatMap((base, b) => (!isSwung(base) || massOf(b) >= DROPPED + DROPPED_SHARE * cells.length ? [b] : []));
  const own = new Float64Array(of.rows * kept.length);
  for (let row = 0; row < of.rows; row++) {
    const shares = kept.map(
      (b) => ((ownMass[row * nb + b] as number) + OWN_WEIGHT * (priors[b] as number)) / ((cellsOfRow[row] as number) + OWN_WEIGHT),
    );
    const sum = shares.reduce((a, b) => a + b, 0);
    shares.forEach((share, k) => (own[row * kept.length + k] = share / sum));
  }
  const moved = (base: Base, b: number): Base => {
    if (!isSwung(base)) return base;
    const { sum, weight } = ratios[b] as { sum: number; weight: number };
    const wanted = (RATIO_WEIGHT * base.ratio + sum) / (RATIO_WEIGHT + weight);
    const near = Math.max(base.ratio - RATIO_STEP, Math.min(base.ratio + RATIO_STEP, wanted));
    return { ...base, ratio: Math.max(RATIO_LIMITS[0], Math.min(RATIO_LIMITS[1], near)) };
  };
  return { bases: kept.map((b) => moved(learnt.bases[b] as Base, b)), own };
}
