'use client';

import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { changeBacking } from '@/core/commands/backing';
import type { Backing } from '@/core/model/backing';
import { clamp, seconds } from '@/core/units';
import { recordingStore } from '@/storage/recording-store';
import { OnsetDetector } from '@/workers/clients';
import type { Outline } from '@/workers/break.worker';
import { useSweep } from '../../store/use-sweep';

const WIDTH = 320;
const HEIGHT = 56;
const FLAG = 14;
/** So much is seen before the downbeat, and in all; seconds. */
const BEFORE = 1.5;
const SEEN = 6;

/** The loudest of the outline in each pixel, from a moment on. @example pathOf(outline, 0) // 'M0 55V20M1 55V31' */
function pathOf({ peaks, perSecond }: Outline, from: number): string {
  const each = (SEEN * perSecond) / WIDTH;
  let path = '';
  for (let x = 0; x < WIDTH; x++) {
    let most = 0;
    const start = Math.floor(from * perSecond + x * each);
    for (let i = Math.max(0, start); i < Math.min(peaks.length, start + Math.ceil(each)); i++) most = Math.max(most, peaks[i] as number);
    if (most > 0.004) path += `M${x + 0.5} ${HEIGHT}V${(HEIGHT - most * (HEIGHT - FLAG)).toFixed(1)}`;
  }
  return path;
}

/** The beginning of the recording that is heard beside, with a flag at the part's first bar: dragged, or moved by arrow keys. */
export function DownbeatPicture({ backing }: { backing: Backing }) {
  const { sample, firstDownbeat } = backing;
  const sweep = useSweep();
  const [outline, setOutline] = useState<{ sample: string; outline: Outline } | null>(null);
  const picture = useRef<SVGSVGElement>(null);
  // While the flag is dragged, what is behind it stands still.
  const [held, setHeld] = useState<{ from: number; x: number; at: number } | null>(null);
  useEffect(() => {
    let current = true;
    const ear = new OnsetDetector();
    const read = async () => {
      const blob = await recordingStore.read(sample);
      const found = blob && (await ear.take(blob));
      if (current && found) setOutline({ sample, outline: found });
    };
    // What cannot be drawn can still be typed and tapped.
    read().catch(() => undefined);
    return () => {
      current = false;
      ear.dispose();
    };
  }, [sample]);
  const from = held?.from ?? Math.max(-BEFORE, firstDownbeat - BEFORE);
  const path = useMemo(() => (outline?.sample === sample ? pathOf(outline.outline, from) : ''), [outline, sample, from]);
  const show = (at: number) =>
    sweep.show('Move the first downbeat', (p) => changeBacking(p, { firstDownbeat: seconds(Math.round(at * 1000) / 1000) }));
  const secondsOf = (pixels: number): number => (pixels / (picture.current?.getBoundingClientRect().width ?? WIDTH)) * SEEN;
  const onDown = (e: PointerEvent) => {
    e.currentTarget.setPointerCapture(e.pointerId);
    setHeld({ from, x: e.clientX, at: firstDownbeat });
  };
  const onMove = (e: PointerEvent) =>
    held && show(clamp(held.at + secondsOf(e.clientX - held.x) * (e.shiftKey ? 0.1 : 1), held.from, held.from + SEEN));
  const onUp = () => {
    setHeld(null);
    sweep.done();
  };
  const onKey = (e: KeyboardEvent) => {
    const way = e.key === 'ArrowRight' ? 1 : e.key === 'ArrowLeft' ? -1 : 0;
    if (way === 0) return;
    e.preventDefault();
    e.stopPropagation();
    show(firstDownbeat + way * (e.shiftKey ? 0.001 : 0.01));
    sweep.done();
  };
  const x = ((firstDownbeat - from) / SEEN) * WIDTH;
  return (
    <svg
      ref={picture}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="w-full touch-none rounded border border-line bg-surface"
      data-testid="downbeat-picture"
    >
      <path d={path} stroke="var(--faint)" />
      <g
        role="slider"
        tabIndex={0}
        aria-label="First downbeat in the recording"
        aria-valuemin={-60}
        aria-valuemax={600}
        aria-valuenow={firstDownbeat}
        aria-valuetext={`${firstDownbeat.toFixed(3)} s`}
        className="cursor-ew-resize outline-none focus-visible:[&>line]:stroke-2"
        onPointerDown={onDown}
        onPointerMove={onMove}
        onPointerUp={onUp}
        onPointerCancel={onUp}
        onKeyDown={onKey}
      >
        <rect x={x - 8} y={0} width={60} height={HEIGHT} fill="transparent" />
        <line x1={x} x2={x} y1={0} y2={HEIGHT} stroke="var(--accent)" strokeWidth={1.5} />
        <text x={x + 4} y={11} fontSize={11} fill="var(--accent)">
          bar 1
        </text>
      </g>
    </svg>
  );
}
