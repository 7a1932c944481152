import type { Hit, HitId } from '@/core/model/part';
import type { LinePoint } from '@/core/shaping/shapes';
import type { Ticks } from '@/core/units';
import type { VoiceName } from '@/core/row-names';
import type { GroundPoint, Pointer, Rectangle } from '../geometry/pointer';
import type { BenchState } from '../../store/bench-store';
import type { Column } from '../geometry/scene';
import type { OrnamentGrip } from '../geometry/ornaments';
import type { Stem } from '../geometry/stems';

export type { GroundPoint, Pointer, Rectangle } from '../geometry/pointer';

/** What gestures may know of the canvas, and what they may do. */
export interface GestureContext {
  bench(): BenchState;
  stemAt(p: Pointer): Stem | undefined;
  /** The grip of a selected ornament. */
  gripAt(p: Pointer): OrnamentGrip | undefined;
  groundAt(p: Pointer): GroundPoint | undefined;
  hitsIn(r: Rectangle): HitId[];
  /** The row under a pointer. */
  voiceAt(p: Pointer): VoiceName | undefined;
  /** The line of the placing grid nearest to a place, within the part. */
  lineAt(voice: VoiceName, x: number): Ticks;
  /** The columns of a row as they are drawn now. */
  columnsOf(voice: VoiceName): readonly Column[];
  /** The written tick and the velocity that a place on the canvas stands for, in a row. */
  pointOf(voice: VoiceName, p: Pointer): LinePoint;
  /** Velocity that a pixel of height stands for in the row of this stem. */
  velocityPerPixel(stem: Stem): number;
  /**
   * Opens a row tall, with the height of a velocity at a pointer's y as far as rows can be scrolled.
   * @returns velocity that a pixel stands for then, and how to close the row
   */
  openTall(voice: VoiceName, velocity: number, y: number): { velocityPerPixel: number; close: () => void };
  /** The tick at a place, and the place of a tick, of what is in sight now: a drag at the edge scrolls. */
  tickAt(x: number): Ticks;
  xAt(tick: Ticks): number;
  pixelsPerTick(): number;
  /** Milliseconds that a pixel of lean stands for. */
  msPerPixel(): number;
  /** Takes the line under the pointer into the scope that is pointed out, or out of it. */
  pointAt(p: Pointer): void;
  /** Moves what is in sight along with a finger, in pixels. */
  scroll(dx: number, dy: number): void;
  audition(voice: VoiceName, velocity: number): void;
  /** Sounds a hit with its pan, pitch and brightness. */
  auditionHit(hit: Hit): void;
  showMarquee(r: Rectangle | null): void;
  /** A line that is being drawn. */
  showTrace(points: readonly { x: number; y: number }[] | null): void;
  /** Number beside the pointer. */
  showReadout(text: string | null, p?: Pointer): void;
}

/** One state of a gesture: each event leads to the next state, or to itself. */
export interface Gesture {
  readonly name: string;
  /** At the edges it scrolls on. */
  readonly scrolls?: boolean;
  move(p: Pointer, context: GestureContext): Gesture;
  up(p: Pointer, context: GestureContext): Gesture;
  down?(p: Pointer, context: GestureContext): Gesture;
  cancel(context: GestureContext): Gesture;
}

/** The pointer must travel this far before a press becomes a drag, and this way decides its direction. */
export const DRAG_PIXELS = 4;
