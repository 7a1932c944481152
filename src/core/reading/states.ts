import { TICKS_PER_QUARTER } from '../units';
import { isThreeEighths } from './cells';

/** Lines that strokes of a cell may belong to, in quarters from its start, sorted by place. */
export interface CellLines {
  /** Where each is played. */
  places: readonly number[];
  /** The straight line that it stands for. */
  homes: readonly number[];
  /** How usual a stroke on it is; the whole adds up to about 1. */
  priors: readonly number[];
}

/** How a cell is counted. A swung base has the place of its second line within a pair, over 0.5. */
export interface Base {
  kind: 'sixteenths' | 'eighths' | 'triplets' | 'swung-eighths' | 'swung-sixteenths';
  ratio: number;
}

export const EXCURSIONS = ['32nds', '8T', '16T'] as const;
export type Excursion = (typeof EXCURSIONS)[number];

/** Places of swung second lines to begin with; they are learnt. */
export const RATIOS = [0.535, 0.565, 0.595, 0.63, 0.665, 0.7];

/** How usual each kind of base is; the share of a swung kind is spread over its ratios. */
export const BASE_PRIORS: Readonly<Record<Base['kind'], number>> = {
  sixteenths: 0.46,
  eighths: 0.35,
  triplets: 0.02,
  'swung-eighths': 0.09,
  'swung-sixteenths': 0.08,
};
export const EXCURSION_PRIORS: readonly number[] = [0.015, 0.05, 0.008];
/** An excursion goes on into the next cell. */
export const GOES_ON = 0.1;
/** A base stays from cell to cell: within a bar, and over a bar line. */
export const STAYS = { inBar: 0.99, overBar: 0.95 };

export const firstBases = (): Base[] => [
  { kind: 'sixteenths', ratio: 0.5 },
  { kind: 'eighths', ratio: 0.5 },
  { kind: 'triplets', ratio: 0.5 },
  ...(['swung-eighths', 'swung-sixteenths'] as const).flatMap((kind) => RATIOS.map((ratio): Base => ({ kind, ratio }))),
];

export const isSwung = (base: Base): boolean => base.kind === 'swung-eighths' || base.kind === 'swung-sixteenths';

const ROUND = 1e-9;

/** Lines at a step, as far as the cell goes, with a prior by the line's number. */
function stepped(length: number, step: number, priorOf: (n: number) => number): CellLines {
  const places: number[] = [];
  const priors: number[] = [];
  for (let n = 0; n * step < length - ROUND; n++) {
    places.push(n * step);
    priors.push(priorOf(n));
  }
  return { places, homes: places, priors };
}

const at =
  (list: readonly number[]) =>
  (n: number): number =>
    list[n % list.length] as number;
/** Sixteenths of a cell of three eighths. */
const COMPOUND = [1, 0.14, 0.55, 0.14, 0.55, 0.16];
const EIGHTHS_OF_COMPOUND = [1, 0.06, 0.6, 0.06, 0.6, 0.07];
const SIXTEENTHS = [0.4, 0.13, 0.29, 0.18];
const EIGHTHS = [0.42, 0.06, 0.4, 0.12];
const SWUNG_SIXTEENTHS = [0.38, 0.16, 0.27, 0.19];

/** Sixteenths at which pairs are bent: the second of each pair of sixteenths. */
const bentSixteenths = (lines: CellLines, ratio: number): CellLines => ({
  ...lines,
  places: lines.places.map((p, n) => (n % 2 === 1 ? p - 0.25 + ratio / 2 : p)),
});
/** Within a pair of eighths: the second stands at the ratio, sixteenths between are bent half as far. */
const bentEighths = (lines: CellLines, ratio: number): CellLines => ({
  ...lines,
  places: lines.places.map((p, n) => p + [0, 0.5, 1, 0.5][n % 4]! * (ratio - 0.5)),
});

/**
 * The lines of a base in a cell; null where it cannot be counted so.
 * @param length in quarters
 * @param onQuarter the cell begins at a whole quarter of its bar
 */
export function linesOfBase({ kind, ratio }: Base, length: number, onQuarter: boolean): CellLines | null {
  const compound = isThreeEighths(length * TICKS_PER_QUARTER);
  if (kind === 'swung-eighths')
    return length === 1 && onQuarter ? finished(bentEighths(stepped(1, 0.25, at(EIGHTHS)), ratio), length) : null;
  if (kind === 'triplets') return linesOfExcursion('8T', length);
  const priors =
    kind === 'eighths'
      ? compound
        ? EIGHTHS_OF_COMPOUND
        : EIGHTHS
      : compound
        ? COMPOUND
        : kind === 'sixteenths'
          ? SIXTEENTHS
          : SWUNG_SIXTEENTHS;
  const lines = stepped(length, 0.25, at(priors));
  return finished(kind === 'swung-sixteenths' ? bentSixteenths(lines, ratio) : lines, length);
}

/** The lines of an excursion in a cell; null where there is none of its kind. */
export function linesOfExcursion(kind: Excursion, length: number): CellLines | null {
  if (kind === '8T') return length === 1 ? finished(stepped(length, 1 / 3, at([0.4, 0.29, 0.31])), length) : null;
  if (kind === '16T')
    return finished(
      stepped(length, 1 / 6, (n) => (n === 0 ? 1 : n % 2 === 0 ? 0.9 : 0.75)),
      length,
    );
  return finished(
    stepped(length, 1 / 8, (n) => (n === 0 ? 1 : n % 4 === 0 ? 0.9 : n % 2 === 0 ? 0.7 : 0.5)),
    length,
  );
}

/** Adds the cell's end, which is a line too: strokes just before it belong to the next cell's first. */
function finished({ places, homes, priors }: CellLines, length: number): CellLines {
  const sum = priors.reduce((a, b) => a + b, 0);
  const norm = priors.map((p) => p / sum);
  return { places: [...places, length], homes: [...homes, length], priors: [...norm, norm[0] as number] };
}
