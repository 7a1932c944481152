'use client';

import { useWindowVirtualizer } from '@tanstack/react-virtual';
import { useCallback, useEffect, useLayoutEffect, useRef, useState } from 'react';
import type { PartRow } from '@/storage/database';
import { PartCard } from './PartCard';

const GAP = 16;
const NARROWEST_CARD = 260;
/** Edges and room around the picture, and its shape. */
const SIDES = 34;
const PICTURE = 76 / 240;
/** The lines below the picture, and the room around them. */
const LINES = 113;

/** Cards side by side, as many as fit: those in sight alone are there. */
export function PartGrid({ rows, onTags }: { rows: readonly PartRow[]; onTags: (rows: readonly PartRow[]) => void }) {
  const list = useRef<HTMLUListElement>(null);
  const [place, setPlace] = useState({ width: 0, top: 0 });
  useLayoutEffect(() => {
    const measure = () => {
      const box = list.current?.getBoundingClientRect();
      if (box)
        setPlace((was) =>
          was.width === box.width && was.top === box.top + window.scrollY ? was : { width: box.width, top: box.top + window.scrollY },
        );
    };
    measure();
    // What stands above moves it, too.
    const observer = new ResizeObserver(measure);
    observer.observe(document.body);
    if (list.current) observer.observe(list.current);
    return () => observer.disconnect();
  }, []);
  const columns = Math.max(1, Math.floor((place.width + GAP) / (NARROWEST_CARD + GAP)));
  const width = (place.width - GAP * (columns - 1)) / columns;
  const height = Math.round((width - SIDES) * PICTURE) + LINES;
  const virtual = useWindowVirtualizer({
    count: Math.ceil(rows.length / columns),
    estimateSize: () => height + GAP,
    overscan: 2,
    scrollMargin: place.top,
  });
  useEffect(() => virtual.measure(), [virtual, height]);
  // Given to each card once: what it answers is read when it is asked.
  const seen = useRef(rows);
  useEffect(() => {
    seen.current = rows;
  }, [rows]);
  const shown = useCallback(() => seen.current.map((row) => row.id), []);
  const lines = place.width === 0 ? [] : virtual.getVirtualItems();
  return (
    <ul
      ref={list}
      aria-label="Parts"
      className="relative"
      style={{ height: Math.max(0, Math.ceil(rows.length / columns) * (height + GAP) - GAP) }}
    >
      {lines.flatMap(({ index: line, start }) =>
        rows
          .slice(line * columns, (line + 1) * columns)
          .map((row, i) => (
            <PartCard
              key={row.id}
              row={row}
              nth={line * columns + i}
              of={rows.length}
              shown={shown}
              onTags={onTags}
              style={{ width, height, transform: `translate(${Math.round(i * (width + GAP))}px, ${start - place.top}px)` }}
            />
          )),
      )}
    </ul>
  );
}
