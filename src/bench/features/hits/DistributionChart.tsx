'use client';

import { BarController, BarElement, CategoryScale, Chart, LinearScale, type ChartConfiguration } from 'chart.js';
import { useCallback, useRef } from 'react';
import { countsOf } from '@/core/shaping/shape-hits';
import type { Palette } from '../../stems/drawing/palette';
import { STILL, useChart } from '../../shared/use-chart';

Chart.register(BarController, BarElement, CategoryScale, LinearScale);

/** Odd, so that one of them is the middle. */
const BINS = 43;

interface Props {
  values: readonly number[];
  min: number;
  max: number;
  label: string;
}

/** How often each value occurs among the touched hits. */
export default function DistributionChart({ values, min, max, label }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const paint = useCallback((c: Chart<'bar'>, palette: Palette) => fill(c, palette, values, min, max), [values, min, max]);
  useChart<'bar'>(canvas, emptyChart, paint);
  return (
    <div className="h-[84px]">
      <canvas ref={canvas} role="img" aria-label={`Distribution of the ${label}: ${values.length} values`} />
    </div>
  );
}

const emptyChart = (): ChartConfiguration<'bar'> => ({
  type: 'bar',
  data: { labels: [], datasets: [{ data: [], categoryPercentage: 1, barPercentage: 0.85 }] },
  options: {
    ...STILL,
    scales: {
      x: {
        grid: { display: false },
        ticks: {
          maxRotation: 0,
          autoSkip: false,
          callback(_value, i): string {
            return axisText(i, this.chart.data.labels);
          },
        },
      },
      y: { display: false, beginAtZero: true },
    },
  },
});

function fill(c: Chart<'bar'>, palette: Palette, values: readonly number[], min: number, max: number) {
  const set = c.data.datasets[0];
  if (!set) return;
  c.data.labels = Array.from({ length: BINS }, (_, i) => Math.round(min + (i * (max - min)) / (BINS - 1)));
  set.data = countsOf(values, min, max + 1e-9, BINS);
  set.backgroundColor = palette.ink;
}

/** The ends and the middle are named. */
const axisText = (index: number, labels: readonly unknown[] = []): string =>
  index === 0 || index === BINS - 1 || index === (BINS - 1) / 2 ? String(labels[index] ?? '') : '';
