import type { Ornament } from '@/core/model/ornament';
import type { GridName } from '@/core/time/grid';

/** What a drag makes of an ornament: what changes, and how that is said. */
export interface Dragged<O> {
  change: Partial<O>;
  text: string;
}

/** How far a grip was dragged, in pixels; Shift makes it a tenth. */
export interface HandleDrag {
  x: number;
  up: number;
  fine: boolean;
}

/** What a drag can go by. */
export interface Around {
  /** Length of the hit's roll in ticks, whether it has one or not. */
  rollLength: number;
  pixelsPerTick: number;
  grid: GridName;
}

/**
 * Where a kind of ornament stands on the stems: strokes that go on from the hit with a bracket over the heads (`over`), grace strokes
 * before it that share its foot (`before`), strokes that reach over other hits with a flat bracket under the ground (`under`).
 */
export type Drawn = 'over' | 'before' | 'under';

/** How a kind of ornament is drawn and dragged on the stems. The list of them all is all.ts. */
export interface OrnamentHandles<O extends { kind: string } = Ornament> {
  kind: O['kind'];
  drawn: Drawn;
  /** Strokes drawn before the hit lie at least so many pixels apart: nearer than single pixels of time show. */
  apart?(ornament: O): number;
  /** The bracket, dragged up or down. */
  bracket(ornament: O, pull: HandleDrag, around: Around): Dragged<O>;
  /** Its end, dragged sideways, and up or down. */
  along(ornament: O, pull: HandleDrag, around: Around): Dragged<O>;
  slope(ornament: O, pull: HandleDrag): Dragged<O>;
}

/** So many pixels up are one stroke more. */
export const PIXELS_A_STROKE = 10;
export const percent = (share: number): string => `${Math.round(share * 100)} %`;
