'use client';

import { X } from 'lucide-react';
import { useRef, useState, type PointerEvent } from 'react';
import { addNudge, addVelocity } from '@/core/commands/hits';
import type { HitId, Part } from '@/core/model/part';
import { milliseconds } from '@/core/units';
import type { Transaction } from '@/editing/document';
import { Button, IconButton } from '@/ui/Button';
import { touchOf } from '../actions/act';
import { deleteSelection } from '../actions/arrange';
import { describeHits, leanText } from '../words/describe';
import { useBench, useBenchStore } from '../store/context';
import { calmPart } from '../store/derived';
import { DRAG_PIXELS } from './gestures/types';

/** A pixel on the pad; it is coarse enough for a thumb and fine enough for a ghost. */
const VELOCITY_PER_PIXEL = 0.5;
const MS_PER_PIXEL = 0.25;

interface Drag {
  x: number;
  y: number;
  axis: 'velocity' | 'place' | null;
  ids: ReadonlySet<HitId>;
  what: string;
  /** Open once the drag has a direction. */
  edit: Transaction<Part> | null;
}

/** For fingers: a tap on the stems takes a column, a drag on this pad moves it. */
export function TouchPad() {
  const store = useBenchStore();
  const { getState } = store;
  const shown = useBench((s) => s.ui.touch && s.selection.size > 0);
  const part = useBench(calmPart);
  const selection = useBench((s) => s.selection);
  const drag = useRef<Drag | null>(null);
  const [readout, setReadout] = useState<string | null>(null);
  if (!shown) return null;

  const onDown = (e: PointerEvent) => {
    const touch = touchOf(getState().part, getState().selection);
    if (touch.ids.size === 0) return setReadout('locked');
    e.currentTarget.setPointerCapture(e.pointerId);
    drag.current = { x: e.clientX, y: e.clientY, axis: null, ids: touch.ids, what: touch.what, edit: null };
  };
  const onMove = (e: PointerEvent) => {
    const d = drag.current;
    if (!d) return;
    const dx = e.clientX - d.x;
    const dy = d.y - e.clientY;
    if (!d.axis) {
      if (Math.hypot(dx, dy) < DRAG_PIXELS) return;
      d.axis = Math.abs(dy) >= Math.abs(dx) ? 'velocity' : 'place';
      d.edit = getState().open(`${d.axis === 'velocity' ? 'Change the velocity of' : 'Nudge'} ${d.what}`, 'drag');
    }
    const by = d.axis === 'velocity' ? dy * VELOCITY_PER_PIXEL : dx * MS_PER_PIXEL;
    const command =
      d.axis === 'velocity' ? (p: Part) => addVelocity(p, d.ids, Math.round(by)) : (p: Part) => addNudge(p, d.ids, milliseconds(by));
    d.edit?.preview(command);
    setReadout(d.axis === 'velocity' ? `${by < 0 ? 'softer' : 'louder'} by ${Math.abs(Math.round(by))}` : leanText(by));
  };
  const onUp = () => {
    drag.current?.edit?.commit();
    drag.current = null;
    setReadout(null);
  };
  const onCancel = () => {
    drag.current?.edit?.cancel();
    drag.current = null;
    setReadout(null);
  };
  return (
    <div
      className="absolute right-4 bottom-4 z-20 w-64 rounded-lg border border-strong bg-surface shadow-lg"
      role="group"
      aria-label="Pad for the selection"
      data-testid="touch-pad"
    >
      <div className="flex items-center gap-2 px-3 py-1">
        <span className="min-w-0 flex-1 truncate">{describeHits(part, selection)}</span>
        <Button onClick={() => deleteSelection(store)}>Delete</Button>
        <IconButton label="Close the pad" onClick={() => getState().select([])}>
          <X size={16} />
        </IconButton>
      </div>
      <div
        className="flex h-44 touch-none items-center justify-center border-t border-line text-center text-faint"
        data-testid="touch-area"
        onPointerDown={onDown}
        onPointerMove={onMove}
        onPointerUp={onUp}
        onPointerCancel={onCancel}
      >
        {readout ?? (
          <span>
            up and down: velocity
            <br />
            sideways: early or late
          </span>
        )}
      </div>
    </div>
  );
}
