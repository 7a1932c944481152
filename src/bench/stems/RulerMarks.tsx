'use client';

import dynamic from 'next/dynamic';
import { useMemo } from 'react';
import { gridOfPlayer } from '@/core/part/grid-of-player';
import type { TempoChange } from '@/core/time/tempo-map';
import { useBench } from '../store/context';
import type { SongMark } from './MarksInSight';

const NONE: readonly TempoChange[] = [];

const MarksInSight = dynamic(() => import('./MarksInSight'), { ssr: false });

/** Changes of tempo and meter after the start, on the ruler where they are; each is edited by a click. */
export function RulerMarks() {
  // With one change per beat, marks would cover the ruler: the Tempo page shows the drift instead.
  const tempo = useBench((s) => (gridOfPlayer(s.part) === 'follows' ? NONE : s.part.tempo));
  const meter = useBench((s) => s.part.meter);
  const marks = useMemo(
    (): SongMark[] =>
      [
        ...tempo.slice(1).map((t, i): SongMark => ({ kind: 'tempo', index: i + 1, tick: t.tick })),
        ...meter.slice(1).map((m): SongMark => ({ kind: 'meter', tick: m.tick, text: `${m.numerator}/${m.denominator}` })),
      ].sort((a, b) => a.tick - b.tick),
    [tempo, meter],
  );
  return marks.length === 0 ? null : <MarksInSight marks={marks} />;
}
