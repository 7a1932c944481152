'use client';

import { startTempo } from '@/core/commands/settings';
import { followAgain, rangeOfPlayer, setSteady } from '@/core/free-takes/player-tempo';
import type { Part } from '@/core/model/part';
import type { GridOfPlayer } from '@/core/part/grid-of-player';
import { bpm, MAX_BPM, MIN_BPM } from '@/core/units';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { useBenchStore } from '../../store/context';
import { useSweep } from '../../store/use-sweep';
import { countedIn } from './words';

/** A sentence with the choice between following the player and a steady tempo. */
export function GridSentence({ part, grid }: { part: Part; grid: GridOfPlayer }) {
  const { getState } = useBenchStore();
  const sweep = useSweep();
  const range = rangeOfPlayer(part);
  const [first] = part.meter;
  if (!range || !first) return null;
  const { factor, unit } = countedIn([first.numerator, first.denominator]);
  const shown = (quarters: number): string => (quarters * factor).toFixed(1);
  const set = (wanted: string) =>
    wanted === 'steady'
      ? getState().run(`Set a steady tempo of ${shown(range.mean)} BPM`, (p) => setSteady(p, range.mean))
      : getState().run('Let the grid follow the player', followAgain);
  return (
    <div className="space-y-1">
      <p className="leading-8">
        {grid === 'steady' ? 'The tempo is ' : 'The grid '}
        <Picker
          label="Tempo of the grid"
          value={grid === 'other' ? '' : grid}
          choices={[
            ...(grid === 'other' ? [{ value: '', text: 'has edited tempo changes' }] : []),
            { value: 'follows', text: 'follows the player' },
            { value: 'steady', text: 'steady' },
          ]}
          onChange={(wanted) => wanted !== '' && wanted !== grid && set(wanted)}
        />
        {grid === 'steady' && (
          <>
            {' '}
            at{' '}
            <NumberField
              label="Steady tempo"
              value={startTempo(part) * factor}
              min={Math.ceil(MIN_BPM * factor)}
              max={Math.floor(MAX_BPM * factor)}
              step={0.1}
              digits={1}
              unit={unit}
              default={range.mean * factor}
              className="[&_input]:w-[3.6em]"
              onChange={(v) => sweep.show('Set the steady tempo', (p) => setSteady(p, bpm(v / factor)))}
              onDone={sweep.done}
            />
            , with the feel kept
          </>
        )}
        .
      </p>
      <p className="text-sm text-faint">
        The player averaged {shown(range.mean)} {unit}, from {shown(range.min)} to {shown(range.max)}.
      </p>
    </div>
  );
}
