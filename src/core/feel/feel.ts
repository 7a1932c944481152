import type { GridName } from '../time/grid';
import type { VoiceName } from '../voices';

/** Which bars a move touches, 1-based: from <= b <= to and ((b-1) mod every)+1 in at. */
export interface BarScope {
  from?: number;
  to?: number;
  every?: number;
  at?: readonly number[];
}

/** Positions of a grid: the nearest step's index from the bar line, modulo `of`, is in `at`. */
export interface StepScope {
  grid: GridName;
  of: number;
  at: readonly number[];
}

/** Which hits a move touches, by their WRITTEN place; without a member, all. */
export interface Scope {
  voices?: readonly VoiceName[];
  bars?: BarScope;
  steps?: StepScope;
  ghosts?: 'only' | 'none';
}

export const SWING_DIVISIONS = ['1/8', '1/16', '1/32'] as const;
export type SwingDivision = (typeof SWING_DIVISIONS)[number];

export interface SwingMove {
  kind: 'swing';
  on?: boolean;
  scope?: Scope;
  division: SwingDivision;
  /** Place of the off-beat in its pair: 25 to 80, straight 50. */
  percent: number;
  /** Straightens a part that swings this much: the exact inverse. */
  inverse?: boolean;
}

/** One step of a feel. Each kind is a module beside this one and an entry in perform.ts. */
export type Move = SwingMove;

/** An ordered list of moves that never changes the written hits. */
export interface Feel {
  format: 'nod-sway/feel@1';
  seed: number;
  /** How much of it is used: 0 = as written, 1 = all. */
  sway: number;
  moves: readonly Move[];
}

export const EMPTY_FEEL: Feel = { format: 'nod-sway/feel@1', seed: 1, sway: 1, moves: [] };

export const MIN_SWING = 25;
export const MAX_SWING = 80;
export const STRAIGHT = 50;
export const DEFAULT_SWING = 56;

/** True where the feel cannot change anything: performing gives the written part, plus nudges. */
export const isIdle = (feel: Feel): boolean => feel.sway === 0 || feel.moves.every((m) => m.on === false);
