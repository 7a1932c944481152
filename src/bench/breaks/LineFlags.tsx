'use client';

import { useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { moveLine } from '@/core/breaks/edit';
import type { BreakStroke } from '@/core/breaks/strokes';
import type { Break } from '@/core/model/break';
import type { Part } from '@/core/model/part';
import { useSweep } from '../store/use-sweep';
import { tickOf, xOf, type Axis } from '../stems/geometry/axis';
import { momentOfTick } from '@/core/breaks/lines';
import { meterMapOf } from '@/core/part/part-time';
import { FLAGS, FOOT, snapped, xOfMoment, type Placed } from './geometry';

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
  const drag = useRef<{ index: number; x: number; from: number; held: Placed; axis: Axis; part: Part } | null>(null);
  const last = of.lines.length - 1;
  const move = (index: number, to: number) => sweep.show(index === 0 ? 'Move the first bar flag' : index === last ? 'Move the last bar flag' : 'Move a bar line', (p) => moveLine(p, of.id, index, Math.round(to * 1e6) / 1e6));

  const onDown = (e: PointerEvent, index: number) => {
    if (e.button !== 0) return;
    e.currentTarget.setPointerCapture(e.pointerId);
    const held = { lines: of.lines, bar: of.bar };
    drag.current = { index, x: e.clientX, from: of.lines[index] as number, held, axis, part };
  };
  const onMove = (e: PointerEvent) => {
    const d = drag.current;
    if (!d || e.clientX === d.x) return;
    onHold(d.held);
    const home = xOfMoment(d.part, d.held, d.axis, d.from);
    const raw = momentOfTick(d.part, d.held, tickOf(d.axis, home + e.clientX - d.x));
    const perSecond = Math.abs(xOfMoment(d.part, d.held, d.axis, d.from + 0.5) - home) * 2;
    move(d.index, snapped(raw, strokes.filter((s) => !s.drowned).map((s) => s.at), perSecond, e.shiftKey));
  };
  const end = (keep: boolean) => {
    if (!drag.current) return;
    drag.current = null;
    if (keep) sweep.done();
    else sweep.cancel();
    onHold(null);
  };
  const onKey = (e: KeyboardEvent, index: number) => {
    if (e.key === 'Escape' && drag.current) {
      e.stopPropagation();
      return end(false);
    }
    const by = e.key === 'ArrowLeft' ? -1 : e.key === 'ArrowRight' ? 1 : 0;
    if (by === 0) return;
    e.preventDefault();
    e.stopPropagation();
    move(index, (of.lines[index] as number) + by * (e.shiftKey ? 0.001 : 0.01));
    sweep.done();
  };
  const map = meterMapOf(part);
  // Where each lies in the picture: on the part's bar line, or, while one is dragged, where it is in the sound.
  const flags = of.lines.map((line, i) => ({ line, i, x: placed === of ? xOf(axis, map.barOf(of.bar + i).start) : xOfMoment(part, placed, axis, line) }));
  return apart(flags.filter(({ x }) => x >= -40 && x <= width + 10), last).map(({ line, i, x }) => {
    const isOuter = i === 0 || i === last;
    return (
      <div key={i}>
        <button
          type="button"
          data-flag={i}
          aria-label={i === 0 ? `Start of the loop at ${line.toFixed(3)} s` : i === last ? `End of the loop at ${line.toFixed(3)} s` : `Bar line ${i + 1} at ${line.toFixed(3)} s`}
          title={i === last ? 'The end of the loop: drag it' : i === 0 ? 'The first bar line: drag it' : 'A bar line of the recording: drag it where the bar begins'}
          className={`absolute top-0 h-5 cursor-ew-resize rounded-sm px-1.5 text-xs leading-5 whitespace-nowrap ${isOuter ? 'bg-ink text-ground' : 'border border-strong bg-surface text-ink'} ${i === last ? '-translate-x-full' : ''}`}
          style={{ left: x }}
          onPointerDown={(e) => onDown(e, i)}
          onPointerMove={onMove}
          onPointerUp={() => end(true)}
          onPointerCancel={() => end(false)}
          onKeyDown={(e) => onKey(e, i)}
          onDoubleClick={(e) => e.stopPropagation()}
        >
          {i === last ? 'end' : i === 0 ? 'bar 1' : i + 1}
        </button>
        <div aria-hidden="true" className="pointer-events-none absolute w-px bg-ink" style={{ left: x, top: FLAGS - 2, height: isOuter ? FOOT - FLAGS + 2 : 8 }} />
      </div>
    );
  });
}
