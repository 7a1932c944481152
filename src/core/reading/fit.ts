/** The hidden Markov model of a part's cells, fitted to its strokes by expectation and maximisation. */
import { eachMatch, expect, LEAST_MATCH, type Expectation } from './expectation';
import { learn } from './learning';
import { firstLearnt, SPREAD_PRIOR, type ReadingParameters } from './learnt';
import { FINEST, PLACES, type Fit, type Material, type RowCell } from './material';

const ROUNDS = 4;
/** Spreads to begin with, ms. */
const SPREADS = [6, 12, 22];
/** Samples are blocks of so many cells, at most so many in all. */
const BLOCK = 16;
const MOST_TRIED = 120;
/** Over so many cells the first rounds learn from a sample. */
const MOST_AT_FIRST = 300;
const SAMPLED_ROUNDS = 3;
/**
 * Over so many strokes all rounds learn from a sample: what is known of each single stroke's neighbourhood is then left out, and half the
 * time is saved.
 */
const MOST_LEARNT = 24_000;

export function fit(of: Material): Fit {
  const { length } = of.cells;
  const isLarge = of.ticks.length > MOST_LEARNT;
  const sample = length > MOST_AT_FIRST || isLarge ? sampleOf(length) : null;
  let { learnt, expectation } = likeliestStart(of);
  // The start was weighed on the sample of the first round; a part that has none is weighed as a whole.
  if (!sample) expectation = expect(of, learnt);
  for (let round = 0; round < ROUNDS; round++) {
    if (round > 0) expectation = expect(of, learnt, round < SAMPLED_ROUNDS || isLarge ? sample : null);
    learnt = learn(of, learnt, expectation);
  }
  return answersOf(of, learnt);
}

/** The spread that explains a sample of the cells best, before anything is learnt. */
function likeliestStart(of: Material): { learnt: ReadingParameters; expectation: Expectation } {
  const sample = sampleOf(of.cells.length);
  const starts = firstLearnt(of, SPREADS).map((learnt, i) => {
    const expectation = expect(of, learnt, sample);
    return { learnt, expectation, log: expectation.log - 3 * Math.log((SPREADS[i] as number) / SPREAD_PRIOR) ** 2 };
  });
  return starts.reduce((best, other) => (other.log > best.log ? other : best));
}

/** Blocks of cells spread over the whole, where there are more than a few. */
function sampleOf(count: number): number[] {
  if (count <= MOST_TRIED) return Array.from({ length: count }, (_, c) => c);
  const blocks = Math.floor(MOST_TRIED / BLOCK);
  return Array.from({ length: blocks }, (_, b) => Math.floor((b * (count - BLOCK)) / (blocks - 1))).flatMap((from) =>
    Array.from({ length: BLOCK }, (_, i) => from + i),
  );
}

/** The homes of all strokes, by how likely they are. */
function answersOf(of: Material, learnt: ReadingParameters): Fit {
  const n = of.ticks.length;
  const found: Fit = {
    homes: of.ticks.slice(),
    sure: new Float64Array(n).fill(1),
    places: of.ticks.slice(),
    others: new Float64Array(n).fill(Number.NaN),
    otherP: new Float64Array(n),
  };
  let rc: RowCell;
  let start = 0;
  let last = 0;
  // By stroke of the row cell and slot: how likely, and the sum of places.
  let p = new Float64Array(16 * PLACES);
  let sums = new Float64Array(16 * PLACES);
  eachMatch(of, learnt, expect(of, learnt), {
    begin(_index, own, cell) {
      rc = own;
      start = cell.start;
      last = cell.slots;
      const size = (rc.to - rc.from) * PLACES;
      if (p.length < size) [p, sums] = [new Float64Array(size), new Float64Array(size)];
      p.fill(0, 0, size);
      sums.fill(0, 0, size);
    },
    way(_e, { slots, places }, posteriors, share) {
      const m = slots.length;
      for (let k = 0; k < rc.to - rc.from; k++)
        for (let l = 0; l < m; l++) {
          const w = share * (posteriors[k * m + l] as number);
          if (w <= LEAST_MATCH) continue;
          const at = k * PLACES + (slots[l] as number);
          p[at] = (p[at] as number) + w;
          sums[at] = (sums[at] as number) + w * (places[l] as number);
        }
    },
    end() {
      for (let k = 0; k < rc.to - rc.from; k++) {
        const [own, stroke] = [k * PLACES, rc.from + k];
        let [first, second] = [-1, -1];
        for (let i = 0; i <= last; i++) {
          const value = p[own + i] as number;
          if (value <= 0) continue;
          if (first < 0 || value > (p[own + first] as number)) [first, second] = [i, first];
          else if (second < 0 || value > (p[own + second] as number)) second = i;
        }
        if (first < 0) continue;
        const decided = of.decided[stroke] as number;
        const chosen = Number.isNaN(decided) ? first : Math.round((decided - start) / FINEST);
        found.homes[stroke] = start + first * FINEST;
        found.sure[stroke] = p[own + first] as number;
        const isKnown = chosen >= 0 && chosen <= last && (p[own + chosen] as number) > 0;
        found.places[stroke] = isKnown ? start + (sums[own + chosen] as number) / (p[own + chosen] as number) : decided;
        if (second < 0) continue;
        found.others[stroke] = start + second * FINEST;
        found.otherP[stroke] = p[own + second] as number;
      }
    },
  });
  return found;
}
