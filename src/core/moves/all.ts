import type { MoveSpec } from '../feel/move-spec';
import type { Feel, Move, MoveKind } from '../model/feel';
import { accentsMove } from './accents';
import { apartMove } from './apart';
import { grooveMove } from './groove';
import { handsMove } from './hands';
import { humanizeMove } from './humanize';
import { layMove } from './lay';
import { quantizeMove } from './quantize';
import { swingMove } from './swing';
import { timbreMove } from './timbre';

/** Every kind of move: the compiler asks for those that are missing. */
const BY_KIND: { readonly [K in MoveKind]: MoveSpec<Extract<Move, { kind: K }>> } = {
  quantize: quantizeMove,
  swing: swingMove,
  groove: grooveMove,
  lay: layMove,
  humanize: humanizeMove,
  apart: apartMove,
  accents: accentsMove,
  timbre: timbreMove,
  hands: handsMove,
};

/** In the order in which they are offered. */
export const MOVES = Object.values(BY_KIND) as unknown as readonly MoveSpec[];

/** What the moves of a feel that are on cost, in plain moves. */
export const weightOf = ({ moves }: Pick<Feel, 'moves'>): number =>
  moves.reduce((sum, move) => sum + (move.on === false ? 0 : (BY_KIND[move.kind].weight ?? 1)), 0);

/** What members are where they are not given, by kind. */
export const DEFAULT_MOVES = Object.fromEntries(MOVES.map((spec) => [spec.kind, spec.plain])) as unknown as {
  readonly [K in Exclude<MoveKind, 'groove'>]: Extract<Move, { kind: K }>;
};
