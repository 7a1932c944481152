'use client';

import { plural } from '@/core/plurals';
import { useState } from 'react';
import { useStore } from 'zustand';
import { outputMapOf } from '@/core/commands/output-map';
import type { OutputDevice } from '@/devices/output';
import { midiPorts, type MidiPorts } from '@/devices/web-midi';
import { Button } from '@/ui/Button';
import { Picker } from '@/ui/Picker';
import { useRecording } from '../../recording/context';
import { useBench, useBenchStore } from '../../store/context';

const NOWHERE = 'nowhere';

/** Performed hits to one's own sounds, live, over a MIDI port. */
export function SendOut() {
  const { sender, receiver } = useRecording();
  const { getState } = useBenchStore();
  const target = useBench((s) => outputMapOf(s.part));
  const { output, sent, clock } = useStore(sender.state);
  const [ports, setPorts] = useState<MidiPorts | null>(null);
  const outputs: OutputDevice[] = [receiver, ...(ports?.kind === 'ports' ? ports.outputs : [])];
  return (
    <div className="space-y-2">
      <p className="leading-8">
        Send what you hear to{' '}
        <Picker
          label="Output"
          value={output?.id ?? NOWHERE}
          choices={[{ value: NOWHERE, text: 'no other device' }, ...outputs.map((o) => ({ value: o.id, text: o.name }))]}
          onChange={(id) => sender.set({ output: outputs.find((o) => o.id === id) ?? null, sent: 0 })}
        />
      </p>
      {ports === null ? (
        <Button size="small" onClick={() => void midiPorts().then(setPorts)}>
          Look for MIDI ports
        </Button>
      ) : (
        <p className="text-sm text-faint">
          {ports.kind === 'refused' ? ports.why : `${ports.outputs.length} MIDI ${plural(ports.outputs.length, 'port')} found.`}
        </p>
      )}
      <p>
        with the output map{' '}
        <button type="button" className="underline underline-offset-2" onClick={() => getState().setUi({ dialog: 'target' })}>
          {target.name}
        </button>
        <span className="text-sm text-faint">: its keys, channel, velocities, lengths and offset</span>
      </p>
      <label className="flex items-center gap-1.5">
        <input type="checkbox" className="accent-accent" checked={clock} onChange={(e) => sender.set({ clock: e.target.checked })} /> send
        clock, start, stop and position
      </label>
      <p className="text-sm text-faint" role="status">
        {output ? `${sent} notes sent, each 250 ms ahead with a time stamp.` : 'The simulated receiver takes notes without a port.'}
      </p>
    </div>
  );
}
