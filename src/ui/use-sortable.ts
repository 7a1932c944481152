'use client';

import { useEffect, useRef, useState, type ComponentType } from 'react';
import type { SortableProps } from './sortable';

type Sortable = ComponentType<SortableProps>;

/**
 * Loads dragging when a pointer first comes near. The items are made anew with it, so it waits for a press to end: otherwise the
 * click that is under way would be lost.
 */
export function useSortable(): [Sortable | null, () => void] {
  const [loaded, setLoaded] = useState<Sortable | null>(null);
  const asked = useRef(false);
  const pressed = useRef(false);
  const waiting = useRef<(() => void) | null>(null);
  useEffect(() => {
    const down = () => {
      pressed.current = true;
    };
    const up = () => {
      // The click comes right after the release, before the next frame.
      requestAnimationFrame(() => {
        pressed.current = false;
        waiting.current?.();
        waiting.current = null;
      });
    };
    window.addEventListener('pointerdown', down, true);
    window.addEventListener('pointerup', up, true);
    window.addEventListener('pointercancel', up, true);
    return () => {
      window.removeEventListener('pointerdown', down, true);
      window.removeEventListener('pointerup', up, true);
      window.removeEventListener('pointercancel', up, true);
    };
  }, []);
  const onNear = () => {
    if (asked.current) return;
    asked.current = true;
    void import('./SortableList').then((m) => {
      const use = () => setLoaded(() => m.default);
      if (pressed.current) waiting.current = use;
      else use();
    });
  };
  return [loaded, onNear];
}
