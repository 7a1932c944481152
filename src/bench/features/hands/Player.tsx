'use client';

import { useStore } from 'zustand';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { HAND_RANGE, handSettings, USUAL_HANDS } from '../../store/hand-settings';

/** Which hand leads, and how soon limbs are back. */
export function Player() {
  const { lead, limits } = useStore(handSettings);
  const number = (name: 'hand' | 'foot') => (
    <NumberField
      label={name === 'hand' ? 'A hand is back after' : 'A foot is back after'}
      value={limits[name]}
      min={HAND_RANGE.min}
      max={HAND_RANGE.max}
      default={USUAL_HANDS.limits[name]}
      unit="ms"
      className="[&_input]:w-[2.8em]"
      onChange={(n) => handSettings.setState({ limits: { ...handSettings.getState().limits, [name]: n } })}
    />
  );
  return (
    <div className="leading-8">
      <p>
        The{' '}
        <Picker
          label="Lead hand"
          value={lead}
          choices={[
            { value: 'right', text: 'right hand leads' },
            { value: 'left', text: 'left hand leads' },
          ]}
          onChange={(v) => handSettings.setState({ lead: v as 'right' | 'left' })}
        />
      </p>
      <p>A hand is back after {number('hand')}</p>
      <p>A foot is back after {number('foot')}</p>
    </div>
  );
}
