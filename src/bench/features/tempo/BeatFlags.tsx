'use client';

import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { moveBeat } from '@/core/free-takes/player-tempo';
import { meterMapOf, tempoMapOf } from '@/core/part/part-time';
import { axisOf, tickOf, xOf } from '../../stems/geometry/axis';
import { useBench, useBenchStore } from '../../store/context';

const HEIGHT = 22;
/** Flags nearer to each other than this are not all shown: those that begin bars come first. */
const CLOSEST = 26;
/** A flag snaps to a hit within this distance, in pixels. */
const SNAP = 7;
const LEAST = 2;

/** The flags that fit without overlapping. */
function apart<F extends { x: number }>(flags: readonly F[]): F[] {
  const kept: F[] = [];
  for (const flag of flags) if (flag.x - (kept.at(-1)?.x ?? -Infinity) >= CLOSEST) kept.push(flag);
  return kept;
}

/** Beat flags above the hits. Drag one, or move it with the arrow keys: the grid changes and the hits keep their timing. */
export default function BeatFlags() {
  const { getState } = useBenchStore();
  const part = useBench((s) => s.part);
  const view = useBench((s) => s.view);
  const axis = useMemo(() => axisOf(view), [view]);
  const row = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  useEffect(() => {
    const element = row.current;
    if (!element) return;
    const observer = new ResizeObserver(() => setWidth(element.clientWidth));
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  const [drag, setDrag] = useState<{ index: number; x: number; by: number } | null>(null);
  const map = meterMapOf(part);
  const beats = useMemo(
    () =>
      part.tempo.flatMap(({ tick }, index) => {
        if (tick < part.origin) return [];
        const bar = map.barAt(tick);
        const beat = map.beatAt(bar, tick);
        return [{ index, tick, bar: bar.index + 1, beat: beat.index + 1 }];
      }),
    [part.tempo, part.origin, map],
  );
  const inSight = beats.map((b) => ({ ...b, x: xOf(axis, b.tick) })).filter(({ x }) => x > -CLOSEST && x < width);
  const isClose = inSight.some(({ x }, i) => i > 0 && x - (inSight[i - 1] as { x: number }).x < CLOSEST);
  const shown = apart(isClose ? inSight.filter(({ beat }) => beat === 1) : inSight);

  const momentAt = (x: number) => tempoMapOf(part).toSeconds(tickOf(axis, x));
  const move = (index: number, to: number) => getState().run('Move a beat', (p) => moveBeat(p, index, to));
  /** Snaps to the nearest hit. @returns pixels */
  const snapped = (x: number): number => {
    const tick = tickOf(axis, x);
    let best = x;
    let least = SNAP;
    for (const hit of part.hits) {
      if (Math.abs(hit.tick - tick) * axis.pixelsPerTick > SNAP) continue;
      const at = xOf(axis, hit.tick);
      if (Math.abs(at - x) < least) [best, least] = [at, Math.abs(at - x)];
    }
    return best;
  };
  const onDown = (e: PointerEvent<HTMLElement>, index: number) => {
    if (e.button !== 0) return;
    e.currentTarget.setPointerCapture(e.pointerId);
    setDrag({ index, x: e.clientX, by: 0 });
  };
  const onMove = (e: PointerEvent) => setDrag((d) => d && { ...d, by: e.clientX - d.x });
  const onUp = (e: PointerEvent) => {
    const d = drag;
    setDrag(null);
    const flag = d && beats.find((b) => b.index === d.index);
    if (!d || !flag || Math.abs(d.by) < LEAST) return;
    const x = xOf(axis, flag.tick) + d.by;
    move(d.index, momentAt(e.shiftKey ? x : snapped(x)));
  };
  const onKey = (e: KeyboardEvent, index: number, tick: (typeof beats)[number]['tick']) => {
    if (e.key === 'Escape' && drag) {
      e.stopPropagation();
      return setDrag(null);
    }
    const by = e.key === 'ArrowLeft' ? -1 : e.key === 'ArrowRight' ? 1 : 0;
    if (by === 0) return;
    e.preventDefault();
    e.stopPropagation();
    move(index, tempoMapOf(part).toSeconds(tick) + by * (e.shiftKey ? 0.001 : 0.01));
  };
  return (
    <section aria-label="Beats" className="flex border-b border-line" style={{ height: HEIGHT }} data-testid="beat-flags">
      <span className="w-[184px] shrink-0 pl-3 text-sm leading-[22px] text-faint">Beats</span>
      <div ref={row} className="relative min-w-0 flex-1 overflow-hidden">
        {shown.map(({ index, tick, bar, beat, x }) => {
          const by = drag?.index === index ? drag.by : 0;
          return (
            <button
              key={index}
              type="button"
              aria-label={`Beat ${beat} of bar ${bar}`}
              // The first flag is at time zero and cannot move.
              disabled={index === 0}
              title={index === 0 ? undefined : 'Drag it to where the beat sounds'}
              className={`absolute top-0.5 h-[18px] -translate-x-px cursor-ew-resize touch-none rounded-sm border-l-2 pr-1 pl-1 text-xs leading-[18px] ${beat === 1 ? 'border-ink bg-sunk font-semibold' : 'border-strong text-faint hover:bg-sunk'}`}
              style={{ left: x + by }}
              onPointerDown={(e) => onDown(e, index)}
              onPointerMove={onMove}
              onPointerUp={onUp}
              onPointerCancel={() => setDrag(null)}
              onKeyDown={(e) => onKey(e, index, tick)}
            >
              {beat === 1 ? bar : String(beat)}
            </button>
          );
        })}
      </div>
    </section>
  );
}
