import type { GridName } from '../time/grid';
import type { Ticks } from '../units';
import type { VoiceName } from '../row-names';

/** Several strokes from a hit on, within a length of their own. */
export interface Roll {
  kind: 'roll';
  /** A stroke on each line of a grid counted from the hit, or a number of strokes, 2 to 64, over the length. */
  strokes: GridName | number;
  /** In ticks; without one up to the voice's next hit, at most a beat. */
  length?: Ticks;
  /** -1 slowing, 0 even, 1 accelerating: strokes stand at x + 0.8 speed x (1 - x) of the length, x = k / n. */
  speed: number;
  /** Velocity of the last stroke over that of the first, 0.05 to 4. */
  to: number;
  /** How the ramp gets there: at x^(4^bend) of the way; -1 early, 0 evenly, 1 late. */
  bend: number;
  /** Its strokes go where the swing moves put their lines (without it); false: they keep their distances. */
  followsSwing?: boolean;
}

/** One to three grace strokes before a hit: flam, drag, ruff. They keep their ms before it, wherever it is performed. */
export interface Flam {
  kind: 'flam';
  /** 1 flam, 2 drag, 3 ruff. */
  strokes: number;
  /** Between neighbouring strokes, 5 to 80 ms. */
  spacingMs: number;
  /** Mean velocity of the grace strokes over the hit's, 0.05 to 2. */
  level: number;
  /** -1 to 1: the last grace stroke is louder than the first by this part of their mean. */
  slope: number;
}

/** Repeats behind a hit at a musical distance, each softer than the one before. */
export interface Echo {
  kind: 'echo';
  /** The distance is so many steps of the grid: 3 of 1/16 are a dotted eighth. 1 to 16. */
  steps: number;
  grid: GridName;
  /** 1 to 16. */
  repeats: number;
  /** Velocity of each repeat over the one before, 0.05 to 1. */
  decay: number;
  /** Which voice repeats; the hit's own without one. */
  voice?: VoiceName;
  /** As of a roll. */
  followsSwing?: boolean;
}

/** Carried by one hit; expanded around its performed place. */
export type Ornament = Roll | Flam | Echo;
export type OrnamentKind = Ornament['kind'];

export const MOST_STROKES = 64;
export const MOST_GRACES = 3;
export const MOST_REPEATS = 16;

/** Lowest and highest values of the members that are numbers. */
export const ORNAMENT_LIMITS = {
  strokes: [2, MOST_STROKES],
  speed: [-1, 1],
  to: [0.05, 4],
  bend: [-1, 1],
  graces: [1, MOST_GRACES],
  spacingMs: [5, 80],
  level: [0.05, 2],
  slope: [-1, 1],
  steps: [1, 16],
  repeats: [1, MOST_REPEATS],
  decay: [0.05, 1],
} as const satisfies Record<string, readonly [number, number]>;
