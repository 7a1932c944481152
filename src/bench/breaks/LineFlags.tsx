'use client';

import type { KeyboardEvent } from 'react';
import { moveLine } from '@/core/breaks/edit';
import type { BreakStroke } from '@/core/breaks/strokes';
import type { Break } from '@/core/model/break';
import type { Part } from '@/core/model/part';
import { useSweep } from '../store/use-sweep';
import { xOf, type Axis } from '../stems/geometry/axis';
import { meterMapOf } from '@/core/part/part-time';
import { FLAGS, FOOT, toMicrosecond, xOfMoment, type Placed } from './geometry';
import { useMarkDrag } from './use-mark-drag';

interface Props {
  of: Break;
  part: Part;
  placed: Placed;
  strokes: readonly BreakStroke[];
  axis: Axis;
  width: number;
  /** While a flag is dragged, all else stays where these lines put it. */
  onHold: (placed: Placed | null) => void;
}

/** Flags nearer to each other than this are not shown one by one. */
const CLOSEST = 26;

/** Those of some flags that have room; the outer ones always. */
function apart<T extends { i: number; x: number }>(flags: readonly T[], last: number): T[] {
  const shown: T[] = [];
  for (const flag of flags) if (flag.i === 0 || flag.i === last || flag.x - (shown.at(-1)?.x ?? -Infinity) >= CLOSEST) shown.push(flag);
  return shown;
}

/** The bar lines of the recording as flags: the outer ones stretch all bars, each between moves alone. */
export function LineFlags({ of, part, placed, strokes, axis, width, onHold }: Props) {
  const sweep = useSweep();
  const last = of.lines.length - 1;
  const move = (index: number, to: number) =>
    sweep.show(index === 0 ? 'Move the first bar flag' : index === last ? 'Move the last bar flag' : 'Move a bar line', (p) =>
      moveLine(p, of.id, index, toMicrosecond(to)),
    );

  const drag = useMarkDrag<number>({
    ground: { part, placed: { lines: of.lines, bar: of.bar }, axis },
    places: () => strokes.filter((s) => !s.belowThreshold).map((s) => s.at),
    onMove: (index, at, held) => {
      onHold(held.placed);
      move(index, at);
    },
    onEnd: (_, { kept }) => {
      if (kept) sweep.done();
      else sweep.cancel();
      onHold(null);
    },
  });
  const onKey = (e: KeyboardEvent, index: number) => {
    if (e.key === 'Escape' && drag.cancel()) return e.stopPropagation();
    const by = e.key === 'ArrowLeft' ? -1 : e.key === 'ArrowRight' ? 1 : 0;
    if (by === 0) return;
    e.preventDefault();
    e.stopPropagation();
    move(index, (of.lines[index] as number) + by * (e.shiftKey ? 0.001 : 0.01));
    sweep.done();
  };
  const map = meterMapOf(part);
  // Where each lies in the picture: on the part's bar line, or, while one is dragged, where it is in the sound.
  const flags = of.lines.map((line, i) => ({
    line,
    i,
    x: placed === of ? xOf(axis, map.barOf(of.bar + i).start) : xOfMoment(part, placed, axis, line),
  }));
  return apart(
    flags.filter(({ x }) => x >= -40 && x <= width + 10),
    last,
  ).map(({ line, i, x }) => {
    const isOuter = i === 0 || i === last;
    return (
      <div key={i}>
        <button
          type="button"
          data-flag={i}
          aria-label={
            i === 0
              ? `Start of the loop at ${line.toFixed(3)} s`
              : i === last
                ? `End of the loop at ${line.toFixed(3)} s`
                : `Bar line ${i + 1} at ${line.toFixed(3)} s`
          }
          title={
            i === last
              ? 'The end of the loop: drag it'
              : i === 0
                ? 'The first bar line: drag it'
                : 'A bar line of the recording: drag it where the bar begins'
          }
          className={`absolute top-0 h-5 cursor-ew-resize rounded-sm px-1.5 text-xs leading-5 whitespace-nowrap ${isOuter ? 'bg-ink text-ground' : 'border border-strong bg-surface text-ink'} ${i === last ? '-translate-x-full' : ''}`}
          style={{ left: x }}
          {...drag.handlers}
          onPointerDown={(e) => drag.start(e, i, line)}
          onKeyDown={(e) => onKey(e, i)}
          onDoubleClick={(e) => e.stopPropagation()}
        >
          {i === last ? 'end' : i === 0 ? 'bar 1' : i + 1}
        </button>
        <div
          aria-hidden="true"
          className="pointer-events-none absolute w-px bg-ink"
          style={{ left: x, top: FLAGS - 2, height: isOuter ? FOOT - FLAGS + 2 : 8 }}
        />
      </div>
    );
  });
}
