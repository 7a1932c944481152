import type { MeterChange } from '../time/meter-map';
import type { TempoChange } from '../time/tempo-map';
import type { Milliseconds, Seconds, Ticks } from '../units';
import type { VelocityCurve } from '../velocity-curve';

/**
 * One event as the device gave it: seconds on the audio clock from the start of the first pass, by the device's own stamp, with the
 * latency still in it. Never altered once it is recorded.
 */
export interface TakeEvent {
  at: Seconds;
  kind: 'note' | 'off' | 'pedal' | 'pressure' | 'position';
  /** MIDI key; the controller's number for a pedal and a position. */
  key: number;
  /** Velocity 1 to 127, or the controller's or pressure's value; of an end how fast it was let go. */
  value: number;
}

/** How a hat's pedal says how open it is. */
export interface HatSettings {
  /** Closed from here on, half open down to the other, open below that: 0 to 127. */
  closedFrom: number;
  openBelow: number;
  /** The controller counts the other way round: 0 is pressed. */
  turned?: boolean;
}

/** What keeps ghosts of the hardware out of a take. */
export interface Guards {
  /** Softer strokes are left out; 1 leaves none out. */
  below: number;
  /** A second stroke of a key within so many ms is left out; 0 leaves none out. */
  doubleMs: Milliseconds;
  /** Strokes of these keys that are softer than this are left out where another key was struck much harder just before. */
  crosstalk?: Readonly<Record<number, number>>;
}

export const OPEN_GUARDS: Guards = { below: 1, doubleMs: 0 as Milliseconds };
/** What a device begins with: no hand strikes twice within 12 ms. */
export const USUAL_GUARDS: Guards = { below: 1, doubleMs: 12 as Milliseconds };

/** A recording over a loop: how it was made; its raw events are kept beside it. */
export interface Take {
  id: string;
  name: string;
  /** Milliseconds since 1970. */
  recordedAt: number;
  /** Name of the device it came from. */
  input: string;
  tempo: readonly TempoChange[];
  meter: readonly MeterChange[];
  origin: Ticks;
  /** Start and end of the loop. */
  start: Ticks;
  end: Ticks;
  /** Taken off every event when it is placed; may be changed afterwards. */
  latencyMs: Milliseconds;
  curve: VelocityCurve;
  guards: Guards;
  /** Keys with a curve of their own. */
  curves?: Readonly<Record<number, VelocityCurve>>;
  /** Its hat's pedal says how open it is. */
  hat?: HatSettings;
  /** MIDI key that each key of the device stands for; those that are not named stand for themselves. */
  pads?: Readonly<Record<number, number>> | undefined;
  /** Keys from 36 up played the pieces of this break. */
  pieces?: string;
  /** Played without a click: its tempo and bars are placeholders. */
  free?: true;
  /** Passes, from 0, that were dropped: their events stay, and make no hits. */
  dropped?: readonly number[];
  /** Where the machine stalled while it was recorded, in seconds as events have them: strokes there go by the device's own stamps alone. */
  stalls?: readonly { from: Seconds; to: Seconds }[];
  /** Whole passes of the loop. */
  passes: number;
  /** False while it is recorded, and after a crash. */
  complete: boolean;
}
