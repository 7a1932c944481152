'use client';

import { memo, useState } from 'react';
import { setFeel } from '@/core/commands/moves';
import type { Feel } from '@/core/model/feel';
import { READY_FEELS } from '@/core/moves/ready-feels';
import { Button } from '@/ui/Button';
import { TrialButtons } from '../../shared/TrialButtons';
import { usePlaybackOf } from '../../playback/context';
import { useBench, useBenchStore } from '../../store/context';
import { useFeels } from '../../store/use-feels';
import { useTrial } from '../../store/use-sweep';
import { FeelPicture } from './FeelPicture';

/** Feel presets as pictures: a click lets one be heard on the part, in place of its own, until it is kept or put back. */
export const WholeFeels = memo(function WholeFeels() {
  const { getState } = useBenchStore();
  const playback = usePlaybackOf();
  const own = useFeels();
  const trial = useTrial();
  const [tried, setTried] = useState<string | null>(null);
  const bare = useBench((s) => s.part.feel.moves.length === 0);
  const hear = (name: string, feel: Feel) => {
    trial.show(`Use the feel ${name}`, (p) => setFeel(p, feel));
    setTried(name);
    getState().setUi({ openMove: null });
    if (!playback.engine.isPlaying) playback.toggle();
  };
  const feels = [...own.map((k) => ({ ...k, about: 'Your own.' })), ...READY_FEELS];
  const about = feels.find((f) => f.name === tried)?.about;
  return (
    <section aria-label="Feel presets" className="border-t border-line pt-3">
      <h3 className="font-serif text-base">Feel presets</h3>
      <p className="text-sm text-faint">
        {bare ? 'Click one to hear the part with it.' : 'Click one to hear the part with it instead of the moves above.'}
      </p>
      <div className="mt-2 grid grid-cols-[repeat(auto-fill,minmax(138px,1fr))] gap-1.5" role="group" aria-label="Preview a feel preset">
        {feels.map(({ name, feel }) => (
          <button
            key={name}
            type="button"
            aria-pressed={trial.active && tried === name}
            title={feels.find((f) => f.name === name)?.about}
            onClick={() => hear(name, feel)}
            className="rounded-md border border-line px-2 pt-1 pb-0.5 text-left hover:border-strong hover:bg-sunk aria-pressed:border-accent aria-pressed:bg-chosen"
          >
            <FeelPicture feel={feel} />
            <span className="block truncate text-sm">{name}</span>
          </button>
        ))}
      </div>
      {trial.active && (
        <div className="mt-2" role="status">
          <p className="text-sm text-faint">{about}</p>
          <TrialButtons trial={trial} className="mt-1" />
        </div>
      )}
      <Button size="small" className="mt-2" onClick={() => getState().setUi({ dialog: 'feels' })}>
        Save, export or import presets …
      </Button>
    </section>
  );
});
