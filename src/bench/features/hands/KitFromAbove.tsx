'use client';

import { DndContext, PointerSensor, useDraggable, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core';
import { CSS } from '@dnd-kit/utilities';
import type { KeyboardEvent } from 'react';
import { useStore } from 'zustand';
import { breakRowTest } from '@/core/breaks/rows';
import { isByHand, REACH, spotOf, SPOTS, strikerOf, type DrumPosition, type Spot } from '@/core/hands/kit';
import { Button } from '@/ui/Button';
import { handSettings, withPlace } from '../../store/hand-settings';
import { useBench } from '../../store/context';

const WIDTH = 300;
/** Pixels of an arm's length. */
const SCALE = WIDTH / (2 * REACH.side + 0.3);
/** The stool stands this far behind the nearest drum. */
const STOOL = 0.2;
const HEIGHT = (REACH.far - REACH.near + STOOL + 0.15) * SCALE;
/** Arrow keys go so far, in arm's lengths; with Shift four times. */
const STEP = 0.05;
const ARROWS: Readonly<Record<string, DrumPosition>> = {
  ArrowLeft: { x: -1, y: 0 },
  ArrowRight: { x: 1, y: 0 },
  ArrowUp: { x: 0, y: 1 },
  ArrowDown: { x: 0, y: -1 },
};

/** The part's drums as seen from above the stool: where they stand decides how far a hand has to go. */
export default function KitFromAbove() {
  const part = useBench((s) => s.part);
  const { lead, kit } = useStore(handSettings);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 3 } }));
  const recorded = breakRowTest(part);
  const used = new Set(part.rows.filter((r) => !recorded(r.voice) && isByHand(strikerOf(r.voice, kit))).map((r) => spotOf(r.voice).name));
  const shown = SPOTS.filter((s) => used.has(s.name));
  // A left-handed kit is the mirror.
  const side = lead === 'right' ? 1 : -1;
  const moveBy = (spot: Spot, by: DrumPosition) => {
    const { x, y } = kit.places?.[spot.name] ?? spot;
    handSettings.setState({ kit: withPlace(kit, spot.name, { x: x + side * by.x, y: y + by.y }) });
  };
  const onDragEnd = ({ active, delta }: DragEndEvent) => {
    const spot = SPOTS.find((s) => s.name === active.id);
    if (spot) moveBy(spot, { x: delta.x / SCALE, y: -delta.y / SCALE });
  };
  const isOwn = Object.keys(kit.places ?? {}).length > 0;
  return (
    <div>
      <DndContext sensors={sensors} onDragEnd={onDragEnd}>
        <div
          role="group"
          aria-label="The kit from above"
          className="relative touch-none overflow-hidden rounded-md border border-line bg-sunk"
          style={{ width: WIDTH, height: HEIGHT }}
        >
          {shown.map((spot) => {
            const { x, y } = kit.places?.[spot.name] ?? spot;
            return <Drum key={spot.name} spot={spot} at={{ x: side * x, y }} onMove={(by) => moveBy(spot, by)} />;
          })}
          <span className="absolute -translate-x-1/2 text-sm text-faint" style={{ left: WIDTH / 2, bottom: 2 }}>
            the stool
          </span>
        </div>
      </DndContext>
      <p className="mt-1 flex items-start justify-between gap-2 text-sm text-faint">
        Drag drums or move them with the arrow keys. Drums further apart take longer to reach.
        {isOwn && (
          <Button size="tiny" onClick={() => handSettings.setState({ kit: { ...kit, places: {} } })}>
            Reset
          </Button>
        )}
      </p>
    </div>
  );
}

function Drum({ spot, at, onMove }: { spot: Spot; at: DrumPosition; onMove: (by: DrumPosition) => void }) {
  const { setNodeRef, listeners, transform } = useDraggable({ id: spot.name });
  const onKey = (e: KeyboardEvent) => {
    const way = ARROWS[e.key];
    if (!way) return;
    e.preventDefault();
    e.stopPropagation();
    const step = STEP * (e.shiftKey ? 4 : 1);
    onMove({ x: way.x * step, y: way.y * step });
  };
  const places = `${Math.abs(at.x).toFixed(2)} ${at.x < 0 ? 'left' : 'right'}, ${at.y.toFixed(2)} away`;
  return (
    <span
      className="absolute -translate-x-1/2 -translate-y-1/2"
      style={{ left: WIDTH / 2 + at.x * SCALE, top: (REACH.far - at.y + 0.15) * SCALE }}
    >
      <button
        ref={setNodeRef}
        {...listeners}
        type="button"
        aria-label={`${spot.label}: ${places}, in arm's lengths; arrow keys move it`}
        onKeyDown={onKey}
        className="cursor-grab rounded-full border border-strong bg-surface px-2 text-sm leading-6 hover:border-accent"
        style={{ transform: CSS.Translate.toString(transform) }}
      >
        {spot.label}
      </button>
    </span>
  );
}
