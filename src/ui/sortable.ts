import type { CSSProperties, HTMLAttributes, ReactNode } from 'react';

export interface SortableProps {
  ids: readonly string[];
  /** An item was dropped on the place of another. */
  onMove: (id: string, onto: string) => void;
  render: (id: string, drag: ItemDrag) => ReactNode;
}

/** What makes an item draggable; empty until dragging is loaded. */
export interface ItemDrag {
  frame?: (element: HTMLElement | null) => void;
  handle?: HTMLAttributes<HTMLElement>;
  style?: CSSProperties;
  dragging?: boolean;
}
