'use client';

import { memo, useRef, type PointerEvent } from 'react';
import type { SwingDivision } from '@/core/model/feel';

const WIDTH = 270;
const FROM = 24;
const LENGTH = 222;

interface Props {
  percent: number;
  division: SwingDivision;
  /** The off-beat is dragged: its place in percent of the pair. */
  onSweep: (percent: number) => void;
  onDone: () => void;
}

const x = (p: number): number => FROM + (p / 100) * LENGTH;

/** What stays put while the off-beat is swept. */
const Ground = memo(function Ground() {
  return (
    <>
      <line x1={8} x2={WIDTH - 8} y1={52} y2={52} stroke="var(--line)" />
      {[50, 66.67, 75].map((p) => (
        <line key={p} x1={x(p)} x2={x(p)} y1={53} y2={58} stroke="var(--strong)" />
      ))}
      <g fontSize={10} fill="var(--faint)" textAnchor="middle">
        <text x={x(50)} y={68}>
          straight
        </text>
        <text x={x(66.67)} y={68}>
          2:1
        </text>
        <text x={x(75)} y={68}>
          3:1
        </text>
      </g>
    </>
  );
});

/** One pair as stems: the beat, the off-beat where the swing puts it, the straight one pale behind it. The off-beat can be dragged. */
export function PairPicture({ percent, division, onSweep, onDone }: Props) {
  const held = useRef(false);
  const drag = {
    onPointerDown: (e: PointerEvent<SVGSVGElement>) => {
      held.current = true;
      e.currentTarget.setPointerCapture(e.pointerId);
    },
    onPointerMove: (e: PointerEvent<SVGSVGElement>) => {
      if (!held.current) return;
      const box = e.currentTarget.getBoundingClientRect();
      const at = ((e.clientX - box.left) / box.width) * WIDTH;
      onSweep(Math.round(((at - FROM) / LENGTH) * 1000) / 10);
    },
    onPointerUp: () => {
      if (held.current) onDone();
      held.current = false;
    },
  };
  const late = percent > 50.2 ? 'var(--late)' : percent < 49.8 ? 'var(--early)' : 'var(--ink)';
  const stem = (at: number, top: number, colour: string, radius = 5) => (
    <g stroke={colour} fill={colour}>
      <line x1={at} y1={52} x2={at} y2={top} strokeWidth={2.2} strokeLinecap="round" />
      <circle cx={at} cy={top} r={radius} stroke="none" />
    </g>
  );
  return (
    <svg
      viewBox={`0 0 ${WIDTH} 70`}
      className="my-1 w-full cursor-ew-resize touch-none"
      role="img"
      {...drag}
      aria-label={`A pair of ${division}: the second at ${percent.toFixed(1)} percent`}
    >
      <Ground />
      {percent !== 50 && stem(x(50), 24, 'var(--pale)', 4.4)}
      {stem(x(0), 14, 'var(--ink)')}
      {stem(x(percent), 24, late)}
      {stem(x(100), 14, 'var(--ink)')}
    </svg>
  );
}
