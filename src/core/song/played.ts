import { specOf } from '../feel/move-spec';
import { MOVES } from '../moves/all';
import type { Part } from '../model/part';
import { performPart, writtenPerformance, type Performance } from '../perform/perform';
import { isPlain, soundingPart } from './sounding';
import { roundsOfOrder, unroll, type RoundMark, type OrderRound } from './unroll';

/** What is written, rendered or measured of a part: pass 1 from first to last bar, or its running order. */
export interface PlayedPart {
  part: Part;
  performance: Performance;
  marks: readonly RoundMark[];
}

export interface PlayedOptions {
  /** As written instead of performed. */
  written?: boolean;
  /** The running order, where there is one. */
  order?: boolean;
  /** These rounds alone, instead of both. */
  rounds?: readonly OrderRound[];
}

/** @example playedPart(part).performance // as performPart(part), where all of it sounds in every pass */
export function playedPart(part: Part, { written = false, order = false, rounds }: PlayedOptions = {}): PlayedPart {
  if (rounds) return unroll(part, rounds, written);
  if (order && part.order && part.order.length > 0) return unroll(part, roundsOfOrder(part), written);
  const sounding = soundingPart(part);
  return { part: sounding, performance: written ? writtenPerformance(sounding) : performPart(sounding), marks: [] };
}

/** Whether one pass may differ from another. */
export const variesByPass = (part: Pick<Part, 'hits' | 'rows' | 'feel'>): boolean =>
  !isPlain(part) || (part.feel.sway > 0 && part.feel.moves.some((m) => m.on !== false && specOf(MOVES, m.kind).draws));
