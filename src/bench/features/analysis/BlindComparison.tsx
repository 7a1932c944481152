'use client';

import { useEffect, useRef, useState } from 'react';
import { verdictOf, verdictWords, type BlindRound } from '@/core/analysis/blind';
import { EMPTY_FEEL } from '@/core/model/feel';
import { Button } from '@/ui/Button';
import { Picker } from '@/ui/Picker';
import { usePlaybackOf } from '../../playback/context';
import type { Other } from '../../store/ui-state';
import { useBench, useBenchStore } from '../../store/context';
import { useVersions } from '../../store/use-versions';

const ROUNDS = 10;
const WITHOUT = 'without its feel';

/** A comparison under way: what is played as first now, and what was preferred before. */
interface Trial {
  other: Other;
  first: BlindRound['first'];
  rounds: readonly BlindRound[];
  heard: ReadonlySet<'first' | 'second'>;
  playing: 'first' | 'second' | null;
}

const drawn = (): BlindRound['first'] => (crypto.getRandomValues(new Uint8Array(1))[0]! % 2 === 0 ? 'now' : 'other');

/** Two versions in turn, equally loud, shuffled anew each round: what is preferred is told after the last. */
export function BlindComparison() {
  const { getState } = useBenchStore();
  const playback = usePlaybackOf();
  const id = useBench((s) => s.id);
  const versions = useVersions(id);
  const [wanted, setWanted] = useState(WITHOUT);
  const [trial, setTrial] = useState<Trial | null>(null);
  const before = useRef<Other | null>(null);
  const isOpen = trial !== null;
  // Whatever ends it: what was compared with before is back, and the part itself is heard.
  useEffect(() => {
    if (!isOpen) return;
    return () => {
      playback.engine.setVersion('performed');
      getState().setUi({ other: before.current });
    };
  }, [isOpen, playback, getState]);

  const begin = () => {
    const version = versions.find((v) => v.id === wanted);
    const other: Other = version
      ? { id: version.id, name: version.name, feel: version.part.feel, part: version.part, equal: true }
      : { name: WITHOUT, feel: EMPTY_FEEL, equal: true };
    before.current = getState().ui.other;
    getState().setUi({ other });
    setTrial({ other, first: drawn(), rounds: [], heard: new Set(), playing: null });
  };
  const hear = (which: 'first' | 'second') => {
    if (!trial) return;
    const isNow = (trial.first === 'now') === (which === 'first');
    playback.engine.setVersion(isNow ? 'performed' : 'other');
    if (!playback.engine.isPlaying) playback.toggle();
    setTrial({ ...trial, playing: which, heard: new Set([...trial.heard, which]) });
  };
  const prefer = (which: 'first' | 'second') => {
    if (!trial) return;
    const preferred = (trial.first === 'now') === (which === 'first') ? 'now' : 'other';
    setTrial({ ...trial, rounds: [...trial.rounds, { first: trial.first, preferred }], first: drawn(), heard: new Set(), playing: null });
  };
  if (!trial) {
    return (
      <div className="leading-8">
        <p>
          This, against{' '}
          <Picker
            label="Against"
            value={wanted}
            choices={[{ value: WITHOUT, text: WITHOUT }, ...versions.map((v) => ({ value: v.id, text: `the version ${v.name}` }))]}
            onChange={setWanted}
          />
        </p>
        <Button size="small" onClick={begin}>
          Begin
        </Button>
        <p className="text-sm leading-5 text-faint">
          Ten rounds. In each, one is played as first and the other as second, equally loud; the order is random and hidden.
        </p>
      </div>
    );
  }
  const isOver = trial.rounds.length >= ROUNDS;
  const both = trial.heard.size === 2;
  return (
    <div className="space-y-2" data-testid="blind">
      <p role="status">
        {isOver ? verdictWords(verdictOf(trial.rounds), trial.other.name) : `Round ${trial.rounds.length + 1} of ${ROUNDS}`}
      </p>
      {!isOver && (
        <>
          <p className="flex gap-2">
            {(['first', 'second'] as const).map((which) => (
              <Button
                key={which}
                aria-pressed={trial.playing === which}
                className={trial.playing === which ? 'bg-chosen' : ''}
                onClick={() => hear(which)}
              >
                Hear the {which}
              </Button>
            ))}
          </p>
          <p className="flex gap-2">
            {(['first', 'second'] as const).map((which) => (
              <Button key={which} size="small" disabled={!both} onClick={() => prefer(which)}>
                The {which} is better
              </Button>
            ))}
          </p>
          {!both && <p className="text-sm text-faint">Hear both first.</p>}
        </>
      )}
      <p className="flex gap-2">
        <Button size="small" onClick={() => setTrial(null)}>
          {isOver ? 'Done' : 'Stop'}
        </Button>
      </p>
    </div>
  );
}
