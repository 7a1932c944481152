import type { Move, MoveKind } from '@/core/model/feel';
import { accentsView } from './accents';
import { apartView } from './apart';
import type { MoveView } from './move-view';
import { grooveView } from './groove';
import { handsView } from './hands';
import { humanizeView } from './humanize';
import { layView } from './lay';
import { quantizeView } from './quantize';
import { swingView } from './swing';
import { timbreView } from './timbre';

/** How every kind of move is said and seen: the compiler asks for those that are missing. */
const BY_KIND: { readonly [K in MoveKind]: MoveView<Extract<Move, { kind: K }>> } = {
  quantize: quantizeView,
  swing: swingView,
  humanize: humanizeView,
  groove: grooveView,
  lay: layView,
  apart: apartView,
  accents: accentsView,
  timbre: timbreView,
  hands: handsView,
};

/** In the order in which they are offered: the usual three first. */
export const USUAL = 3;
export const MOVE_FACES = Object.values(BY_KIND) as unknown as readonly MoveView[];
