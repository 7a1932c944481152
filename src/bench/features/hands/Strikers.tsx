'use client';

import { useStore } from 'zustand';
import { breakRowTest } from '@/core/breaks/rows';
import { strikerOf, STRIKERS, usualStriker, type Striker } from '@/core/hands/kit';
import { labelOfRow } from '@/core/part/rows';
import { voiceOfRow } from '@/core/row-names';
import { Picker } from '@/ui/Picker';
import { handSettings, withStriker } from '../../store/hand-settings';
import { useBench } from '../../store/context';

/** In the words of the hand that leads. */
function wordsOf(striker: Striker, lead: 'right' | 'left'): string {
  const other = lead === 'right' ? 'left' : 'right';
  const words: Readonly<Record<Striker, string>> = {
    hands: 'either hand',
    'lead-hand': `the ${lead} hand alone`,
    'other-hand': `the ${other} hand alone`,
    feet: 'either foot',
    'kick-foot': `the ${lead} foot alone`,
    'hat-foot': `the ${other} foot alone`,
  };
  return words[striker];
}

/** Which limbs may strike each voice of the part. */
export function Strikers() {
  const part = useBench((s) => s.part);
  const { lead, kit } = useStore(handSettings);
  const recorded = breakRowTest(part);
  const voices = [
    ...new Map(part.rows.filter((r) => !recorded(r.voice) && !r.machine).map((r) => [voiceOfRow(r.voice), r.voice])).values(),
  ];
  return (
    <ul className="leading-8">
      {voices.map((row) => {
        const label = labelOfRow(part, row);
        return (
          <li key={row} className="flex items-baseline justify-between gap-2">
            <span className="truncate">{label}</span>
            <Picker
              label={`${label} is played by`}
              value={strikerOf(row, kit)}
              choices={STRIKERS.map((s) => ({ value: s, text: wordsOf(s, lead) }))}
              onChange={(v) =>
                handSettings.setState({ kit: withStriker(kit, voiceOfRow(row), v === usualStriker(row) ? null : (v as Striker)) })
              }
            />
          </li>
        );
      })}
    </ul>
  );
}
