import { PART_MIX, ROW_SOUND } from '../model/sound';
import { NO_OWN_SOUNDS, type OwnSounds } from '../model/own-sound';
import type { Part } from '../model/part';
import { KIT_TRAITS } from '../synth/kits/levels';
import type { VoiceName } from '../row-names';
import { kitOf, sourceOfRow } from './sources';

/** A row's settings as the mixer takes them. */
export interface RowMix {
  /** Factor on the amplitude. */
  gain: number;
  /** -100 to 100, added to the hit's own. */
  pan: number;
  /** Semitones, added to the hit's own. */
  tune: number;
  /** Factor on how long it rings. */
  ring: number;
  /** How strongly velocity drives loudness and tone: 1 is the law. */
  loudness: number;
  tone: number;
  /** How much goes into the room, 0 to 1. */
  room: number;
  /** Rows of a group end each other; 0 is none. */
  group: number;
}

export const PLAIN_MIX: RowMix = { gain: 1, pan: 0, tune: 0, ring: 1, loudness: 1, tone: 1, room: 0, group: 0 };

/** How a part is mixed as a whole. */
export interface Mix {
  /** Factor on the sum. */
  volume: number;
  room: { size: number; amount: number };
  /** Rows by the player's number for them. */
  rows: Readonly<Record<number, RowMix>>;
}

export const PLAIN_MIX_OF_PART: Mix = { volume: 1, room: { size: PART_MIX.size.rest, amount: 0 }, rows: {} };

type Sounding = Pick<Part, 'rows' | 'kit' | 'ownKit' | 'mix' | 'breaks'>;

/** Rows of a break are a group of their own, beyond those that are chosen. */
const groupOfBreak = (part: Pick<Part, 'breaks'>, id: string): number =>
  ROW_SOUND.group.max + 1 + (part.breaks ?? []).findIndex((b) => b.id === id);

/** A recording of the user's own has dynamics already: the response to velocity starts at so many percent. */
const OWN_RESPONSE = 60;

/** @example amplitudeOfDb(-6) // about 0.5 */
export const amplitudeOfDb = (db: number): number => (db <= -60 ? 0 : 10 ** (db / 20));

/** Kicks stay out of the room, as long as nothing else is said. */
const isDry = (sound: VoiceName): boolean => sound === 'kick';

/** A row's settings over the kit's: those in percent where no row says otherwise. */
export function restOfRow(
  part: Sounding,
  row: VoiceName,
  sounds: OwnSounds = NO_OWN_SOUNDS,
): { loudness: number; room: number; tone: number } {
  const source = sourceOfRow(part, row, sounds);
  // A recorded break is as it is: dry, its tone its own.
  if (source.pieces) return { loudness: 100, room: 0, tone: 0 };
  return source.own ? { loudness: OWN_RESPONSE, room: 0, tone: 100 } : { loudness: 100, room: isDry(source.voice) ? 0 : 100, tone: 100 };
}

/** A row's settings over the kit's. */
export function rowMixOf(part: Sounding, row: VoiceName, sounds: OwnSounds = NO_OWN_SOUNDS): RowMix {
  const own = part.rows.find((r) => r.voice === row)?.sound ?? {};
  const rest = restOfRow(part, row, sounds);
  const { pieces } = sourceOfRow(part, row, sounds);
  return {
    gain: amplitudeOfDb(own.level ?? 0),
    pan: own.pan ?? 0,
    tune: own.tune ?? 0,
    ring: (own.ring ?? 100) / 100,
    loudness: (own.loudness ?? rest.loudness) / 100,
    tone: (own.tone ?? rest.tone) / 100,
    room: (own.room ?? rest.room) / 100,
    group: own.group ?? (pieces ? groupOfBreak(part, pieces.id) : 0),
  };
}

/** The whole of a part's settings, rows by their numbers. */
export function mixOf(part: Sounding, indexOf: (row: VoiceName) => number, sounds: OwnSounds = NO_OWN_SOUNDS): Mix {
  return {
    volume: amplitudeOfDb(part.mix?.level ?? 0),
    room: { size: part.mix?.size ?? PART_MIX.size.rest, amount: (part.mix?.room ?? KIT_TRAITS[kitOf(part)].room) / 100 },
    rows: Object.fromEntries(part.rows.map((r) => [indexOf(r.voice), rowMixOf(part, r.voice, sounds)])),
  };
}
