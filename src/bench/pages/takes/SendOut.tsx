'use client';

import { useState } from 'react';
import { useStore } from 'zustand';
import type { OutputDevice } from '@/devices/output';
import { midiPorts, type MidiPorts } from '@/devices/web-midi';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { useRecording } from '../../recording/context';
import type { SendingState } from '../../recording/sender';

const NOWHERE = 'nowhere';
const narrow = '[&_input]:w-[3em]';

/** Performed hits to one's own sounds, live, over a MIDI port. */
export function SendOut() {
  const { sender, receiver } = useRecording();
  const { output, channel, kit, curve, offsetMs, sent } = useStore(sender.state);
  const [ports, setPorts] = useState<MidiPorts | null>(null);
  const outputs: OutputDevice[] = [receiver, ...(ports?.kind === 'ports' ? ports.outputs : [])];
  return (
    <div className="space-y-2">
      <p className="leading-8">
        What is heard goes to{' '}
        <Picker label="Output" value={output?.id ?? NOWHERE} choices={[{ value: NOWHERE, text: 'nowhere else' }, ...outputs.map((o) => ({ value: o.id, text: o.name }))]} onChange={(id) => sender.set({ output: outputs.find((o) => o.id === id) ?? null, sent: 0 })} />
      </p>
      {ports === null ? (
        <Button size="small" onClick={() => void midiPorts().then(setPorts)}>
          Look for MIDI ports
        </Button>
      ) : (
        <p className="text-sm text-faint">{ports.kind === 'refused' ? ports.why : `${ports.outputs.length} MIDI ${ports.outputs.length === 1 ? 'port' : 'ports'} found.`}</p>
      )}
      <div className="flex flex-wrap items-baseline gap-x-3 leading-8">
        <NumberField label="Channel" value={channel} min={1} max={16} unit="channel" default={10} className={narrow} onChange={(v) => sender.set({ channel: v })} />
        <NumberField label="Offset" value={offsetMs} min={-200} max={500} digits={1} unit={offsetMs < 0 ? 'ms earlier' : 'ms later'} default={0} className={narrow} onChange={(v) => sender.set({ offsetMs: v })} />
        <NumberField label="Bend of the velocities sent" value={curve.power} min={0.25} max={4} step={0.05} digits={2} unit="bend" default={1} className={narrow} onChange={(power) => sender.set({ curve: { ...curve, power } })} />
        <span>
          keys of{' '}
          <Picker label="Keys sent" value={kit} choices={[{ value: 'own', text: 'the hits' }, { value: 'General MIDI', text: 'General MIDI' }, { value: 'Galley pads', text: 'Galley pads' }]} onChange={(k) => sender.set({ kit: k as SendingState['kit'] })} />
        </span>
      </div>
      <p className="text-sm text-faint" role="status">
        {output ? `${sent} notes sent, each a quarter of a second ahead with its time.` : 'The simulated receiver takes notes without a port.'}
      </p>
    </div>
  );
}
