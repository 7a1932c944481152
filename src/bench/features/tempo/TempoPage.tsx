'use client';

import dynamic from 'next/dynamic';
import { useEffect, useRef } from 'react';
import { fitsNoGrid } from '@/core/free-takes/fits-its-grid';
import { hindranceTo } from '@/core/free-takes/follow';
import { gridOfPlayer } from '@/core/part/grid-of-player';
import { Button } from '@/ui/Button';
import { useBench, useBenchStore } from '../../store/context';
import { useRecorded, useRecording } from '../../recording/context';
import { Counts } from './Counts';
import { GridSentence } from './GridSentence';
import { TapBeats } from './TapBeats';
import { useFinding } from './use-finding';
import { HINDRANCES } from './words';

const DriftChart = dynamic(() => import('./DriftChart'), { ssr: false });

/** Parts that were played without a click: their beats, and whether the grid follows the player or the tempo is steady. */
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
  // What was found holds as long as the hits stand as they stood.
  const found = finding.found?.base.hits === part.hits ? finding.found : null;

  // A part that fits no grid is why one comes here.
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
        Nothing is played yet. Record without a click on the page Takes, or import a MIDI file that was played freely: its beats are found
        here.
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
                  Was this played without a click? Its beats, time signature and tempo are found from the hits, which keep their times.
                </p>
              )}
              <div className="flex flex-wrap gap-1.5">
                <Button size="small" look={grid ? 'quiet' : 'strong'} onClick={() => void look()}>
                  {grid ? 'Find the beats again' : 'Find the beats'}
                </Button>
              </div>
              {grid === 'follows' && (
                <p className="text-sm text-faint">Drag the beat flags above the hits to correct a beat: the hits stay where they sound.</p>
              )}
            </>
          )}
        </>
      )}
      {progress === null && grid !== 'steady' && <TapBeats onTapped={(taps) => void look(taps)} before={trial.cancel} />}
      <label className="flex items-center gap-1.5">
        <input
          type="checkbox"
          className="accent-accent"
          checked={clicks}
          onChange={(e) => recorder.set({ clickAlways: e.target.checked })}
        />{' '}
        click during playback
      </label>
      <p className="border-t border-line pt-2 text-sm text-faint">
        Least certain: half time above 130 BPM, hats alone, tempo that drifts by more than 16 %, and takes whose time signature changes.
      </p>
    </div>
  );
}
