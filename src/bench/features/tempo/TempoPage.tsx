'use client';

import dynamic from 'next/dynamic';
import { useEffect, useRef } from 'react';
import { fitsNoGrid } from '@/core/free-takes/fits-its-grid';
import { hindranceTo } from '@/core/free-takes/follow';
import { gridOfPlayer } from '@/core/part/grid-of-player';
import { Button } from '@/ui/Button';
import { Checkbox } from '@/ui/Checkbox';
import { useBench, useBenchStore } from '../../store/context';
import { useRecorded, useRecording } from '../../recording/context';
import { Counts } from './Counts';
import { GridSentence } from './GridSentence';
import { TapBeats } from './TapBeats';
import { useFinding } from './use-finding';
import { HINDRANCES } from './words';

const DriftChart = dynamic(() => import('./DriftChart'), { ssr: false });

/** For parts played without a click: finds the beats, and switches between a grid that follows the player and a steady tempo. */
export function TempoPage() {
  const { recorder } = useRecording();
  const clicks = useRecorded((s) => s.clickAlways);
  const { getState } = useBenchStore();
  const wanted = useBench((s) => s.ui.countsWanted);
  const part = useBench((s) => s.underway?.base ?? s.part);
  const isEmpty = part.hits.length === 0;
  const finding = useFinding();
  const { look, trial, progress } = finding;
  const hindrance = hindranceTo(part);
  const grid = gridOfPlayer(part);
  // Edited hits make the result stale.
  const found = finding.found?.base.hits === part.hits ? finding.found : null;

  // Starts by itself for a part that fits no grid.
  const isAsked = useRef(false);
  useEffect(() => {
    if (isAsked.current || hindrance || (!wanted && !fitsNoGrid(part))) return;
    isAsked.current = true;
    if (wanted) getState().setUi({ countsWanted: false });
    void look();
  }, [part, hindrance, look, wanted, getState]);

  if (isEmpty)
    return (
      <p className="text-faint">
        There are no hits yet. Record without a click on the page Takes, or import a MIDI file that was played freely. This page finds the
        beats.
      </p>
    );
  if (hindrance) return <p className="text-faint">{HINDRANCES[hindrance]}</p>;
  return (
    <div className="space-y-4">
      {progress !== null ? (
        <div className="flex items-center gap-2" role="status">
          <progress aria-label="Finding the beats" className="w-40 accent-accent" max={1} value={progress} />
          <Button size="small" onClick={finding.cancel}>
            Cancel
          </Button>
        </div>
      ) : found ? (
        <Counts finding={finding} found={found} />
      ) : (
        <>
          {grid && (
            <>
              <GridSentence part={part} grid={grid} />
              <DriftChart part={part} />
            </>
          )}
          {grid === 'steady' ? null : (
            <>
              {!grid && (
                <p className="text-faint">
                  Was this played without a click? Find the beats, time signature and tempo from the hits. The hits keep their timing.
                </p>
              )}
              <div className="flex flex-wrap gap-1.5">
                <Button size="small" look={grid ? 'quiet' : 'strong'} onClick={() => void look()}>
                  {grid ? 'Find the beats again' : 'Find the beats'}
                </Button>
              </div>
              {grid === 'follows' && (
                <p className="text-sm text-faint">Drag a beat flag above the hits to correct a beat. The hits keep their timing.</p>
              )}
            </>
          )}
        </>
      )}
      {progress === null && grid !== 'steady' && <TapBeats onTapped={(taps) => void look(taps)} before={trial.cancel} />}
      <Checkbox checked={clicks} onChange={(checked) => recorder.set({ clickAlways: checked })}>
        click during playback
      </Checkbox>
      <p className="border-t border-line pt-2 text-sm text-faint">
        Least reliable: half time above 130 BPM, hi-hats alone, tempo drift over 16 %, and takes that change time signature.
      </p>
    </div>
  );
}
