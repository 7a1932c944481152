'use client';

import { Minus, Plus } from 'lucide-react';
import { useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { IconButton } from './Button';

interface Props {
  label: string;
  levels: readonly number[];
  min: number;
  max: number;
  unit?: string;
  /** Most levels that there may be; without it their number is fixed. */
  most?: number;
  onChange: (levels: number[]) => void;
  onDone?: () => void;
}

const HEIGHT = 56;
const clampTo = (v: number, min: number, max: number): number => Math.max(min, Math.min(max, Math.round(v)));

/** A row of levels as small stems: each is dragged up or down, or moved by arrow keys. */
export function LevelStems({ label, levels, min, max, unit = '', most, onChange, onDone }: Props) {
  const drag = useRef<{ index: number; y: number; from: number } | null>(null);
  const set = (index: number, value: number) => onChange(levels.map((l, i) => (i === index ? clampTo(value, min, max) : l)));
  const perPixel = (max - min) / (HEIGHT - 10);

  const onKey = (e: KeyboardEvent, index: number) => {
    const by = { ArrowUp: 1, ArrowDown: -1, PageUp: 10, PageDown: -10 }[e.key];
    if (by === undefined) return;
    e.preventDefault();
    set(index, (levels[index] as number) + by);
    onDone?.();
  };
  const onDown = (e: PointerEvent, index: number) => {
    e.currentTarget.setPointerCapture(e.pointerId);
    drag.current = { index, y: e.clientY, from: levels[index] as number };
  };
  const onMove = (e: PointerEvent) => {
    const d = drag.current;
    if (d) set(d.index, d.from + (d.y - e.clientY) * perPixel);
  };
  const onUp = () => {
    if (drag.current) onDone?.();
    drag.current = null;
  };

  return (
    <span className="inline-flex items-end gap-1">
      <span role="group" aria-label={label} className="inline-flex items-end border-b border-strong">
        {levels.map((level, i) => (
          <span
            key={i}
            role="slider"
            tabIndex={0}
            aria-label={`${label}, ${i + 1} of ${levels.length}`}
            aria-orientation="vertical"
            aria-valuenow={level}
            aria-valuemin={min}
            aria-valuemax={max}
            aria-valuetext={`${level} ${unit}`.trim()}
            title={`${level} ${unit}: drag up or down`.trim()}
            className="relative block w-[17px] cursor-ns-resize touch-none"
            style={{ height: HEIGHT }}
            onKeyDown={(e) => onKey(e, i)}
            onPointerDown={(e) => onDown(e, i)}
            onPointerMove={onMove}
            onPointerUp={onUp}
            onPointerCancel={onUp}
          >
            <span
              className="absolute bottom-0 left-1/2 w-[2px] -translate-x-1/2 bg-ink"
              style={{ height: 4 + ((level - min) / (max - min)) * (HEIGHT - 14) }}
            />
            <span
              className="absolute left-1/2 size-[9px] -translate-x-1/2 rounded-full bg-ink"
              style={{ bottom: 1 + ((level - min) / (max - min)) * (HEIGHT - 14) }}
            />
          </span>
        ))}
      </span>
      {most !== undefined && (
        <span className="flex flex-col">
          <IconButton
            label={`${label}: one more`}
            size="tiny"
            disabled={levels.length >= most}
            onClick={() => {
              onChange([...levels, levels[levels.length - 1] ?? max]);
              onDone?.();
            }}
          >
            <Plus size={13} />
          </IconButton>
          <IconButton
            label={`${label}: one less`}
            size="tiny"
            disabled={levels.length < 2}
            onClick={() => {
              onChange(levels.slice(0, -1));
              onDone?.();
            }}
          >
            <Minus size={13} />
          </IconButton>
        </span>
      )}
    </span>
  );
}
