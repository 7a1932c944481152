import { doubtfulFlags } from '../perform/doubtful';
import { effectOfMove, type Effect } from '../perform/effect';
import { offerFor } from '../perform/offer';
import { performPart } from '../perform/perform';
import type { Move } from '../model/feel';
import type { Part } from '../model/part';
import { firstLook, type FirstLook } from './first-look';
import { phraseOf, type PhraseBar } from './phrase';
import { straysOf, type Strays } from './strays';

/** What only the whole part can tell: for long parts it is found away from the page. */
export interface WholePart {
  phrase: PhraseBar[];
  strays: Strays;
  /** 1 for each hit that is doubtful in itself or for a move. */
  doubtful: Uint8Array;
  /** One a move; null for moves that are off. */
  effects: (Effect | null)[];
  /** For each move that changes nothing: what would be heard, as members to change; null for all others. */
  offers: (Partial<Move> | null)[];
  /** What it is like, for a part without moves; null with some. */
  look: FirstLook | null;
}

/** What of a part it needs. */
export type Measurable = Pick<Part, 'hits' | 'tempo' | 'meter' | 'origin' | 'bars' | 'feel'>;

/** Performs a part once, and once more without each of its moves. */
export function measureWhole(part: Measurable): WholePart {
  const performance = performPart(part);
  const doubtful = doubtfulFlags(part);
  const effects = part.feel.moves.map((move, i) => (move.on === false ? null : effectOfMove(part, performance, i)));
  return {
    phrase: phraseOf(part, performance, doubtful),
    strays: straysOf(part, performance),
    doubtful,
    effects,
    look: part.feel.moves.length === 0 ? firstLook(part) : null,
    offers: effects.map((effect, i) =>
      effect && effect.hits === 0 && effect.timbres === 0 && part.hits.length > 0 ? offerFor(part, i) : null,
    ),
  };
}
