'use client';

import { BarController, BarElement, CategoryScale, Chart, LinearScale } from 'chart.js';
import { useEffect, useRef } from 'react';
import { countsOf } from '@/core/shaping/shape-hits';
import { onThemeChange, readPalette } from '../../stems/drawing/palette';

Chart.register(BarController, BarElement, CategoryScale, LinearScale);

const BINS = 42;

interface Props {
  values: readonly number[];
  min: number;
  max: number;
  label: string;
}

/** How often each value occurs among the touched hits. */
export default function DistributionChart({ values, min, max, label }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const chart = useRef<Chart<'bar'> | null>(null);

  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const c: Chart<'bar'> = new Chart(element, {
      type: 'bar',
      data: { labels: [], datasets: [{ data: [], categoryPercentage: 1, barPercentage: 0.85 }] },
      options: {
        animation: false,
        maintainAspectRatio: false,
        events: [],
        scales: { x: { grid: { display: false }, ticks: { maxRotation: 0, autoSkip: false, callback: (_v, i): string => axisText(i, c) } }, y: { display: false, beginAtZero: true } },
      },
    });
    chart.current = c;
    const dress = () => {
      const palette = readPalette(element);
      const set = c.data.datasets[0];
      if (set) set.backgroundColor = palette.ink;
      const x = c.options.scales?.x;
      if (x?.ticks) x.ticks.color = palette.faint;
      if (x?.border) x.border.color = palette.strong;
      c.update();
    };
    dress();
    const stop = onThemeChange(dress);
    return () => {
      stop();
      c.destroy();
    };
  }, []);

  useEffect(() => {
    if (chart.current) fill(chart.current, values, min, max);
  }, [values, min, max]);

  return (
    <div className="h-[84px]">
      <canvas ref={canvas} role="img" aria-label={`Distribution of the ${label}: ${values.length} values`} />
    </div>
  );
}

function fill(c: Chart<'bar'>, values: readonly number[], min: number, max: number) {
  const set = c.data.datasets[0];
  if (!set) return;
  c.data.labels = Array.from({ length: BINS }, (_, i) => Math.round(min + (i * (max - min)) / (BINS - 1)));
  set.data = countsOf(values, min, max + 1e-9, BINS);
  c.update();
}

/** The ends and the middle are named. */
function axisText(index: number, c: Chart<'bar'>): string {
  return index === 0 || index === BINS - 1 || index === (BINS - 2) / 2 ? String(c.data.labels?.[index] ?? '') : '';
}
