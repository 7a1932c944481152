/** The hidden Markov model of a part's cells, fitted to its strokes by expectation and maximisation. */
import { TICKS_PER_QUARTER } from '../units';
import { eachMatch, expect } from './expectation';
import { learn } from './learning';
import { firstLearnt, SPREAD_PRIOR, type Learnt } from './learnt';
import type { Answer, Fit, Material } from './material';

const QUARTER = TICKS_PER_QUARTER;
const ROUNDS = 4;
/** Spreads to begin with, ms. */
const SPREADS = [6, 12, 22];
/** Samples are blocks of so many cells, at most so many in all. */
const BLOCK = 16;
const MOST_TRIED = 120;
/** Over so many cells the first rounds learn from a sample. */
const MOST_AT_FIRST = 300;
const SAMPLED_ROUNDS = 3;

export function fit(of: Material): Fit {
  const { length } = of.cells;
  const sample = length > MOST_AT_FIRST ? sampleOf(length) : null;
  let learnt = firstLearnt(of, likeliestSpread(of));
  for (let round = 0; round < ROUNDS; round++) learnt = learn(of, learnt, expect(of, learnt, round < SAMPLED_ROUNDS ? sample : null));
  return answersOf(of, learnt);
}

/** The spread that explains a sample of the cells best, before anything is learnt. */
function likeliestSpread(of: Material): number {
  const sample = sampleOf(of.cells.length);
  const logOf = (spread: number): number => expect(of, firstLearnt(of, spread), sample).log - 3 * Math.log(spread / SPREAD_PRIOR) ** 2;
  return SPREADS.map((spread) => ({ spread, log: logOf(spread) })).reduce((best, other) => (other.log > best.log ? other : best)).spread;
}

/** Blocks of cells spread over the whole, where there are more than a few. */
function sampleOf(count: number): number[] {
  if (count <= MOST_TRIED) return Array.from({ length: count }, (_, c) => c);
  const blocks = Math.floor(MOST_TRIED / BLOCK);
  return Array.from({ length: blocks }, (_, b) => Math.floor((b * (count - BLOCK)) / (blocks - 1))).flatMap((from) => Array.from({ length: BLOCK }, (_, i) => from + i));
}

/** The homes of all strokes, by how likely they are. */
function answersOf(of: Material, learnt: Learnt): Fit {
  const expectation = expect(of, learnt);
  const found = Array.from({ length: of.ticks.length }, () => new Map<number, { p: number; place: number }>());
  eachMatch(
    of,
    learnt,
    expectation,
    () => undefined,
    (stroke, w, _e, l, lines, cell) => {
      const home = Math.round(cell.start + (lines.homes[l] as number) * QUARTER);
      const place = cell.start + (lines.places[l] as number) * QUARTER;
      const known = found[stroke]!.get(home);
      if (known) {
        known.p += w;
        known.place += w * place;
      } else found[stroke]!.set(home, { p: w, place: w * place });
    },
  );
  const answers = found.map((map) => [...map].map(([home, { p, place }]): Answer => ({ home, p, place: place / p })).sort((a, b) => b.p - a.p || a.home - b.home));
  return { answers };
}
