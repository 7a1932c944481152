'use client';

import type { HandsMove } from '@/core/model/feel';
import { handsMove } from '@/core/moves/hands';
import { MOVE_WORDS } from '../../../words/move-words';
import { LEVEL, limit, PLACES } from './small-stems';
import { MoveNumber, Words, type MoveView } from './move-view';

const of = { spec: handsMove, scale: 100, unit: '%' };
const HANDS = [0, 1, 0, 1, 0, 0, 1, 1];

export const handsView: MoveView<HandsMove> = {
  spec: handsMove,
  word: MOVE_WORDS.hands,
  about: 'Plays like a drummer: each hit has a hand (see the page Hands), and the hands differ in strength.',
  also: ['sticking', 'Play like a drummer', 'left and right', 'lead hand', 'leading hand'],
  Sentence: ({ move, edit }) => (
    <Words>
      the lead hand plays at <MoveNumber {...of} move={move} edit={edit} name="lead" label="Lead hand" />
      <span>
        the other at <MoveNumber {...of} move={move} edit={edit} name="weak" label="Other hand" />
      </span>
      <span>
        the first of two hits by one hand at <MoveNumber {...of} move={move} edit={edit} name="firstOfTwo" label="First of two" />
      </span>
    </Words>
  ),
  picture: ({ lead, weak }) =>
    PLACES.map((x, i) => ({ x, lean: 0, height: limit(LEVEL * (HANDS[i % HANDS.length] === 0 ? lead : weak) ** 3, 20) })),
  brief: ({ lead, weak }) => `${Math.round(lead * 100)} and ${Math.round(weak * 100)} %`,
};
