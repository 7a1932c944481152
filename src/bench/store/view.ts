import type { ProgramVersion } from '@/core/playback/player';
import type { GridName } from '@/core/time/grid';
import type { Ticks } from '@/core/units';

/** The lens: this many ms of lean displace a head by as much as it ever is. */
export const REACHES = [10, 15, 20, 30, 40] as const;
export type LensReach = (typeof REACHES)[number];

/** What part of the music is in sight and how large: an undo brings it back. */
export interface Sight {
  /** Tick at the left edge. */
  scroll: Ticks;
  pixelsPerQuarter: number;
  /** Rows moved up by this many pixels. */
  scrollRows: number;
}

/** How the part is looked at. */
export interface View extends Sight {
  reach: LensReach;
  /** The grid that new hits are placed on; it moves nothing. */
  grid: GridName;
  /** Rows without hits are left out. */
  hideEmpty: boolean;
  /** Lines and feet stand where the part swings by itself, and leans on the stems are measured from there. */
  swungGrid: boolean;
}

export const sightOf = ({ scroll, pixelsPerQuarter, scrollRows }: View): Sight => ({ scroll, pixelsPerQuarter, scrollRows });

export interface Transport {
  loop: boolean;
  /** Bars, 0-based, without `toBar`. */
  fromBar: number;
  toBar: number;
  /** The running order is played instead of bars. */
  order: boolean;
  /** Where playing starts without a loop. */
  cursor: Ticks;
  version: ProgramVersion;
}
