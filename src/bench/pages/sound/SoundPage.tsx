'use client';

import { useSyncExternalStore } from 'react';
import { setKit, setMix } from '@/core/commands/sound';
import { KIT_NAMES, PART_MIX, type KitName, type PartMix } from '@/core/model/sound';
import { kitOf } from '@/core/playback/row-mix';
import { SOUND_KITS } from '@/core/synth/kits/all';
import { soundEngine } from '@/sound/engine';
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
  const mix = useBench((s) => s.part.mix) ?? NO_MIX;
  const sweep = useSweep();
  const engine = soundEngine();
  const left = useSyncExternalStore(engine.subscribe, () => engine.strokesLeft, () => 0);
  const edit = (what: string, change: Partial<PartMix>) => sweep.show(`Set ${what}`, (p) => setMix(p, change));
  const ends = { onDone: sweep.done, onCancel: sweep.cancel };
  return (
    <div className="space-y-4">
      <p className="leading-8">
        Played by <Picker label="Kit" value={kit} choices={KIT_NAMES.map((name) => ({ value: name, text: name }))} onChange={(name) => getState().run(`Play with ${name}`, (p) => setKit(p, name as KitName))} /> <span className="text-faint">{SOUND_KITS[kit].about}</span>
      </p>
      <div className="leading-8">
        <p className="flex flex-wrap items-baseline gap-x-2">
          Master <NumberField label="Master level" value={mix.level ?? 0} {...limits('level')} unit="dB" className="[&_input]:w-[3.2em]" onChange={(level) => edit('the master level', { level })} {...ends} />
          <LevelMeter />
        </p>
        <p className="flex flex-wrap items-baseline gap-x-1">
          Room <NumberField label="Room" value={mix.room ?? SOUND_KITS[kit].room} {...limits('room')} default={SOUND_KITS[kit].room} unit="%," className="[&_input]:w-[2.6em]" onChange={(room) => edit('the room', { room })} {...ends} /> size
          <NumberField label="Size of the room" value={mix.size ?? PART_MIX.size.rest} {...limits('size')} unit="%" className="[&_input]:w-[2.6em]" onChange={(size) => edit('the size of the room', { size })} {...ends} />
        </p>
      </div>
      {left > 0 && (
        <p role="status" className="text-sm text-faint">
          {left} {left === 1 ? 'stroke is' : 'strokes are'} still being made; until then the nearest {left === 1 ? 'stands' : 'stand'} in.
        </p>
      )}
      <RowSounds />
    </div>
  );
}

const NO_MIX: PartMix = {};

const limits = (name: keyof PartMix): { min: number; max: number; digits: number; default: number } => ({ min: PART_MIX[name].min, max: PART_MIX[name].max, digits: PART_MIX[name].digits, default: PART_MIX[name].rest });
