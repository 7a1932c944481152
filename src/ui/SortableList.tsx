'use client';

import { closestCenter, DndContext, PointerSensor, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core';
import { SortableContext, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import type { SortableProps } from './sortable';

/** Items that can be dragged up and down; loaded when a pointer first comes near them. */
export default function SortableList({ ids, onMove, render }: SortableProps) {
  // A press is a click until it has moved: pressing an item must not move it.
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 8 } }));
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (over && over.id !== active.id) onMove(String(active.id), String(over.id));
  };
  return (
    <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
      <SortableContext items={[...ids]} strategy={verticalListSortingStrategy}>
        {ids.map((id) => (
          <Item key={id} id={id} render={render} />
        ))}
      </SortableContext>
    </DndContext>
  );
}

function Item({ id, render }: { id: string; render: SortableProps['render'] }) {
  const { setNodeRef, listeners, transform, transition, isDragging } = useSortable({ id });
  return render(id, {
    frame: setNodeRef,
    handle: listeners ?? {},
    style: { transform: CSS.Translate.toString(transform), transition },
    dragging: isDragging,
  });
}
