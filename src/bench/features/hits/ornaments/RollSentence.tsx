'use client';

import { MOST_STROKES, ORNAMENT_LIMITS, type Roll } from '@/core/model/ornament';
import { rollCount, rollLength } from '@/core/part/roll-strokes';
import { stepOf, type GridName } from '@/core/time/grid';
import { ticks } from '@/core/units';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { narrow, useOrnamentEdit, type OrnamentSentence } from './sentence';

const L = ORNAMENT_LIMITS;
const ROLL_GRIDS: readonly GridName[] = ['1/16', '1/32', '1/64', '1/8T', '1/16T', '1/32T'];
const speedWord = (speed: number): string => (speed > 0.02 ? '% accelerating,' : speed < -0.02 ? '% slowing,' : '% (even),');

export const RollSentence: OrnamentSentence<Roll> = ({ part, index, ornament: roll }) => {
  const edit = useOrnamentEdit('roll');
  const length = rollLength(part, index);
  const count = rollCount(roll, length);
  const ends = { onDone: edit.done, onCancel: edit.cancel };
  return (
    <>
      rolls in{' '}
      <Picker
        label="Strokes of the roll"
        value={typeof roll.strokes === 'number' ? 'count' : roll.strokes}
        choices={[...ROLL_GRIDS.map((g) => ({ value: g, text: g })), { value: 'count', text: 'a number of strokes' }]}
        onChange={(v) => edit.set({ strokes: v === 'count' ? Math.max(2, count) : (v as GridName) })}
      />
      {typeof roll.strokes === 'number' ? (
        <>
          :{' '}
          <NumberField
            label="Number of strokes"
            value={roll.strokes}
            min={L.strokes[0]}
            max={MOST_STROKES}
            unit="strokes"
            className={narrow}
            onChange={(strokes) => edit.sweep({ strokes })}
            {...ends}
          />
        </>
      ) : (
        <span className="text-faint"> ({count} strokes)</span>
      )}{' '}
      over{' '}
      <Picker
        label="Length of the roll"
        value={roll.length === undefined ? 'next' : 'own'}
        choices={[
          { value: 'next', text: 'the time to the next hit' },
          { value: 'own', text: 'a fixed length' },
        ]}
        onChange={(v) => edit.set({ length: v === 'own' ? length : undefined })}
      />
      {roll.length !== undefined && (
        <>
          :{' '}
          <NumberField
            label="Roll length"
            value={length / stepOf('1/16')}
            min={0.25}
            max={64}
            step={0.5}
            digits={2}
            unit="sixteenths"
            onChange={(v) => edit.sweep({ length: ticks(Math.round(v * stepOf('1/16'))) })}
            {...ends}
          />
        </>
      )}
      ,{' '}
      <NumberField
        label="Speed"
        value={roll.speed * 100}
        min={-100}
        max={100}
        step={5}
        unit={speedWord(roll.speed)}
        default={0}
        className={narrow}
        onChange={(v) => edit.sweep({ speed: v / 100 })}
        {...ends}
      />{' '}
      to{' '}
      <NumberField
        label="Last stroke"
        value={roll.to * 100}
        min={L.to[0] * 100}
        max={L.to[1] * 100}
        step={5}
        unit="% of its velocity,"
        default={70}
        className={narrow}
        onChange={(v) => edit.sweep({ to: v / 100 })}
        {...ends}
      />{' '}
      <NumberField
        label="Bend of the ramp"
        value={roll.bend * 100}
        min={-100}
        max={100}
        step={5}
        unit={roll.bend > 0 ? '% late' : roll.bend < 0 ? '% early' : '% bent'}
        default={0}
        className={narrow}
        onChange={(v) => edit.sweep({ bend: v / 100 })}
        {...ends}
      />
    </>
  );
};
