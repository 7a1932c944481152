import type { Colour, Sound } from '@/core/playback/mixer';
import type { QueuedLoop, Jump, PlayState, ProgramVersion, Versions } from '@/core/playback/player';
import type { Program } from '@/core/playback/program';
import type { ScheduledHit } from '@/core/playback/sequencer';
import type { Ticks } from '@/core/units';
import type { LayerShape } from '@/core/playback/sources';
import type { MadeStroke } from './strokes';

/** A row's sound, by the number that programs call it; rows of one source share its strokes. */
export interface NumberedSound {
  index: number;
  /** Name of its source. */
  source: string;
  layers: readonly LayerShape[];
  sound: Omit<Sound, 'layers'>;
}

/** Everything that crosses the border to the audio thread. */
export type ToPlayer =
  | { type: 'sounds'; sounds: readonly NumberedSound[] }
  | { type: 'strokes'; strokes: readonly MadeStroke[] }
  /** It is not kept any longer. */
  | { type: 'forget'; source: string; layer: number; take: number }
  | { type: 'programs'; versions: Versions; name: string }
  /** What takes over, one after another. */
  | { type: 'queue'; queue: readonly QueuedLoop[] }
  | { type: 'version'; version: ProgramVersion }
  | { type: 'clicks'; program: Program | null }
  /** `lead`: seconds until the start; the usual pre-roll without it. */
  | { type: 'play'; fromTick: Ticks; lead?: number }
  | { type: 'stop' }
  /** Factor for the durations of programs. */
  | { type: 'stretch'; stretch: number }
  | { type: 'audition'; sound: number; velocity: number; colour: Colour }
  | { type: 'volume'; volume: number }
  /** Keeps the coming frames of the output, to be looked at by tests and measurements. */
  | { type: 'capture'; frames: number };

export type FromPlayer =
  | { type: 'state'; state: PlayState; frame: number }
  | { type: 'onsets'; onsets: ScheduledHit[] }
  | { type: 'jumps'; jumps: Jump[] }
  /** Peaks of both sides since the last, and how far the limiter turned down (1: not at all). */
  | { type: 'meter'; left: number; right: number; limited: number }
  | { type: 'captured'; firstFrame: number; samples: Float32Array; right: Float32Array };

export const PLAYER_PROCESSOR = 'nod-sway-player';
