import type { Groove } from '../groove/groove';
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

/** What every move has. */
export interface MoveBase {
  /** Default true. */
  on?: boolean;
  scope?: Scope;
  /** Without one it is the feel's seed salted with the move's ordinal among its kind. */
  seed?: number;
}

export const SWING_DIVISIONS = ['1/8', '1/16', '1/32'] as const;
export type SwingDivision = (typeof SWING_DIVISIONS)[number];

/** Pulls hits to the lines of a grid. */
export interface TightenMove extends MoveBase {
  kind: 'tighten';
  grid: GridName;
  /** How much of the way, 0 to 1. */
  strength: number;
  /** Up to which part of the half gap it reaches, 0 to 1. */
  window: number;
  /** Up to so many ms nothing is pulled, 0 to 50. */
  keepMs: number;
  /** Swing of the lines, 25 to 80; straight 50. */
  swingPercent: number;
}

export interface SwingMove extends MoveBase {
  kind: 'swing';
  division: SwingDivision;
  /** Place of the off-beat in its pair: 25 to 80, straight 50. */
  percent: number;
  /** Straightens a part that swings this much: the exact inverse. */
  inverse?: boolean;
}

/** Leans and levels of a groove template. */
export interface TemplateMove extends MoveBase {
  kind: 'template';
  groove: Groove;
  /** How much of its offsets, 0 to 1.5. */
  lean: number;
  /** How much of its levels, 0 to 1.5. */
  level: number;
}

/** Everything early or late by the same time. */
export interface LayMove extends MoveBase {
  kind: 'lay';
  /** -80 to 80. */
  ms: number;
}

/** Human drift in time and velocity. */
export interface DriftMove extends MoveBase {
  kind: 'drift';
  /** Deviation in ms, 0 to 40. */
  timingMs: number;
  /** Deviation in percent of the velocity, 0 to 40. */
  velocityPercent: number;
  /** 0: each hit by itself; 1: one slow curve for the whole kit. */
  color: number;
  /** How much bar lines are spared, 0 to 1; beat lines half of it. */
  anchor: number;
}

/** Groups in the order in which they sound, within one line. */
export const SPREAD_GROUPS = ['ride-and-hats', 'kick', 'snare', 'clap', 'toms', 'crash', 'others'] as const;
export type SpreadGroup = (typeof SPREAD_GROUPS)[number];

/** Sets what falls together apart. */
export interface SpreadMove extends MoveBase {
  kind: 'spread';
  /** From the first to the last, 0 to 30. */
  ms: number;
  /** Groups that are not named follow in the usual order. */
  order: readonly SpreadGroup[];
}

/** Levels by place in the bar, contrast, scale, limits. */
export interface AccentsMove extends MoveBase {
  kind: 'accents';
  grid: GridName;
  /** One a step, 0 to 2. */
  levels: readonly number[];
  /** 0 to 1. */
  depth: number;
  /** 1 to 127; without one the mean written velocity in scope. */
  pivot?: number;
  /** 0 to 3. */
  contrast: number;
  /** 0 to 2. */
  scale: number;
  /** -127 to 127. */
  add: number;
  /** 0 to 40. */
  jitter: number;
  floor: number;
  ceiling: number;
}

/** One step of a feel. Each kind is a module in moves/ and an entry in perform.ts. */
export type Move = TightenMove | SwingMove | TemplateMove | LayMove | DriftMove | SpreadMove | AccentsMove;
export type MoveKind = Move['kind'];
export const MOVE_KINDS = ['tighten', 'swing', 'template', 'lay', 'drift', 'spread', 'accents'] as const satisfies readonly MoveKind[];

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
export const MOST_MOVES = 64;

/** What a move of each kind starts with. */
export const DEFAULT_MOVES = {
  tighten: { kind: 'tighten', grid: '1/16', strength: 0.65, window: 0.6, keepMs: 0, swingPercent: STRAIGHT },
  swing: { kind: 'swing', division: '1/16', percent: DEFAULT_SWING },
  lay: { kind: 'lay', ms: 0 },
  drift: { kind: 'drift', timingMs: 5, velocityPercent: 5, color: 0.7, anchor: 0.5 },
  spread: { kind: 'spread', ms: 5, order: SPREAD_GROUPS },
  accents: { kind: 'accents', grid: '1/16', levels: [1], depth: 1, contrast: 1, scale: 1, add: 0, jitter: 0, floor: 1, ceiling: 127 },
} as const satisfies { [K in Exclude<MoveKind, 'template'>]: Extract<Move, { kind: K }> };

/** True where the feel cannot change anything: performing gives the written part, plus nudges. */
export const isIdle = (feel: Feel): boolean => feel.sway === 0 || feel.moves.every((m) => m.on === false);
