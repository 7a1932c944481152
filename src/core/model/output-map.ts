import type { VoiceName } from '../row-names';
import { STRAIGHT_CURVE, type VelocityCurve } from '../velocity-curve';

/** Which key each row leaves with. */
export type OutputKeys =
  /** Those that the hits carry. */
  | { kind: 'hits' }
  /** General MIDI's; a hit keeps its own where it means its row there. */
  | { kind: 'general-midi' }
  /** One a row, or what stands for it: its voice, then what is like that. Others keep theirs. */
  | { kind: 'rows'; rows: Readonly<Record<VoiceName, number>> }
  /** One after another, from the lowest row up. */
  | { kind: 'chromatic'; from: number };

/** How strokes leave for another instrument: what is sent out and what is exported go by it alike. */
export interface OutputMap {
  name: string;
  keys: OutputKeys;
  /** 1 to 16. */
  channel: number;
  /** Rows with a channel of their own. */
  channels?: Readonly<Record<VoiceName, number>>;
  curve: VelocityCurve;
  /** Later is positive; -200 to 500. */
  offsetMs: number;
  /** Length of every note, 1 to 2000; null: as written. */
  noteMs: number | null;
  /** All in one track, or one a row. */
  tracks: 'one' | 'rows';
  /**
   * How openness and position are sent: as controllers 4 and 16 before the stroke (the default), or as the keys of the closed, half-open
   * and open hi-hat, without positions.
   */
  articulation?: 'controllers' | 'keys';
}

export const TARGET = {
  channel: { min: 1, max: 16 },
  offsetMs: { min: -200, max: 500 },
  noteMs: { min: 1, max: 2000 },
  from: { min: 0, max: 127 },
} as const;

/** What leaves where no target was chosen: the hits as they are. */
export const NO_TARGET: OutputMap = {
  name: 'as it is',
  keys: { kind: 'hits' },
  channel: 10,
  curve: STRAIGHT_CURVE,
  offsetMs: 0,
  noteMs: null,
  tracks: 'one',
};

/** The length that drums get where it is to be fixed. */
export const USUAL_NOTE_MS = 60;
