import type { Ornament, OrnamentKind } from '@/core/model/ornament';
import { EchoSentence } from './EchoSentence';
import { FlamSentence } from './FlamSentence';
import { RollSentence } from './RollSentence';
import type { OrnamentSentence } from './sentence';

/** The sentence of every kind of ornament: the compiler asks for those that are missing. */
export const ORNAMENT_SENTENCES: { readonly [K in OrnamentKind]: OrnamentSentence<Extract<Ornament, { kind: K }>> } = {
  roll: RollSentence,
  flam: FlamSentence,
  echo: EchoSentence,
};
