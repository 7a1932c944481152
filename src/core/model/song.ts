import type { GridName } from '../time/grid';
import type { VoiceName } from '../row-names';

/** When what sounds is left for another section that was called: anywhere, at the next bar, or at the end of the section. */
export const LEAVINGS = ['anywhere', 'bar', 'end'] as const;
export type Leaving = (typeof LEAVINGS)[number];

/** A named span of whole bars. */
export interface Section {
  id: string;
  name: string;
  /** Its first bar, counted from 1. */
  from: number;
  bars: number;
  /** How it may be left; at a bar line without it. */
  leave?: Leaving;
}

/** A line of the running order. */
export interface OrderEntry {
  section: string;
  /** How often, 1 to 64; once without it. */
  times?: number;
  /** Rows that rest. */
  rests?: readonly VoiceName[];
  /** Percent of the performed velocity, 50 to 150. */
  level?: number;
  /** Percent of the feel's sway, 0 to 100. */
  sway?: number;
}

export const ENTRY = {
  times: { min: 1, max: 64, rest: 1 },
  level: { min: 50, max: 150, rest: 100 },
  sway: { min: 0, max: 100, rest: 100 },
} as const;

/** In which passes a hit sounds: `{ every: 4, at: [2] }` is the second of every four. */
export interface Passes {
  /** 2 to 64. */
  every: number;
  /** From 1 to `every`, rising. */
  at: readonly number[];
}

export const MOST_PASSES = 64;

/** Row with its own loop length every so many steps of a grid. */
export interface Cycle {
  grid: GridName;
  /** 1 to 256. */
  steps: number;
}

export const MOST_CYCLE_STEPS = 256;
export const MOST_SECTIONS = 512;
export const MOST_ENTRIES_OF_ORDER = 1024;

/** What several passes are like: each the same as the first, or drawn anew. */
export const EVERY_PASS = ['same', 'anew'] as const;
export type EveryPass = (typeof EVERY_PASS)[number];
