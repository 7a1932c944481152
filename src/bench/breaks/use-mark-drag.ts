import { useRef, type PointerEvent } from 'react';
import type { Part } from '@/core/model/part';
import { momentAtX, snapped, xOfMoment, type Placed } from './geometry';
import type { Axis } from '../stems/geometry/axis';

/** What the picture stands by; held as it was when a drag began, so that what is dragged does not move its own ground. */
export interface MarkDragBase {
  part: Part;
  placed: Placed;
  axis: Axis;
}

interface Options<K> {
  ground: MarkDragBase;
  /** Places in seconds that a drag is taken to, unless Shift is held. */
  places: () => readonly number[];
  /** Pixels that the pointer goes before it counts as a drag. */
  least?: number;
  onMove(mark: K, at: number, held: MarkDragBase): void;
  /** At its end: whether it was dragged, and whether that is to stay. */
  onEnd(mark: K, end: { moved: boolean; kept: boolean }): void;
}

/** A mark in the sound of a break that is dragged sideways. */
export function useMarkDrag<K>({ ground, places, least = 1, onMove, onEnd }: Options<K>) {
  const drag = useRef<{ mark: K; x: number; from: number; moved: boolean; held: MarkDragBase } | null>(null);
  const end = (kept: boolean): boolean => {
    const d = drag.current;
    drag.current = null;
    if (d) onEnd(d.mark, { moved: d.moved, kept });
    return d !== null;
  };
  return {
    start(e: PointerEvent<HTMLElement>, mark: K, from: number): boolean {
      if (e.button !== 0) return false;
      e.currentTarget.setPointerCapture(e.pointerId);
      drag.current = { mark, x: e.clientX, from, moved: false, held: ground };
      return true;
    },
    /** Whether there was a drag to give up. */
    cancel: () => end(false),
    handlers: {
      onPointerMove(e: PointerEvent<HTMLElement>) {
        const d = drag.current;
        if (!d || (!d.moved && Math.abs(e.clientX - d.x) < least)) return;
        d.moved = true;
        const { part, placed, axis } = d.held;
        const home = xOfMoment(part, placed, axis, d.from);
        const perSecond = Math.abs(xOfMoment(part, placed, axis, d.from + 1) - home);
        onMove(d.mark, snapped(momentAtX(part, placed, axis, home + e.clientX - d.x), places(), perSecond, e.shiftKey), d.held);
      },
      onPointerUp: () => void end(true),
      onPointerCancel: () => void end(false),
    },
  };
}
