import type { Ornament, OrnamentKind } from '@/core/model/ornament';
import { echoHand } from './echo';
import { flamHand } from './flam';
import type { OrnamentHandles } from './ornament-handles';
import { rollHand } from './roll';

/** How every kind of ornament is drawn and dragged: the compiler asks for those that are missing. */
const BY_KIND: { readonly [K in OrnamentKind]: OrnamentHandles<Extract<Ornament, { kind: K }>> } = {
  roll: rollHand,
  flam: flamHand,
  echo: echoHand,
};

export const ornamentHandOf = (kind: OrnamentKind): OrnamentHandles => BY_KIND[kind] as unknown as OrnamentHandles;
