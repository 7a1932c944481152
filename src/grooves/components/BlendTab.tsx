'use client';

import { counted } from '@/core/plurals';
import { stepsOfBlend } from '@/core/groove/blend';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Range } from '@/ui/Range';
import { freeName, grooveOf } from '../store/grooves-store';
import { useGrooves, useGroovesStore, useHandGroove, useShownGroove } from '../store/context';
import { GroovePicker } from './GroovePicker';

const QUARTERS = [0, 25, 50, 75, 100];
const done = () => {};

/** A groove between two, heard while the slider moves. */
export function BlendTab() {
  const { getState } = useGroovesStore();
  const chosen = useGrooves((s) => s.chosen);
  const blend = useGrooves((s) => s.blend);
  const first = useShownGroove();
  const hand = useHandGroove();
  const other = useGrooves((s) => (s.blend ? grooveOf(s, s.blend.with) : undefined));
  const percent = Math.round((blend?.share ?? 0.5) * 100);
  const share = (value: number) => blend && getState().set({ blend: { ...blend, share: value / 100 }, trying: true });
  return (
    <div className="space-y-2">
      <p className="leading-8">
        <span className="font-serif">{first.name}</span> with{' '}
        <GroovePicker
          label="Blend with"
          value={blend?.with ?? 'none'}
          except={chosen}
          more={[{ value: 'none', text: 'nothing' }]}
          onChange={(id) => getState().set({ blend: id === 'none' ? null : { with: id, share: blend?.share ?? 0.5 }, trying: true })}
        />
      </p>
      {blend && other && (
        <>
          <Range
            label={`Share of ${other.name}`}
            value={percent}
            min={0}
            max={100}
            step={1}
            valueText={`${percent} % ${other.name}`}
            marks={QUARTERS}
            onChange={share}
            onDone={done}
          />
          <div className="flex items-baseline justify-between text-sm">
            <span>all {first.name}</span>
            <NumberField label="Share" value={percent} min={0} max={100} unit={`% ${other.name}`} default={50} onChange={share} />
          </div>
          <p className="text-sm text-faint">
            {blendWords(
              first.beats,
              other.beats,
              stepsOfBlend(first, other),
              Math.max(first.stepsPerBeat, other.stepsPerBeat),
              first.beats >= other.beats ? other.name : first.name,
            )}
          </p>
          <Button
            look="strong"
            onClick={() => getState().keep('Save the blend', { ...hand, name: freeName(getState(), hand.name) }, ['blend'])}
          >
            Save the blend
          </Button>
        </>
      )}
      {!blend && <p className="text-sm text-faint">Pick another groove and hear the blend while you move the slider.</p>}
    </div>
  );
}

function blendWords(a: number, b: number, stepsPerBeat: number, finest: number, shorter: string): string {
  const steps = `${counted(stepsPerBeat, 'step')} a quarter`;
  const length = a === b ? '' : ` ${shorter} is shorter and repeats within the other.`;
  const coarse = stepsPerBeat < finest ? ' Finer steps cannot hold leans this wide.' : '';
  return `Written in ${steps}.${coarse}${length}`;
}
