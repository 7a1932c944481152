import type { CellHit } from '@/core/cells/cells';
import { linesOf } from '@/core/commands/place';
import type { Part } from '@/core/model/part';
import { meterMapOf } from '@/core/part/part-time';
import { stepOf, type GridName } from '@/core/time/grid';
import { ticks, type Ticks } from '@/core/units';
import type { VoiceName } from '@/core/row-names';

/**
 * What the pointer does on the stems: select (and take, drag), or paint: hits, nothing (which erases), velocities along a straight line or
 * freely.
 */
export const TOOLS = ['select', 'hits', 'nothing', 'line', 'free'] as const;
export type Tool = (typeof TOOLS)[number];

/** What is painted: a velocity, or an accent row of several, on every `stride`-th line of the grid. */
export interface Paint {
  /** 1 to 16 levels; they follow the lines of a bar. */
  levels: readonly number[];
  /** 1 to 16. */
  stride: number;
  /** What is painted is flagged as ghosts. */
  ghosts: boolean;
  /** The levels of the other kind, ghosts or plain hits: each keeps its own. */
  other?: readonly number[];
}

/** Of hits that are placed plainly. */
export const PLAIN_VELOCITY = 96;

export const DEFAULT_PAINT: Paint = { levels: [96], stride: 1, ghosts: false };
/** Of new ghosts. */
export const GHOST_VELOCITY = 30;

/** Painting ghosts, or plain hits again, each at the velocity that it had last. */
export const paintGhosts = (paint: Paint, ghosts: boolean): Paint =>
  paint.ghosts === ghosts
    ? paint
    : { ...paint, ghosts, levels: paint.other ?? [ghosts ? GHOST_VELOCITY : PLAIN_VELOCITY], other: paint.levels };

export const MOST_STRIDE = 16;
export const MOST_LEVELS = 16;

/** Where keys work: a line of the grid in a row. */
export interface StepCursor {
  voice: VoiceName;
  tick: Ticks;
}

/** Hits that something suggests: drawn pale until they are taken or left. */
export interface Proposal {
  /** Who suggests them, and follows what is chosen meanwhile. */
  owner: 'cell' | 'ghosts';
  label: string;
  hits: readonly CellHit[];
  /** Which one is looked at, where they are taken one by one. */
  at: number;
}

/** What one press of a nudge key moves by; a tick is 1/960 of a quarter, a step the placing grid's. */
export const NUDGE_UNITS = ['1 ms', '5 ms', '10 ms', '1 tick', '1/16 step', '1/8 step'] as const;
export type NudgeUnit = (typeof NUDGE_UNITS)[number];

/** Which step of its bar a line is. */
export function stepIndexOf(part: Pick<Part, 'meter' | 'origin'>, grid: GridName, tick: Ticks): number {
  const bar = meterMapOf(part).barAt(tick);
  return Math.round((tick - bar.start) / stepOf(grid));
}

/** The velocity that is painted on a line: levels follow the strokes of a bar, so that bars are accented alike. */
export function paintVelocity(part: Pick<Part, 'meter' | 'origin'>, paint: Paint, grid: GridName, tick: Ticks): number {
  return paint.levels[Math.floor(stepIndexOf(part, grid, tick) / paint.stride) % paint.levels.length] ?? 96;
}

/** The lines that a stroke of painting covers: every `stride`-th from where it began, either way. */
export function linesOfStroke(part: Pick<Part, 'meter' | 'origin'>, grid: GridName, stride: number, from: Ticks, to: Ticks): Ticks[] {
  const lines = linesOf(part, grid, { start: ticks(Math.min(from, to)), end: ticks(Math.max(from, to) + 1) });
  if (to < from) lines.reverse();
  return lines.filter((_, i) => i % stride === 0);
}
