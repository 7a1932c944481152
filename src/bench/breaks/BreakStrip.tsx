'use client';

import { useEffect, useMemo, useState } from 'react';
import { useStore } from 'zustand';
import { bpmOfBreak, barsOfBreak } from '@/core/breaks/lines';
import { heardIn, strokesOfBreak } from '@/core/breaks/strokes';
import type { Break } from '@/core/model/break';
import { isOfBreak } from '@/core/model/break';
import { hasArrived } from '@/breaks/arrived';
import { Button } from '@/ui/Button';
import { Picker } from '@/ui/Picker';
import { openPage } from '../actions/open-page';
import type { Playback } from '../playback/use-playback';
import { useBench, useBenchStore } from '../store/context';
import { onsetDetectorState, letGo, listen, stopListening, takeUp } from './onset-detector';
import { PICTURE_HEIGHT } from './geometry';
import { BreakPicture } from './BreakPicture';

/** The break that is in front of one: that of the open row, else the one chosen last, else the first. */
function useShownBreak(): { shown: Break | undefined; all: readonly Break[]; choose: (id: string) => void } {
  const all = useBench((s) => s.part.breaks) ?? NONE;
  const ofFocus = useBench((s) => {
    const plays = s.part.rows.find((r) => r.voice === s.focus)?.plays;
    return isOfBreak(plays) ? plays.break : null;
  });
  const [chosen, setChosen] = useState<string | null>(null);
  const shown = all.find((b) => b.id === (ofFocus ?? chosen)) ?? all[0];
  return { shown, all, choose: setChosen };
}

const NONE: readonly Break[] = [];

/** Over the stems: the recorded loop as a picture, with what was heard in it. */
export default function BreakStrip({ playback }: { playback: Playback }) {
  const store = useBenchStore();
  const { shown, all, choose } = useShownBreak();
  const partId = useBench((s) => s.id);
  const sample = shown?.sample;
  const id = shown?.id;
  useEffect(() => {
    const of = store.getState().part.breaks?.find((b) => b.id === id);
    if (of) void takeUp(store, of);
    return letGo;
  }, [store, id, sample]);
  // A break that has just come in plays before anything is asked.
  useEffect(() => {
    if (hasArrived(partId)) playback.playLoop(0.1);
  }, [partId, playback]);
  if (!shown) return null;
  return (
    <section
      aria-label={`The break ${shown.name}`}
      className="flex border-b border-line"
      style={{ height: PICTURE_HEIGHT }}
      data-testid="break-strip"
    >
      <div className="flex w-[184px] shrink-0 flex-col justify-end gap-0.5 overflow-hidden pb-4 pl-3 text-sm leading-5 text-faint">
        {all.length > 1 ? (
          <Picker
            label="Break in sight"
            value={shown.id}
            choices={all.map((b) => ({ value: b.id, text: b.name }))}
            onChange={choose}
            className="max-w-[160px] truncate text-left font-semibold"
          />
        ) : (
          <span className="truncate pr-2 font-semibold text-ink" title={shown.name}>
            {shown.name}
          </span>
        )}
        <Facts of={shown} />
      </div>
      <BreakPicture key={shown.id} of={shown} playback={playback} />
    </section>
  );
}

/** What is known of it, in words. */
function Facts({ of }: { of: Break }) {
  const store = useBenchStore();
  const heard = useBench((s) => s.part.heard);
  const { listening, missing, outline } = useStore(onsetDetectorState);
  const strokes = useMemo(() => strokesOfBreak(of, heardIn({ ...(heard ? { heard } : {}) }, of.id)), [of, heard]);
  const found = strokes.filter((s) => !s.belowThreshold).length;
  if (missing) return <span role="status">Its recording is not in this browser: the kit plays its rows.</span>;
  if (listening !== null) {
    return (
      <span role="status" className="flex items-center gap-2">
        listening … {Math.round(listening * 100)} %
        <Button size="tiny" onClick={() => stopListening(store)}>
          Stop
        </Button>
      </span>
    );
  }
  if (strokes.length === 0) {
    return (
      <span>
        <Button size="tiny" disabled={!outline} onClick={() => void listen(store, of.id)}>
          Listen to it
        </Button>
      </span>
    );
  }
  return (
    <>
      <span>
        {barsOfBreak(of)} {barsOfBreak(of) === 1 ? 'bar' : 'bars'} at {bpmOfBreak(of).toFixed(1)} BPM
      </span>
      <span data-testid="strokes-found">
        {found} of {strokes.length} hits found
      </span>
      <span className="flex items-baseline justify-between pr-2">
        sensitivity {Math.round(of.sensitivity * 100)} %
        <button
          type="button"
          className="underline decoration-dotted underline-offset-4 hover:text-ink"
          onClick={() => openPage(store, 'breaks')}
        >
          more
        </button>
      </span>
    </>
  );
}
