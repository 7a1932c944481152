import type { Ticks } from '@/core/units';
import type { VoiceName } from '@/core/row-names';

/** A pointer event on the canvas, in its pixels. */
export interface Pointer {
  x: number;
  y: number;
  /** Fine movement, or adding to a selection. */
  shift: boolean;
  /** Ctrl or Cmd: toggles single hits in a selection. */
  toggle: boolean;
  /** Alt: a click removes, a dragged foot leaves a copy behind. */
  alt: boolean;
  /** A finger, not a mouse or pen. */
  touch?: boolean;
}

export interface GroundPoint {
  voice: VoiceName;
  /** The line of the placing grid that is nearest. */
  tick: Ticks;
}

export interface Rectangle {
  left: number;
  top: number;
  right: number;
  bottom: number;
}
