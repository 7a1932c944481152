import type { MoveKind } from '@/core/model/feel';

/** What each kind of move is called on screen. */
export const MOVE_WORDS: Readonly<Record<MoveKind, string>> = {
  quantize: 'Quantize',
  swing: 'Swing',
  humanize: 'Humanize',
  groove: 'Groove',
  lay: 'Lay back',
  apart: 'Stagger',
  accents: 'Accents',
  timbre: 'Timbre',
  hands: 'Hand dynamics',
};
