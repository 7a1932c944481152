import type { Move, MoveKind } from '@/core/model/feel';
import { accentsFace } from './accents';
import { apartFace } from './apart';
import type { MoveFace } from './face';
import { grooveFace } from './groove';
import { handsFace } from './hands';
import { humanizeFace } from './humanize';
import { layFace } from './lay';
import { quantizeFace } from './quantize';
import { swingFace } from './swing';
import { timbreFace } from './timbre';

/** How every kind of move is said and seen: the compiler asks for those that are missing. */
const BY_KIND: { readonly [K in MoveKind]: MoveFace<Extract<Move, { kind: K }>> } = {
  quantize: quantizeFace,
  swing: swingFace,
  humanize: humanizeFace,
  groove: grooveFace,
  lay: layFace,
  apart: apartFace,
  accents: accentsFace,
  timbre: timbreFace,
  hands: handsFace,
};

/** In the order in which they are offered: the usual three first. */
export const USUAL = 3;
export const MOVE_FACES = Object.values(BY_KIND) as unknown as readonly MoveFace[];
