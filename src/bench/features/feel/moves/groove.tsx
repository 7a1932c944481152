'use client';

import dynamic from 'next/dynamic';
import type { GrooveMove } from '@/core/model/feel';
import { grooveMove } from '@/core/moves/groove';
import { MOVE_WORDS } from '../../../words/move-words';
import { LEVEL, limit, PLACES } from './small-stems';
import { MoveNumber, Words, type MoveView } from './move-view';

const GrooveOfMove = dynamic(() => import('../GrooveOfMove').then((m) => m.GrooveOfMove), { ssr: false });

export const grooveView: MoveView<GrooveMove> = {
  spec: grooveMove,
  word: MOVE_WORDS.groove,
  about: 'Plays like a groove template: each step has its own timing and level.',
  also: ['groove template', 'feel of another player'],
  Sentence: ({ move, edit }) => (
    <Words>
      plays like
      <GrooveOfMove move={move} edit={edit} />:{' '}
      <MoveNumber spec={grooveMove} move={move} edit={edit} name="lean" label="Lean" unit="% of its lean," scale={100} />
      <MoveNumber spec={grooveMove} move={move} edit={edit} name="level" label="Level" unit="% of its level" scale={100} />
    </Words>
  ),
  // The first steps as they follow each other: one a beat would hide a swing.
  picture: ({ groove, lean, level }) =>
    groove.steps.slice(0, PLACES.length).map((step, i) => ({
      x: PLACES[i] as number,
      lean: limit(step.offset * lean * 25, 4),
      height: limit(LEVEL * (1 + level * (step.level - 1)), 19),
    })),
  brief: ({ groove, lean }) => `${groove.name} at ${Math.round(lean * 100)} %`,
};
