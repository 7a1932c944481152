'use client';

import { plural } from '@/core/plurals';
import { useSyncExternalStore } from 'react';
import { useStore } from 'zustand';
import { setKit, setMix, setOwnKit } from '@/core/commands/sound';
import { isKitName, KIT_NAMES, PART_MIX, type PartMix } from '@/core/model/sound';
import { kitOf } from '@/core/playback/sources';
import { SOUND_KITS } from '@/core/synth/kits/all';
import { KIT_TRAITS } from '@/core/synth/kits/levels';
import { soundEngine } from '@/sound/engine';
import { ownSounds } from '@/sounds/own';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { useBench, useBenchStore } from '../../store/context';
import { useSweep } from '../../store/use-sweep';
import { LevelMeter } from './LevelMeter';
import { RowSounds } from './RowSounds';

/** The kit, master and room, and a line for each row. */
export function SoundPage() {
  const { getState } = useBenchStore();
  const kit = useBench((s) => kitOf(s.part));
  const ownKit = useBench((s) => s.part.ownKit);
  const { kits, known } = useStore(ownSounds);
  const isGone = ownKit !== undefined && known && !kits.some((k) => k.id === ownKit.id);
  const kitChoices = [
    ...KIT_NAMES.map((name) => ({ value: name as string, text: name as string })),
    ...kits.map((k) => ({ value: `own ${k.id}`, text: k.name })),
    ...(isGone ? [{ value: `own ${ownKit.id}`, text: ownKit.name }] : []),
  ];
  const choose = (value: string) => {
    const own = kits.find((k) => `own ${k.id}` === value);
    if (own) getState().run(`Play with ${own.name}`, (p) => setOwnKit(p, { id: own.id, name: own.name }));
    else if (isKitName(value)) getState().run(`Play with ${value}`, (p) => setKit(p, value));
  };
  const aboutKit = ownKit ? (isGone ? `is not in this browser: ${kit} plays instead` : `over ${kit}`) : SOUND_KITS[kit].about;
  const mix = useBench((s) => s.part.mix) ?? NO_MIX;
  const sweep = useSweep();
  const engine = soundEngine();
  const left = useSyncExternalStore(
    engine.subscribe,
    () => engine.strokesLeft,
    () => 0,
  );
  const edit = (what: string, change: Partial<PartMix>) => sweep.show(`Set ${what}`, (p) => setMix(p, change));
  const ends = { onDone: sweep.done, onCancel: sweep.cancel };
  return (
    <div className="space-y-4">
      <p className="leading-8">
        Played by <Picker label="Kit" value={ownKit ? `own ${ownKit.id}` : kit} choices={kitChoices} onChange={choose} />{' '}
        <span className="text-faint">{aboutKit}</span>
      </p>
      <p className="-mt-2 flex flex-wrap items-baseline gap-2">
        <Button size="small" onClick={() => getState().setUi({ dialog: 'sounds' })}>
          Your own sounds …
        </Button>
        <span className="text-sm text-faint">or drop files on a row, a folder or zip here</span>
      </p>
      <div className="leading-8">
        <p className="flex flex-wrap items-baseline gap-x-2">
          Master{' '}
          <NumberField
            label="Master level"
            value={mix.level ?? 0}
            {...limits('level')}
            unit="dB"
            className="[&_input]:w-[3.2em]"
            onChange={(level) => edit('the master level', { level })}
            {...ends}
          />
          <LevelMeter />
        </p>
        <p className="flex flex-wrap items-baseline gap-x-1">
          Room{' '}
          <NumberField
            label="Room"
            value={mix.room ?? KIT_TRAITS[kit].room}
            {...limits('room')}
            default={KIT_TRAITS[kit].room}
            unit="%,"
            className="[&_input]:w-[2.6em]"
            onChange={(room) => edit('the room', { room })}
            {...ends}
          />{' '}
          size
          <NumberField
            label="Size of the room"
            value={mix.size ?? PART_MIX.size.rest}
            {...limits('size')}
            unit="%"
            className="[&_input]:w-[2.6em]"
            onChange={(size) => edit('the size of the room', { size })}
            {...ends}
          />
        </p>
      </div>
      {left > 0 && (
        <p role="status" className="text-sm text-faint">
          {left} {plural(left, 'sound is', 'sounds are')} still being prepared; until then the nearest {plural(left, 'stands', 'stand')} in.
        </p>
      )}
      <RowSounds />
    </div>
  );
}

const NO_MIX: PartMix = {};

const limits = (name: keyof PartMix): { min: number; max: number; digits: number; default: number } => ({
  min: PART_MIX[name].min,
  max: PART_MIX[name].max,
  digits: PART_MIX[name].digits,
  default: PART_MIX[name].rest,
});
