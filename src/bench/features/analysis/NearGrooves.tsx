'use client';

import { useMemo } from 'react';
import { nearestGrooves } from '@/core/analysis/near-grooves';
import type { Placement } from '@/core/analysis/placement';
import { addMove } from '@/core/commands/moves';
import { HOUSE_GROOVES } from '@/core/groove/house-grooves';
import { tempoMapOf } from '@/core/part/part-time';
import { ticks } from '@/core/units';
import { GroovePicture } from '@/grooves/pictures/GroovePicture';
import { usePlaybackOf } from '../../playback/context';
import { useTrial } from '../../store/use-sweep';
import { useBench } from '../../store/context';
import { TrialButtons } from '../../shared/TrialButtons';
import { useKeptGrooves } from '../../shared/use-kept-grooves';

/** Grooves, the user's own and ours, that come closest to what is measured: heard by a click, kept as a move. */
export function NearGrooves({ found: { groove: own } }: { found: Placement }) {
  const kept = useKeptGrooves();
  const tempo = useBench((s) => tempoMapOf(s.part).bpmAt(ticks(0)));
  const nearest = useMemo(
    () => (own ? nearestGrooves(own, tempo, [...kept.map((k) => k.groove), ...HOUSE_GROOVES]) : []),
    [own, tempo, kept],
  );
  const trial = useTrial();
  const playback = usePlaybackOf();
  if (nearest.length === 0) return <p className="text-sm text-faint">This needs at least eight hits.</p>;
  return (
    <div>
      <ul className="space-y-1.5">
        {nearest.map(({ groove, ms, level }) => (
          <li key={groove.name}>
            <button
              type="button"
              className="flex w-full items-center gap-2 rounded-md border border-line px-2 py-1 text-left hover:border-strong hover:bg-sunk"
              onClick={() => {
                trial.show(`Play it like ${groove.name}`, (p) => addMove(p, { kind: 'groove', groove, lean: 1, level: 1 }));
                if (!playback.engine.isPlaying) playback.toggle();
              }}
            >
              <GroovePicture groove={groove} width={110} height={32} />
              <span className="min-w-0 flex-1">
                <span className="block truncate">{groove.name}</span>
                <span className="text-sm text-faint">
                  {ms.toFixed(1)} ms, {Math.round(level * 100)} % level away
                </span>
              </span>
            </button>
          </li>
        ))}
      </ul>
      {trial.active && <TrialButtons trial={trial} />}
    </div>
  );
}
