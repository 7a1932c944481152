'use client';

import type { LayMove } from '@/core/model/feel';
import { layMove } from '@/core/moves/lay';
import { MOVE_WORDS } from '../../../words/move-words';
import { FEET, LEVEL, limit } from './small-stems';
import { MoveNumber, Words, type MoveView } from './move-view';

const side = (ms: number): string => (ms < 0 ? 'ms early' : ms > 0 ? 'ms late' : 'ms');

export const layView: MoveView<LayMove> = {
  spec: layMove,
  word: MOVE_WORDS.lay,
  about: 'Moves all hits of its scope by the same number of milliseconds: lay back is late, push is early.',
  also: ['push', 'behind', 'ahead', 'track delay', 'drag'],
  Sentence: ({ move, edit }) => (
    <Words>
      lies <MoveNumber spec={layMove} move={move} edit={edit} name="ms" label="Lay" unit={side(move.ms)} digits={1} />
    </Words>
  ),
  picture: ({ ms }) => FEET.map((x) => ({ x, lean: limit(ms / 3, 8), height: LEVEL })),
  brief: ({ ms }) => `${Math.abs(ms)} ${side(ms)}`,
};
