'use client';

import type { ApartGroup, ApartMove } from '@/core/model/feel';
import { apartMove } from '@/core/moves/apart';
import { Button } from '@/ui/Button';
import { MOVE_WORDS } from '../../../words/move-words';
import { LEVEL, limit, WIDTH } from './small-stems';
import { MoveNumber, Seed, Words, type MoveView } from './move-view';

const GROUP_WORDS: Readonly<Record<ApartGroup, string>> = {
  'ride-and-hats': 'ride and hats',
  kick: 'kick',
  snare: 'snare',
  clap: 'clap',
  toms: 'toms',
  crash: 'crash',
  others: 'others',
};

/** An item one place further to the front. */
function swapped<T>(list: readonly T[], i: number): T[] {
  const next = [...list];
  [next[i - 1], next[i]] = [next[i] as T, next[i - 1] as T];
  return next;
}

export const apartView: MoveView<ApartMove> = {
  spec: apartMove,
  word: MOVE_WORDS.apart,
  about: 'Spreads hits that fall on the same moment by a few milliseconds, the way two hands and a foot do.',
  also: ['spread', 'set apart', 'unison', 'flam'],
  Sentence: ({ move, edit }) => (
    <div>
      <Words>
        play simultaneous hits{' '}
        <MoveNumber spec={apartMove} move={move} edit={edit} name="ms" label="Distance" unit="ms apart:" digits={1} />
        <Seed move={move} edit={edit} />
      </Words>
      <ol className="flex flex-wrap gap-1 text-sm">
        {move.order.map((group, i) => (
          <li key={group}>
            <Button
              size="tiny"
              disabled={i === 0}
              title="Play it earlier"
              onClick={() => edit.set('Change who sounds first', { order: swapped(move.order, i) })}
            >
              {GROUP_WORDS[group]}
            </Button>
          </li>
        ))}
      </ol>
    </div>
  ),
  picture: ({ ms }) => [-1, 0, 1].map((k) => ({ x: WIDTH / 2, lean: limit((k * ms) / 1.6, 14), height: LEVEL + 3 - 3 * Math.abs(k) })),
  brief: ({ ms }) => `${ms} ms apart`,
};
