'use client';

import { useEffect, useState } from 'react';
import { throughCurve, type VelocityCurve } from '@/core/velocity-curve';
import { useRecording } from '../../recording/context';

const SIZE = 96;
const MOST_SHOWN = 24;

/** The curve, drawn over the strokes that came in lately. */
export function VelocityCurvePicture({ curve }: { curve: VelocityCurve }) {
  const { recorder } = useRecording();
  const [strokes, setStrokes] = useState<readonly number[]>([]);
  useEffect(
    () => recorder.onInput(({ kind, value }) => kind === 'note' && setStrokes((s) => [...s.slice(1 - MOST_SHOWN), value])),
    [recorder],
  );
  const at = (v: number): number => 4 + ((v - 1) / 126) * (SIZE - 8);
  const line = Array.from({ length: 43 }, (_, i) => 1 + i * 3)
    .map((v) => `${at(v)},${SIZE - at(throughCurve(curve, v))}`)
    .join(' ');
  return (
    <svg
      width={SIZE * 2}
      height={SIZE}
      viewBox={`0 0 ${SIZE} ${SIZE}`}
      preserveAspectRatio="none"
      role="img"
      aria-label="Velocity played against velocity recorded, with the latest strokes"
      className="my-1"
    >
      <rect x={0.5} y={0.5} width={SIZE - 1} height={SIZE - 1} className="fill-none stroke-line" />
      {strokes.map((v, i) => (
        <line
          key={i}
          x1={at(v)}
          x2={at(v)}
          y1={SIZE - 4}
          y2={SIZE - at(throughCurve(curve, v))}
          className="stroke-accent"
          opacity={0.25 + (0.75 * i) / strokes.length}
          vectorEffect="non-scaling-stroke"
        />
      ))}
      <polyline points={line} className="fill-none stroke-ink" strokeWidth={1.5} vectorEffect="non-scaling-stroke" />
    </svg>
  );
}
