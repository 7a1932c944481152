'use client';

import { useState } from 'react';
import { useStore } from 'zustand';
import type { ClockSource } from '@/devices/clock-source';
import { midiPorts } from '@/devices/web-midi';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { useRecording } from '../../recording/context';

const NONE = 'none';
const narrow = '[&_input]:w-[3em]';

/** Chooses a MIDI clock to follow and shows its tempo, jitter and drop-outs. */
export function FollowClock() {
  const { follower, simulatedClock } = useRecording();
  const { source, running, bpm, jitterMs, trouble } = useStore(follower.state);
  const [ports, setPorts] = useState<readonly ClockSource[]>([]);
  const [refused, setRefused] = useState<string | null>(null);
  const [, redraw] = useState(0);
  const sources = [simulatedClock, ...ports];
  const look = async () => {
    const found = await midiPorts(true);
    if (found.kind === 'refused') return setRefused(found.why);
    setRefused(null);
    setPorts(found.clocks);
  };
  const simulate = (change: Partial<Pick<typeof simulatedClock, 'bpm' | 'jitterMs'>>) => {
    Object.assign(simulatedClock, change);
    redraw((n) => n + 1);
  };
  return (
    <div className="space-y-2">
      <p className="leading-8">
        Follow{' '}
        <Picker
          label="Clock to follow"
          value={source ?? NONE}
          choices={[{ value: NONE, text: 'no clock' }, ...sources.map((s) => ({ value: s.id, text: s.name }))]}
          onChange={(id) => follower.follow(sources.find((s) => s.id === id) ?? null)}
        />{' '}
        <Button size="small" onClick={() => void look()}>
          Look for MIDI devices
        </Button>
      </p>
      {refused && <p className="text-sm">{refused}</p>}
      {source === simulatedClock.id && (
        <p className="leading-8">
          It sends{' '}
          <NumberField
            label="Tempo of the simulated sender"
            value={simulatedClock.bpm}
            min={40}
            max={240}
            unit="BPM"
            default={110}
            className={narrow}
            onChange={(v) => simulate({ bpm: v })}
          />{' '}
          with{' '}
          <NumberField
            label="Jitter of the simulated sender"
            value={simulatedClock.jitterMs}
            min={0}
            max={10}
            digits={1}
            step={0.5}
            unit="ms of jitter"
            default={1}
            className={narrow}
            onChange={(v) => simulate({ jitterMs: v })}
          />
          .
        </p>
      )}
      {source !== null && (
        <p role="status" className="text-sm" data-testid="clock-state">
          {trouble === 'gone'
            ? 'The clock is gone. Playback stopped.'
            : trouble === 'silent'
              ? 'The clock dropped out. The part plays on at the last tempo.'
              : bpm === null
                ? 'No clock received yet.'
                : `${bpm.toFixed(1)} BPM, jitter ${jitterMs.toFixed(1)} ms${running ? '' : ': waiting for start'}.`}
        </p>
      )}
      <p className="text-sm text-faint">
        The clock starts and stops the part and sets its position and tempo. MIDI out, the backing track and recording are off meanwhile.
      </p>
    </div>
  );
}
