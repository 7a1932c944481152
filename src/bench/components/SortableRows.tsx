'use client';

import { closestCenter, DndContext, PointerSensor, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core';
import { SortableContext, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import type { SortableProps } from './row-drag';

/** Row names that can be dragged up and down; loaded when a pointer first comes near them. */
export default function SortableRows({ voices, onMove, render }: SortableProps) {
  // A press is a click until it has moved: hearing a row must not move it.
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 8 } }));
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (over && over.id !== active.id) onMove(String(active.id), String(over.id));
  };
  return (
    <DndContext id="rows" sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
      <SortableContext items={[...voices]} strategy={verticalListSortingStrategy}>
        {voices.map((voice) => (
          <SortableRow key={voice} voice={voice} render={render} />
        ))}
      </SortableContext>
    </DndContext>
  );
}

function SortableRow({ voice, render }: { voice: string; render: SortableProps['render'] }) {
  const { setNodeRef, listeners, transform, transition, isDragging } = useSortable({ id: voice });
  return render(voice, { frame: setNodeRef, handle: listeners ?? {}, style: { transform: CSS.Translate.toString(transform), transition }, dragging: isDragging });
}
