'use client';

import { useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { setSensitivity } from '@/core/breaks/edit';
import type { Break } from '@/core/model/break';
import { useSweep } from '../store/use-sweep';
import { FOOT, sensitivityAt, thresholdHeight } from './geometry';

const LABEL = 'Set the sensitivity';

/** The sensitivity threshold across the strokes: drag it up and down; strokes below it do not count. */
export function SensitivityThreshold({ of, width }: { of: Break; width: number }) {
  const sweep = useSweep();
  const drag = useRef<number | null>(null);
  const top = FOOT - thresholdHeight(of.sensitivity);
  const set = (sensitivity: number) => sweep.show(LABEL, (p) => setSensitivity(p, of.id, Math.round(sensitivity * 1000) / 1000));
  const onDown = (e: PointerEvent<HTMLDivElement>) => {
    if (e.button !== 0) return;
    e.currentTarget.setPointerCapture(e.pointerId);
    drag.current = e.clientY - e.currentTarget.getBoundingClientRect().top - HALF;
  };
  const onMove = (e: PointerEvent<HTMLDivElement>) => {
    const frame = e.currentTarget.parentElement;
    if (drag.current === null || !frame) return;
    set(sensitivityAt(FOOT - (e.clientY - frame.getBoundingClientRect().top - drag.current)));
  };
  const end = () => {
    if (drag.current !== null) sweep.done();
    drag.current = null;
  };
  const onKey = (e: KeyboardEvent) => {
    if (e.key === 'Escape' && drag.current !== null) {
      drag.current = null;
      return sweep.cancel();
    }
    // A higher threshold finds less.
    const by = e.key === 'ArrowUp' || e.key === 'ArrowLeft' ? -1 : e.key === 'ArrowDown' || e.key === 'ArrowRight' ? 1 : 0;
    if (by === 0) return;
    e.preventDefault();
    set(Math.max(0, Math.min(1, of.sensitivity + by * (e.shiftKey ? 0.002 : 0.02))));
    sweep.done();
  };
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label="Sensitivity"
      aria-orientation="vertical"
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(of.sensitivity * 100)}
      aria-valuetext={`${Math.round(of.sensitivity * 100)} %`}
      title="Drag up or down: hits below the line do not count"
      className="absolute left-0 cursor-ns-resize"
      style={{ top: top - HALF, height: 2 * HALF, width }}
      onPointerDown={onDown}
      onPointerMove={onMove}
      onPointerUp={end}
      onPointerCancel={() => {
        drag.current = null;
        sweep.cancel();
      }}
      onKeyDown={onKey}
      onDoubleClick={(e) => e.stopPropagation()}
    />
  );
}

const HALF = 5;
