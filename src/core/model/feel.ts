import type { GridName } from '../time/grid';
import type { VoiceName } from '../row-names';
import type { Groove } from './groove';

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
export interface QuantizeMove extends MoveBase {
  kind: 'quantize';
  grid: GridName;
  /** How much of the way, 0 to 1. */
  strength: number;
  /** Up to which part of the half gap it reaches, 0 to 1. */
  outer: number;
  /** Up to so many ms nothing is pulled, 0 to 50. */
  innerMs: number;
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
  /** Which pairs are swung: those whose hits have homes on binary lines alone (without it), or all of them, as in feel@2. */
  lines?: 'binary' | 'all';
}

/** Leans and levels of a groove template. */
export interface GrooveMove extends MoveBase {
  kind: 'groove';
  groove: Groove;
  /** How much of its offsets, 0 to 1.5. */
  lean: number;
  /** How much of its levels, 0 to 1.5. */
  level: number;
  /** Where it is read: at the hit's home (without it), or at its written place, as in feel@2. */
  at?: 'home' | 'written';
}

/** Everything early or late by the same time. */
export interface LayMove extends MoveBase {
  kind: 'lay';
  /** -80 to 80. */
  ms: number;
}

/** Human scatter in time and velocity. */
export interface HumanizeMove extends MoveBase {
  kind: 'humanize';
  /** Deviation in ms, 0 to 80. */
  timingMs: number;
  /** Deviation in percent of the velocity, 0 to 40. */
  velocityPercent: number;
  /** 0: each hit by itself; 1: one slow curve for the whole kit. */
  memory: number;
  /** How much bar lines are spared, 0 to 1; beat lines half of it. */
  anchor: number;
  /** Over so many bars, 1 to 32, the slow curve's mean is 0. */
  span: number;
  /**
   * What becomes of a velocity past 1 or 127: mirrored (without it), so that loud rows do not pile up there, or cut, and lines are the
   * homes, as in feel@2.
   */
  limit?: 'mirror' | 'clip';
}

/** Groups in the order in which they sound, within one line. */
export const APART_GROUPS = ['ride-and-hats', 'kick', 'snare', 'clap', 'toms', 'crash', 'others'] as const;
export type ApartGroup = (typeof APART_GROUPS)[number];

/** Sets what falls together apart. */
export interface ApartMove extends MoveBase {
  kind: 'apart';
  /** From the first to the last, 0 to 30. */
  ms: number;
  /** Groups that are not named follow in the usual order. */
  order: readonly ApartGroup[];
  /** What falls together: hits on one line as they reach the move (without it), or of one home, as in feel@2. */
  by?: 'line' | 'home';
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

/** How hits sound beside their velocity. */
export interface TimbreMove extends MoveBase {
  kind: 'timbre';
  /** Even draws within so many percent, 0 to 100. */
  pan: number;
  /** ... semitones, 0 to 12. */
  pitch: number;
  /** ... percent, 0 to 100. */
  brightness: number;
  /** Brightness by velocity, in percent at full velocity, -100 to 100. */
  velocityBrightness: number;
  /** Pan by pitch, in percent an octave, -100 to 100. */
  pitchPan: number;
}

/** Played as by a person: the leading hand is louder, the first of two by one hand as well. */
export interface HandsMove extends MoveBase {
  kind: 'hands';
  /** Times the velocity of the leading hand's strokes, 0.5 to 1.5. */
  lead: number;
  /** ... of the other hand's. */
  weak: number;
  /** ... of the first of two by one hand, beside that. */
  firstOfTwo: number;
}

/** One step of a feel. What each kind does is said in core/moves. */
export type Move = QuantizeMove | SwingMove | GrooveMove | LayMove | HumanizeMove | ApartMove | AccentsMove | TimbreMove | HandsMove;
export type MoveKind = Move['kind'];

/** An ordered list of moves that never changes the written hits. */
export interface Feel {
  format: 'nod-sway/feel@3';
  seed: number;
  /** How much of it is used: 0 = as written, 1 = all. */
  sway: number;
  moves: readonly Move[];
}

export const EMPTY_FEEL: Feel = { format: 'nod-sway/feel@3', seed: 1, sway: 1, moves: [] };

export const MIN_SWING = 25;
export const MAX_SWING = 80;
export const STRAIGHT = 50;
export const MOST_MOVES = 64;
