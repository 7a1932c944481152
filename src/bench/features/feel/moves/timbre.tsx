'use client';

import type { TimbreMove } from '@/core/model/feel';
import { timbreMove } from '@/core/moves/timbre';
import { MOVE_WORDS } from '../../../words/move-words';
import { LEVEL, limit, PLACES, WANDERING } from './small-stems';
import { MoveNumber, Seed, Words, type MoveView } from './move-view';

const of = { spec: timbreMove };

export const timbreView: MoveView<TimbreMove> = {
  spec: timbreMove,
  word: MOVE_WORDS.timbre,
  about: 'Varies the pan, pitch and brightness of single hits, so that no two sound exactly the same.',
  also: ['pan', 'pitch', 'brightness', 'round robin'],
  Sentence: ({ move, edit }) => (
    <Words>
      vary single hits: pan <MoveNumber {...of} move={move} edit={edit} name="pan" label="Pan" unit="%," />
      <span>
        pitch <MoveNumber {...of} move={move} edit={edit} name="pitch" label="Pitch" unit="semitones," digits={2} />
      </span>
      <span>
        brightness <MoveNumber {...of} move={move} edit={edit} name="brightness" label="Brightness" unit="% to either side;" />
      </span>
      <span>
        brighter by velocity{' '}
        <MoveNumber {...of} move={move} edit={edit} name="velocityBrightness" label="Brightness by velocity" unit="%," />
      </span>
      <span>
        panned by pitch <MoveNumber {...of} move={move} edit={edit} name="pitchPan" label="Pan by pitch" unit="% an octave" />
      </span>
      <Seed move={move} edit={edit} />
    </Words>
  ),
  picture: ({ brightness, velocityBrightness }) =>
    WANDERING.map((w, i) => ({
      x: PLACES[i] as number,
      lean: 0,
      height: limit(LEVEL + (w * (brightness + Math.abs(velocityBrightness))) / 12, 20),
    })),
  brief: ({ pitch, brightness }) => `${pitch} semitones, ${brightness} % brightness`,
};
