import type { Colour } from '@/core/playback/mixer';
import type { PlayState, Version, Versions } from '@/core/playback/player';
import type { Program } from '@/core/playback/program';
import type { Onset } from '@/core/playback/sequencer';
import type { Ticks } from '@/core/units';
import type { VoiceName } from '@/core/voices';

/** A sound, by the number that programs call its row. */
export interface NumberedSound {
  index: number;
  samples: Float32Array;
  voice: VoiceName;
  ends: readonly VoiceName[];
}

/** Everything that crosses the border to the audio thread. */
export type ToPlayer =
  | { type: 'sounds'; sounds: readonly NumberedSound[] }
  | { type: 'programs'; versions: Versions }
  | { type: 'version'; version: Version }
  | { type: 'clicks'; program: Program | null }
  /** `lead`: seconds until the start; the usual pre-roll without it. */
  | { type: 'play'; fromTick: Ticks; lead?: number }
  | { type: 'stop' }
  | { type: 'audition'; sound: number; velocity: number; colour: Colour }
  | { type: 'volume'; volume: number }
  /** Keeps the coming frames of the output, to be looked at by tests and measurements. */
  | { type: 'capture'; frames: number };

export type FromPlayer =
  | { type: 'state'; state: PlayState; frame: number }
  | { type: 'onsets'; onsets: Onset[] }
  | { type: 'captured'; firstFrame: number; samples: Float32Array };

export const PLAYER_PROCESSOR = 'nod-sway-player';
