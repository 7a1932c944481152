'use client';

import type { HumanizeMove } from '@/core/model/feel';
import { humanizeMove } from '@/core/moves/humanize';
import { MOVE_WORDS } from '../../../words/move-words';
import { loosenessWord } from '../../../shared/looseness';
import { LEVEL, limit, PLACES, WANDERING } from './small-stems';
import { MoveNumber, Seed, Words, type MoveView } from './move-view';

const of = { spec: humanizeMove };
const memoryWord = (memory: number): string =>
  memory < 0.25 ? 'scattered' : memory < 0.6 ? 'mixed' : memory < 0.85 ? 'flowing' : 'wandering';

export const humanizeView: MoveView<HumanizeMove> = {
  spec: humanizeMove,
  word: MOVE_WORDS.humanize,
  about:
    'Varies time and velocity a little, never twice alike. In: even hits. Out: hits that wander around their places, the strong beats less than the others. Drawing again gives another player of the same looseness.',
  also: ['random', 'randomize timing', 'human feel'],
  Sentence: ({ move, edit }) => (
    <Words>
      varies the timing by <MoveNumber {...of} move={move} edit={edit} name="timingMs" label="Timing" unit="ms" digits={1} /> and{' '}
      <MoveNumber {...of} move={move} edit={edit} name="velocityPercent" label="Velocity" unit="% of velocity," digits={1} />
      <span>
        <MoveNumber {...of} move={move} edit={edit} name="memory" label="Memory" unit={`% ${memoryWord(move.memory)},`} scale={100} />
      </span>
      <span>
        even over <MoveNumber {...of} move={move} edit={edit} name="span" label="Span" unit={move.span === 1 ? 'bar,' : 'bars,'} />
      </span>
      <span>
        sparing strong beats by <MoveNumber {...of} move={move} edit={edit} name="anchor" label="Anchor" unit="%" scale={100} />
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
