import type { Seconds, Velocity } from '../units';
import type { SampleId } from './own-sound';

/** What a stroke may be. */
export const STROKE_KINDS = ['kick', 'snare', 'hat', 'other'] as const;
export type StrokeKind = (typeof STROKE_KINDS)[number];

/** Where a break is cut: at its strokes, at lines of the bar, into sixteen equal slices, at bars, or nowhere. */
export const BREAK_CUTS = ['strokes', 'eighths', 'sixteenths', 'sixteen', 'bars', 'whole'] as const;
export type BreakCut = (typeof BREAK_CUTS)[number];

/**
 * What is heard between the end of a piece and the next one: nothing, nothing after a longer fade, or its tail again, softer and softer.
 */
export const BREAK_GAPS = ['tail', 'fade', 'silence'] as const;
export type BreakGap = (typeof BREAK_GAPS)[number];

/** What the hand did to a stroke: to one that was heard (by its number), or to one that it added. */
export interface HandMark {
  /** Which of the heard strokes; without it the hand put it there. */
  n?: number;
  /** Where it was put, from the recording's start. */
  at?: Seconds;
  /** It is none. */
  gone?: true;
  /** What it is. */
  as?: StrokeKind;
  /** With `as`: what is struck together with it. */
  also?: StrokeKind;
}

/** A piece of the recording that hits play by its number in the list. */
export interface Slice {
  /** What it was cut at: a name that stays while other pieces come and go. */
  id: string;
  from: Seconds;
  until: Seconds;
  kind: StrokeKind;
  /** What is struck together with it. */
  also?: StrokeKind;
  /** A hit of this velocity plays it as loud as it was recorded. */
  velocity: Velocity;
  /** dB, -60 to 12. */
  level?: number;
  /** Semitones, -24 to 24. */
  tune?: number;
  backwards?: true;
}

export const PIECE = { level: { min: -60, max: 12 }, tune: { min: -24, max: 24 } } as const;

/** A recorded loop of drums within a part: how it is heard, counted, and cut into pieces that its rows play. */
export interface Break {
  id: string;
  name: string;
  sample: SampleId;
  /** Length of the recording. */
  seconds: Seconds;
  /** 0 to 1: how soft a stroke may be. */
  sensitivity: number;
  hand: readonly HandMark[];
  /** Of its bars, as they are counted in it. */
  meter: readonly [numerator: number, denominator: number];
  /** Its bar lines, one more than it has bars, rising. */
  lines: readonly Seconds[];
  /** The part's bar, from 0, that it begins in; from there it comes again to the part's end. */
  bar: number;
  cut: BreakCut;
  gap: BreakGap;
  /** Its pitch goes with the tempo; without it pieces are only moved. */
  repitch?: true;
  pieces: readonly Slice[];
}

/** What was heard in a break: all that might be a stroke, as columns by time. A sensitivity chooses among them. */
export interface HeardStrokes {
  /** The break's id. */
  break: string;
  /** Seconds from the recording's start. */
  at: readonly number[];
  /** 0 to 1, of the strongest. */
  strength: readonly number[];
  /** Of the threshold at the usual sensitivity: 1 is just above it. */
  over: readonly number[];
  /** Amplitude of its first moments: the root of its mean square. */
  level: readonly number[];
  kinds: readonly StrokeKind[];
  /** How sure the kind is, 0.25 to 1. */
  sure: readonly number[];
  /** What is struck together with it; null for most. */
  also: readonly (StrokeKind | null)[];
  /** Packed sound of each stroke (onsets/print.ts); missing if an earlier version detected them. */
  prints?: readonly string[];
  /** Up to three ways to count it, the likeliest first. */
  readings: readonly BreakReading[];
}

export interface BreakReading {
  bars: number;
  meter: readonly [numerator: number, denominator: number];
  bpm: number;
  /** From the recording's start. */
  firstDownbeat: Seconds;
}

export const MOST_BREAKS = 8;
export const MOST_PIECES = 2048;
/** Strokes of pieces are made for this velocity: the middle of a row's response, at which its tone is its own. */
export const PIECE_VELOCITY = 100;
/** So much of a recording is cut into pieces at most, in seconds: they are kept ready to be played. */
export const LONGEST_LOOP = 120;
/** Candidates of ten minutes. */
export const MOST_HEARD = 20_000;
/** A piece's key, where keys name pieces: this and its number. */
export const FIRST_PIECE_KEY = 36;
/** The key that hits on a break's rows carry: no key map gives them another, and no drum's note is cut by them. */
export const KEY_OF_BREAKS = 0;

/** Whether hits of a row play pieces of a break. */
export const isOfBreak = (plays: unknown): plays is { break: string } => typeof plays === 'object' && plays !== null && 'break' in plays;
