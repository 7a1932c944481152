import type { CSSProperties, HTMLAttributes, ReactNode } from 'react';

export interface SortableProps {
  voices: readonly string[];
  /** A row was dropped on the place of another. */
  onMove: (voice: string, onto: string) => void;
  render: (voice: string, drag: RowDrag) => ReactNode;
}

/** What makes a row's name draggable; empty until dragging is loaded. */
export interface RowDrag {
  frame?: (element: HTMLElement | null) => void;
  handle?: HTMLAttributes<HTMLElement>;
  style?: CSSProperties;
  dragging?: boolean;
}
