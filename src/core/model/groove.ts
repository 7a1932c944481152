import type { VoiceName } from '../row-names';

/** One step of a groove template. */
export interface GrooveStep {
  /** In steps: 0.12 is 12 % of a step late. -0.5 to 0.5. */
  offset: number;
  /** Factor of the velocity, 0 to 2. */
  level: number;
  /** Hits that it was learnt from; 0: taken from its neighbours. */
  n: number;
  /** Scatter of those hits in ms. */
  spreadMs?: number;
}

/** A groove template (groove@1): timing offsets and levels a step, over one or more beats. */
export interface Groove {
  format: 'nod-sway/groove@1';
  name: string;
  meter: readonly [number, number];
  /** Length in quarter notes; 3.5 for a bar of 7/8. */
  beats: number;
  stepsPerBeat: number;
  steps: readonly GrooveStep[];
  /** Steps of their own for some voices. */
  voices?: Readonly<Record<VoiceName, readonly GrooveStep[]>>;
  /** How much of the deviation it explains, 0 to 1; null where there was none. */
  fit?: number | null;
}

/** Most that a step may be early or late, in steps. */
export const MOST_OFFSET = 0.5;
/** Most that a step's level may be. */
export const MOST_LEVEL = 2;
/** Longest groove, in quarter notes. */
export const MOST_BEATS = 64;
export const MOST_STEPS_A_BEAT = 24;
