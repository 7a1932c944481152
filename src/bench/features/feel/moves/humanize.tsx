'use client';

import { plural } from '@/core/plurals';
import type { HumanizeMove } from '@/core/model/feel';
import { humanizeMove } from '@/core/moves/humanize';
import { MOVE_WORDS } from '../../../words/move-words';
import { loosenessWord } from '../../../shared/looseness';
import { LEVEL, limit, PLACES, WANDERING } from './small-stems';
import { MoveNumber, Seed, Words, type MoveView } from './move-view';

const of = { spec: humanizeMove };
export const humanizeView: MoveView<HumanizeMove> = {
  spec: humanizeMove,
  word: MOVE_WORDS.humanize,
  about:
    'Varies timing and velocity a little, the way a person does. Strong beats vary less than the others. A new variation is another player who is just as loose.',
  also: ['random', 'randomize timing', 'human feel'],
  Sentence: ({ move, edit }) => (
    <Words>
      <MoveNumber {...of} move={move} edit={edit} name="timingMs" label="Timing" unit="ms timing," digits={1} />
      <MoveNumber {...of} move={move} edit={edit} name="velocityPercent" label="Velocity" unit="% velocity," digits={1} />
      <span>
        <MoveNumber {...of} move={move} edit={edit} name="memory" label="Slow drift" unit="% of it slow drift" scale={100} />
      </span>
      <span>
        over <MoveNumber {...of} move={move} edit={edit} name="span" label="Span" unit={plural(move.span, 'bar;', 'bars;')} />
      </span>
      <span>
        strong beats{' '}
        <MoveNumber {...of} move={move} edit={edit} name="anchor" label="Steadier strong beats" unit="% steadier" scale={100} />
      </span>
      <Seed move={move} edit={edit} />
      <span className="font-serif italic" data-testid="looseness">
        {loosenessWord(move.timingMs)}
      </span>
    </Words>
  ),
  picture: ({ timingMs, velocityPercent }) =>
    WANDERING.map((w, i) => ({
      x: PLACES[i] as number,
      lean: limit((w * timingMs) / 2, 6),
      height: Math.max(4, LEVEL + (w * velocityPercent) / 3),
    })),
  brief: ({ timingMs, velocityPercent }) => `${timingMs} ms, ${velocityPercent} % of velocity`,
};
