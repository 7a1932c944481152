'use client';

import type { AccentsMove } from '@/core/model/feel';
import { accentsMove } from '@/core/moves/accents';
import type { GridName } from '@/core/time/grid';
import { LevelStems } from '@/ui/LevelStems';
import { Picker } from '@/ui/Picker';
import { MOVE_WORDS } from '../../../words/move-words';
import type { Edit } from '../edit';
import { limit, PLACES } from './small-stems';
import { MoveGrid, MoveNumber, Seed, Words, type MoveView } from './move-view';

const of = { spec: accentsMove };

const PRESETS: readonly { name: string; grid: GridName; levels: readonly number[] }[] = [
  { name: 'flat', grid: '1/16', levels: [1] },
  { name: 'downbeat first', grid: '1/4', levels: [1.15, 0.92, 1.02, 0.92] },
  { name: 'backbeat', grid: '1/4', levels: [0.96, 1.12, 0.96, 1.12] },
  { name: 'on-beats lead', grid: '1/8', levels: [1.1, 0.8] },
  { name: 'off-beats lead', grid: '1/8', levels: [0.86, 1.12] },
  { name: 'first of four', grid: '1/16', levels: [1.15, 0.74, 0.92, 0.74] },
];

const presetOf = ({ grid, levels }: AccentsMove): string | undefined =>
  PRESETS.find((p) => p.grid === grid && p.levels.length === levels.length && p.levels.every((l, i) => l === levels[i]))?.name;

function Accents({ move, edit }: { move: AccentsMove; edit: Edit }) {
  const preset = presetOf(move);
  return (
    <div>
      <Words>
        accents
        <Picker
          label="Accents"
          value={preset ?? 'own'}
          choices={[...PRESETS.map((p) => ({ value: p.name, text: p.name })), ...(preset ? [] : [{ value: 'own', text: 'custom' }])]}
          onChange={(name) => {
            const chosen = PRESETS.find((p) => p.name === name);
            if (chosen) edit.set(`Accents: ${name}`, { grid: chosen.grid, levels: chosen.levels });
          }}
        />
        on <MoveGrid value={move.grid} edit={edit} /> to{' '}
        <MoveNumber {...of} move={move} edit={edit} name="depth" label="Depth" unit="%" scale={100} />
      </Words>
      <LevelStems
        label="Accent"
        levels={move.levels.map((l) => Math.round(l * 100))}
        min={0}
        max={200}
        unit="%"
        most={64}
        onChange={(levels) => edit.sweep({ levels: levels.map((l) => l / 100) })}
        onDone={edit.done}
      />
      <Words>
        contrast <MoveNumber {...of} move={move} edit={edit} name="contrast" label="Contrast" unit="%," scale={100} />
        all at <MoveNumber {...of} move={move} edit={edit} name="scale" label="Scale" unit="%," scale={100} />
        jitter <MoveNumber {...of} move={move} edit={edit} name="jitter" label="Jitter" unit="" />
        within <MoveNumber {...of} move={move} edit={edit} name="floor" label="Floor" unit="to" max={move.ceiling} />
        <MoveNumber {...of} move={move} edit={edit} name="ceiling" label="Ceiling" unit="" min={move.floor} />
        {move.jitter > 0 && <Seed move={move} edit={edit} />}
      </Words>
    </div>
  );
}

export const accentsView: MoveView<AccentsMove> = {
  spec: accentsMove,
  word: MOVE_WORDS.accents,
  about: 'Gives each step of the bar a level. Contrast, floor and ceiling shape the whole pattern.',
  also: ['dynamics', 'velocity pattern', 'levels'],
  Sentence: Accents,
  picture: ({ levels, scale, depth }) =>
    PLACES.map((x, i) => ({ x, lean: 0, height: limit(12 * scale * (1 + depth * ((levels[i % levels.length] ?? 1) - 1)), 20) })),
  brief: (move) => presetOf(move) ?? 'custom levels',
};
