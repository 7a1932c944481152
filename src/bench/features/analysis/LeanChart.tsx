'use client';

import { Chart, Filler, LinearScale, LineElement, PointElement, ScatterController, type ChartConfiguration } from 'chart.js';
import { useCallback, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { Button } from '@/ui/Button';
import { download, fileNameOf } from '@/ui/download';
import { readPalette, type Palette } from '../../stems/drawing/palette';
import { STILL, useChart } from '../../shared/use-chart';
import { byPlace, type Dot } from './curve';

Chart.register(Filler, ScatterController, LinearScale, LineElement, PointElement);

interface Props {
  dots: readonly Dot[];
  label: string;
  /** Of the value axis. */
  unit: 'ms' | 'velocity';
  chosen: ReadonlySet<number>;
  onChoose: (hits: number[]) => void;
}

const HEIGHT = 190;

/** Every hit by its place in the bar; a drag over it chooses, arrow keys go from place to place. */
export default function LeanChart({ dots, label, unit, chosen, onChoose }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [brush, setBrush] = useState<{ x: number; y: number; toX: number; toY: number } | null>(null);
  const paint = useCallback((c: Chart<'scatter'>, palette: Palette) => fill(c, palette, dots, chosen, unit), [dots, chosen, unit]);
  const chart = useChart<'scatter'>(canvas, emptyChart, paint);

  const at = (e: PointerEvent): { x: number; y: number } => {
    const box = e.currentTarget.getBoundingClientRect();
    return { x: e.clientX - box.left, y: e.clientY - box.top };
  };
  const end = () => {
    const c = chart.current;
    if (brush && c?.scales.x && c.scales.y) {
      const [x, y] = [c.scales.x, c.scales.y];
      const within = (v: number, a: number, b: number): boolean => v >= Math.min(a, b) - 4 && v <= Math.max(a, b) + 4;
      onChoose(
        dots
          .filter((d) => within(x.getPixelForValue(d.x), brush.x, brush.toX) && within(y.getPixelForValue(d.y), brush.y, brush.toY))
          .map((d) => d.hit),
      );
    }
    setBrush(null);
  };
  /** From one place of the bar to the next: all hits there. */
  const onKey = (e: KeyboardEvent) => {
    const by = e.key === 'ArrowRight' ? 1 : e.key === 'ArrowLeft' ? -1 : 0;
    if (by === 0) return;
    e.preventDefault();
    e.stopPropagation();
    const places = [...new Set(dots.map((d) => d.x))].sort((a, b) => a - b);
    const first = dots.find((d) => chosen.has(d.hit));
    const now = first ? places.indexOf(first.x) : by > 0 ? -1 : 0;
    const next = places[(now + by + places.length) % places.length];
    onChoose(dots.filter((d) => d.x === next).map((d) => d.hit));
  };
  const picture = () => {
    const element = canvas.current;
    if (!element) return;
    // On the page's ground: a picture without one is unreadable elsewhere.
    const paper = document.createElement('canvas');
    Object.assign(paper, { width: element.width, height: element.height });
    const g = paper.getContext('2d');
    if (!g) return;
    g.fillStyle = readPalette(element).surface;
    g.fillRect(0, 0, paper.width, paper.height);
    g.drawImage(element, 0, 0);
    paper.toBlob((blob) => blob && download(blob, `${fileNameOf(label)}.png`, 'image/png'));
  };
  return (
    <>
      <div
        className="relative touch-none"
        style={{ height: HEIGHT }}
        role="slider"
        tabIndex={0}
        aria-label={label}
        aria-valuemin={0}
        aria-valuemax={dots.length}
        aria-valuenow={chosen.size}
        aria-valuetext={`${chosen.size} of ${dots.length} hits chosen; arrow keys go from place to place`}
        onKeyDown={onKey}
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          const p = at(e);
          setBrush({ ...p, toX: p.x, toY: p.y });
        }}
        onPointerMove={(e) => {
          const p = at(e);
          setBrush((b) => b && { ...b, toX: p.x, toY: p.y });
        }}
        onPointerUp={end}
        onPointerCancel={() => setBrush(null)}
      >
        <canvas ref={canvas} aria-hidden="true" />
        {brush && (
          <div
            className="pointer-events-none absolute border border-accent bg-accent/10"
            style={{
              left: Math.min(brush.x, brush.toX),
              top: Math.min(brush.y, brush.toY),
              width: Math.abs(brush.toX - brush.x),
              height: Math.abs(brush.toY - brush.y),
            }}
          />
        )}
      </div>
      <Button size="tiny" className="float-right" onClick={picture}>
        PNG
      </Button>
    </>
  );
}

const furthestOf = (values: readonly number[], least: number): number =>
  Math.ceil(values.reduce((most, v) => Math.max(most, Math.abs(v)), least) + 0.01);

const emptyChart = (): ChartConfiguration<'scatter'> => ({
  type: 'scatter',
  data: {
    datasets: [
      { data: [], pointRadius: 2.6, clip: 4 },
      { data: [], pointRadius: 0, showLine: true, borderWidth: 1.6 },
      // The band: its lower edge, and its upper one filled down to it.
      { data: [], pointRadius: 0, showLine: true, borderWidth: 0 },
      { data: [], pointRadius: 0, showLine: true, borderWidth: 0, fill: '-1' },
    ],
  },
  options: {
    ...STILL,
    scales: {
      x: { min: 0, ticks: { stepSize: 1, callback: (v) => String(Number(v) + 1) }, grid: { display: true }, border: { display: true } },
      y: { ticks: { callback: (v) => String(Math.abs(Number(v))) }, grid: { display: true }, border: { display: true } },
    },
  },
});

/** Shows these dots, the curve through their means and the band around it; early is above. */
function fill(c: Chart<'scatter'>, palette: Palette, dots: readonly Dot[], chosen: ReadonlySet<number>, unit: Props['unit']) {
  const [points, mean, lower, upper] = c.data.datasets;
  const { x, y } = c.options.scales ?? {};
  if (!points || !mean || !lower || !upper || !x || !y) return;
  points.data = dots.map((d) => ({ x: d.x, y: d.y }));
  points.pointBackgroundColor = dots.map((d) =>
    chosen.has(d.hit) ? palette.accent : unit === 'velocity' || Math.abs(d.y) < 1 ? palette.ink : d.y < 0 ? palette.early : palette.late,
  );
  points.pointBorderColor = points.pointBackgroundColor;
  const places = byPlace(dots);
  mean.data = places.map((p) => ({ x: p.x, y: p.mean }));
  mean.borderColor = palette.strong;
  lower.data = places.map((p) => ({ x: p.x, y: p.mean - p.deviation }));
  upper.data = places.map((p) => ({ x: p.x, y: p.mean + p.deviation }));
  upper.backgroundColor = palette.sunk;
  const furthest = furthestOf(
    dots.map((d) => d.y),
    5,
  );
  Object.assign(y, unit === 'ms' ? { reverse: true, min: -furthest, max: furthest } : { reverse: false, min: 0, max: 127 });
  x.max = furthestOf(
    dots.map((d) => d.x),
    1,
  );
}
