import type { Click } from '@/core/playback/clicks';
import { DEFAULT_CLICK } from '@/core/playback/clicks';
import type { LatencyFinding } from '@/core/take/latency';
import { HUMAN_PRACTICE, type Practice } from '@/core/take/practice';
import type { Take } from '@/core/model/take';
import type { GridName } from '@/core/time/grid';
import type { VoiceName } from '@/core/row-names';
import { freshInput, type InputSettings } from '@/storage/input-store';

/** How takes are recorded; kept for the visit. */
export interface RecordingSettings {
  /** Bars of clicks before the first pass, from standstill, 0 to 4; null: as the tempo is. */
  countIn: number | null;
  click: Click;
  /** Clicks while recording; the count-in clicks all the same. */
  clicking: boolean;
  /** Clicks whenever the music plays. */
  clickAlways: boolean;
  /** It stops after so many passes; 0: when it is stopped. */
  passes: number;
  /** New passes are overdubbed, or replace what is there. */
  mode: 'layer' | 'replace';
  /** Rows that are recorded; empty: all. */
  rows: ReadonlySet<VoiceName>;
  /** Record without a click; the beats are found after Stop. */
  free: boolean;
  /** Struck pads are heard. */
  monitor: boolean;
  /** Keys from 36 up play the pieces of this break instead of rows. */
  pieces: string | null;
  /** The piece that the first pad on the screen strikes. */
  firstPiece: number;
  /** Pads that are held go on striking on this grid; null: they strike once. */
  holdGrid: GridName | null;
  /** The pads on the screen play this row at sixteen velocities; null: a row each. */
  levelsOf: VoiceName | null;
  practice: Practice;
  /** Index into the practice patterns. */
  pattern: number;
}

/** A measurement under way. */
export interface LatencyProgress {
  /** Clicks that have been heard, of 16. */
  clicks: number;
  taps: number;
}

export type Phase = 'idle' | 'counting' | 'recording' | 'done';

export interface RecordingState extends RecordingSettings {
  phase: Phase;
  /** The take that is recorded, or was recorded last. */
  take: Take | null;
  /** Some of what was played is not in the store yet. */
  unkept: boolean;
  /** From 0. */
  pass: number;
  strokes: number;
  measuring: LatencyProgress | null;
  /** Progress of finding the beats of the last take, 0 to 1; null when idle. */
  finding: number | null;
  /** What the last measurement found; false where there were too few taps. */
  found: LatencyFinding | false | null;
  /** The device that is listened to, and what is known of it. */
  input: InputSettings;
  /** Each struck pad places a hit at the step cursor, which moves on. */
  stepEntry: boolean;
  stepLength: GridName;
  /** Computer keys strike pads instead of being shortcuts. */
  keysPlay: boolean;
  padsShown: boolean;
  /** The key struck last, and when: pads light up. */
  struck: { key: number; n: number } | null;
}

/** Above this tempo a bar is too short to get ready in. */
const FAST = 150;

/** Bars that are counted in. @example countInOf({ countIn: null }, 160) // 2 */
export const countInOf = ({ countIn }: Pick<RecordingSettings, 'countIn'>, bpm: number): number => countIn ?? (bpm > FAST ? 2 : 1);

export const FRESH_RECORDING: RecordingState = {
  unkept: false,
  countIn: null,
  click: DEFAULT_CLICK,
  clicking: true,
  clickAlways: false,
  passes: 0,
  mode: 'layer',
  rows: new Set(),
  free: false,
  monitor: true,
  pieces: null,
  firstPiece: 0,
  holdGrid: null,
  levelsOf: null,
  practice: HUMAN_PRACTICE,
  pattern: 0,
  phase: 'idle',
  take: null,
  pass: 0,
  strokes: 0,
  measuring: null,
  finding: null,
  found: null,
  input: freshInput('pads'),
  stepEntry: false,
  stepLength: '1/16',
  keysPlay: false,
  padsShown: false,
  struck: null,
};
