import type { HitId } from '@/core/part/part';
import type { Ticks } from '@/core/units';
import type { VoiceName } from '@/core/voices';
import type { BenchState } from '../store/bench-store';
import type { Stem } from '../geometry/stems';

/** A pointer event on the canvas, in its pixels. */
export interface Pointer {
  x: number;
  y: number;
  /** Fine movement, or adding to a selection. */
  shift: boolean;
  /** Ctrl or Cmd: toggles single hits in a selection. */
  toggle: boolean;
}

export interface Ground {
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

/** What gestures may know of the canvas, and what they may do. */
export interface Hands {
  bench(): BenchState;
  stemAt(p: Pointer): Stem | undefined;
  groundAt(p: Pointer): Ground | undefined;
  hitsIn(r: Rectangle): HitId[];
  /** Velocity that a pixel of height stands for in the row of this stem. */
  velocityPerPixel(stem: Stem): number;
  /** Milliseconds that a pixel of lean stands for. */
  msPerPixel(): number;
  audition(voice: VoiceName, velocity: number): void;
  showMarquee(r: Rectangle | null): void;
  /** Number beside the pointer. */
  showReadout(text: string | null, p?: Pointer): void;
}

/** One state of a gesture: each event leads to the next state, or to itself. */
export interface Gesture {
  readonly name: string;
  move(p: Pointer, hands: Hands): Gesture;
  up(p: Pointer, hands: Hands): Gesture;
  down?(p: Pointer, hands: Hands): Gesture;
  cancel(hands: Hands): Gesture;
}

/** The pointer must travel this far before a press becomes a drag, and this way decides its direction. */
export const DRAG_PIXELS = 4;
