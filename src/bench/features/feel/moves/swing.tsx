'use client';

import { swingShift } from '@/core/feel/swing';
import type { SwingMove } from '@/core/model/feel';
import { swingMove } from '@/core/moves/swing';
import { MOVE_WORDS } from '../../../words/move-words';
import { SwingSentence } from '../SwingSentence';
import { FEET, LEVEL } from './small-stems';
import type { MoveView } from './move-view';

export const swingView: MoveView<SwingMove> = {
  spec: swingMove,
  word: MOVE_WORDS.swing,
  about: 'Delays the second step of each pair. The number is the length of the first step, as a ratio and in percent.',
  also: ['shuffle', 'triplet feel'],
  Sentence: SwingSentence,
  picture({ percent, inverse }) {
    const shift = swingShift(1, 2, percent) * 16 * (inverse ? -1 : 1);
    return FEET.map((x, i) => ({ x: i % 2 === 1 ? x + shift : x, lean: 0, height: LEVEL }));
  },
  brief: ({ division, percent }) => `${division} at ${percent} %`,
};
