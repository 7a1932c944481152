'use client';

import { Chart, LinearScale, LineController, LineElement, PointElement, type ChartConfiguration } from 'chart.js';
import { useCallback, useMemo, useRef } from 'react';
import { quartersOfBeat } from '@/core/free-takes/adjust-count';
import type { Part } from '@/core/model/part';
import { endOfPart, meterMapOf } from '@/core/part/part-time';
import type { Palette } from '../../stems/drawing/palette';
import { STILL, useChart } from '../../shared/use-chart';

Chart.register(LineController, LinearScale, LineElement, PointElement);

const HEIGHT = 130;
/** The curve averages this many beats, since single beats scatter. */
const BEATS = 4;

/** A point of the curve: bars from 1, and beats a minute. */
export interface DriftPoint {
  x: number;
  y: number;
}

/** The player's tempo over the part's bars. */
export function driftOf({ playerTempo = [], meter, origin, bars }: Pick<Part, 'playerTempo' | 'meter' | 'origin' | 'bars'>): DriftPoint[] {
  const map = meterMapOf({ meter, origin });
  const end = endOfPart({ meter, origin, bars });
  const inside = playerTempo.filter((t) => t.tick >= origin && t.tick < end);
  const [first] = meter;
  const factor = first ? 1 / quartersOfBeat([first.numerator, first.denominator]) : 1;
  return inside.map((t, i) => {
    const from = Math.max(0, Math.min(i - BEATS / 2, inside.length - BEATS));
    const near = inside.slice(from, from + BEATS);
    const bar = map.barAt(t.tick);
    return {
      x: bar.index + 1 + (t.tick - bar.start) / bar.length,
      y: (60e6 * factor) / (near.reduce((sum, n) => sum + n.microsecondsPerQuarter, 0) / near.length),
    };
  });
}

const emptyChart = (): ChartConfiguration<'line'> => ({
  type: 'line',
  data: { datasets: [] },
  options: {
    ...STILL,
    plugins: { legend: { display: false }, tooltip: { enabled: false } },
    scales: {
      x: { type: 'linear', title: { display: false }, ticks: { precision: 0, maxTicksLimit: 8, includeBounds: false } },
      y: { type: 'linear', ticks: { maxTicksLimit: 5 }, grace: '10%' },
    },
  },
});

/** The player's drift, as a curve of tempo over bars. */
export default function DriftChart({ part }: { part: Part }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const points = useMemo(() => driftOf(part), [part]);
  const paint = useCallback(
    (c: Chart<'line'>, palette: Palette) => {
      c.data.datasets = [{ data: points, borderColor: palette.accent, borderWidth: 2, pointRadius: 0 }];
      const x = c.options.scales?.x;
      if (x) Object.assign(x, { min: 1, max: part.bars + 1 });
    },
    [points, part.bars],
  );
  useChart<'line'>(canvas, emptyChart, paint);
  return (
    <figure>
      <div className="relative" style={{ height: HEIGHT }}>
        <canvas ref={canvas} role="img" aria-label="The player’s tempo, bar by bar" data-testid="drift" />
      </div>
      <figcaption className="text-sm text-faint">The player’s tempo by bar, averaged over four beats.</figcaption>
    </figure>
  );
}
