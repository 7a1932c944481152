'use client';

import { useRef, type KeyboardEvent } from 'react';
import { useStore } from 'zustand';
import { markStroke } from '@/core/breaks/edit';
import { heardIn, type BreakStroke } from '@/core/breaks/strokes';
import type { Break } from '@/core/model/break';
import type { Part } from '@/core/model/part';
import { rowOfKind } from '@/core/breaks/rows';
import type { MenuPlace } from '@/ui/menu-place';
import type { Playback } from '../playback/use-playback';
import { useBenchStore } from '../store/context';
import { useSweep } from '../store/use-sweep';
import type { Axis } from '../stems/geometry/axis';
import { onsetDetectorState } from './onset-detector';
import { FOOT, heightOf, kindWords, toMicrosecond, xOfMoment, type Placed } from './geometry';
import { useMarkDrag } from './use-mark-drag';

interface Props {
  of: Break;
  part: Part;
  placed: Placed;
  strokes: readonly BreakStroke[];
  axis: Axis;
  width: number;
  playback: Playback;
  onMenu: (stroke: string, at: MenuPlace) => void;
}

/** More in sight are drawn, but not taken hold of one by one. */
const MOST_HANDLES = 400;
const MOVED = 3;

/** Hears the piece of a stroke, as it was recorded. */
export function hearStroke(playback: Playback, of: Break, stroke: string): void {
  const n = of.pieces.findIndex((p) => p.id === stroke);
  const piece = of.pieces[n];
  if (piece) playback.auditionPiece(rowOfKind(of.id, piece.kind), n, piece.velocity);
}

/** What of the strokes is taken hold of: heads that are dragged, named and removed. */
export function StrokeMarks({ of, part, placed, strokes, axis, width, playback, onMenu }: Props) {
  const store = useBenchStore();
  const sweep = useSweep();
  const { chosen, marked } = useStore(onsetDetectorState);
  const inSight = strokes
    .map((stroke) => ({ stroke, x: xOfMoment(part, placed, axis, stroke.at) }))
    .filter(({ x }) => x > -8 && x < width + 8);
  const attacks = heardIn(part, of.id).at;
  const choose = (id: string, adds = false) => {
    const { marked } = onsetDetectorState.getState();
    if (adds) onsetDetectorState.setState({ chosen: id, marked: marked.includes(id) ? marked.filter((m) => m !== id) : [...marked, id] });
    else onsetDetectorState.setState({ chosen: id, marked: marked.includes(id) ? marked : [] });
  };
  const move = (id: string, at: number) =>
    sweep.show('Move a hit', (p) => markStroke(p, of.id, id, { at: toMicrosecond(Math.max(0, at)) }));
  const remove = (id: string) => store.getState().run('Remove a hit', (p) => markStroke(p, of.id, id, { gone: true }));

  const adds = useRef(false);
  const drag = useMarkDrag<string>({
    ground: { part, placed, axis },
    places: () => attacks,
    least: MOVED,
    onMove: move,
    onEnd: (id, { moved, kept }) => {
      if (!kept) sweep.cancel();
      else if (moved) sweep.done();
      // Shift-click marks a hit, or unmarks it.
      else if (adds.current) choose(id, true);
      else hearStroke(playback, of, id);
    },
  });
  if (inSight.length > MOST_HANDLES) return null;

  const onKey = (e: KeyboardEvent<HTMLButtonElement>, stroke: BreakStroke, index: number) => {
    const by = e.key === 'ArrowLeft' ? -1 : e.key === 'ArrowRight' ? 1 : 0;
    if (e.key === 'Escape') {
      if (!drag.cancel()) return;
    } else if (by !== 0 && e.altKey) {
      move(stroke.id, stroke.at + by * (e.shiftKey ? 0.0001 : 0.001));
      sweep.done();
    } else if (by !== 0) {
      const next = inSight[index + by];
      if (next) {
        choose(next.stroke.id);
        e.currentTarget.parentElement?.querySelector<HTMLElement>(`[data-stroke="${next.stroke.id}"]`)?.focus();
      }
    } else if (e.key === 'Delete' || e.key === 'Backspace') remove(stroke.id);
    else if (e.key === ' ') choose(stroke.id, true);
    else if (e.key === 'Enter') {
      const { left, bottom } = e.currentTarget.getBoundingClientRect();
      onMenu(stroke.id, { x: left, y: bottom });
    } else return;
    e.preventDefault();
    e.stopPropagation();
  };
  // One of them is in the order of Tab: the chosen one, or the first.
  const tabbed = inSight.find(({ stroke }) => stroke.id === chosen) ?? inSight[0];
  return (
    <div role="group" aria-label={`Hits of ${of.name}`}>
      {inSight.map(({ stroke, x }, i) => (
        <button
          key={stroke.id}
          type="button"
          data-stroke={stroke.id}
          tabIndex={stroke === tabbed?.stroke ? 0 : -1}
          aria-label={`Hit at ${stroke.at.toFixed(3)} s, ${kindWords(stroke)}${stroke.belowThreshold ? ', below the threshold' : ''}${marked.includes(stroke.id) ? ', marked' : ''}`}
          className="absolute size-[15px] cursor-ew-resize rounded-full"
          style={{ left: x - 7.5, top: FOOT - heightOf(stroke.over) - 7.5 }}
          {...drag.handlers}
          onPointerDown={(e) => {
            adds.current = e.shiftKey;
            if (drag.start(e, stroke.id, stroke.at) && !e.shiftKey) choose(stroke.id);
          }}
          onFocus={() => onsetDetectorState.setState({ chosen: stroke.id })}
          onKeyDown={(e) => onKey(e, stroke, i)}
          onDoubleClick={(e) => e.stopPropagation()}
          onContextMenu={(e) => {
            e.preventDefault();
            e.stopPropagation();
            if (!onsetDetectorState.getState().marked.includes(stroke.id)) choose(stroke.id);
            onMenu(stroke.id, { x: e.clientX, y: e.clientY });
          }}
        />
      ))}
    </div>
  );
}
