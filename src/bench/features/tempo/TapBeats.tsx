'use client';

import { useRef, useState } from 'react';
import { tempoMapOf } from '@/core/part/part-time';
import { Button } from '@/ui/Button';
import { say } from '@/ui/notify';
import { usePlaybackOf } from '../../playback/context';
import { useBenchStore } from '../../store/context';

const WANTED = 2;

/** Lets the user tap beats 1 and 2 of any bar during playback; this resolves most ambiguous takes. */
export function TapBeats({ onTapped, before }: { onTapped: (taps: number[]) => void; before: () => void }) {
  const { getState } = useBenchStore();
  const { engine, playLoop } = usePlaybackOf();
  const taps = useRef<number[]>([]);
  const [step, setStep] = useState<number | null>(null);
  const begin = () => {
    before();
    taps.current = [];
    const { part, setTransport } = getState();
    setTransport({ loop: true, fromBar: 0, toBar: part.bars });
    playLoop(0.1);
    setStep(0);
  };
  const tap = () => {
    const tick = engine.position();
    if (tick === null) return say('Press Play, then tap along.');
    const at = tempoMapOf(getState().part).toSeconds(tick);
    // The loop restarted between the taps: this one counts as beat 1.
    const last = taps.current.at(-1);
    taps.current = last !== undefined && at <= last ? [at] : [...taps.current, at];
    if (taps.current.length < WANTED) return setStep(taps.current.length);
    setStep(null);
    engine.stop();
    onTapped(taps.current);
  };
  if (step === null)
    return (
      <Button size="small" title="Plays the part; tap beats 1 and 2 of any bar" onClick={begin}>
        Tap beats 1 and 2
      </Button>
    );
  return (
    <div className="flex items-center gap-2">
      <Button look="strong" size="large" onPointerDown={tap} onKeyDown={(e) => (e.key === 'Enter' || e.key === ' ') && !e.repeat && tap()}>
        Tap beat {step + 1}
      </Button>
      <Button
        size="small"
        onClick={() => {
          setStep(null);
          engine.stop();
        }}
      >
        Cancel
      </Button>
    </div>
  );
}
