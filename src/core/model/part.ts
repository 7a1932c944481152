import type { MeterChange } from '../time/meter-map';
import type { TempoChange } from '../time/tempo-map';
import type { Milliseconds, Ticks, Velocity } from '../units';
import type { KitMap } from '../key-map';
import type { VoiceName } from '../row-names';
import type { Feel } from './feel';
import type { Break, HeardStrokes } from './break';
import type { Ornament } from './ornament';
import type { Cycle, EveryPass, OrderEntry, Passes, Section } from './song';
import type { OutputMap } from './output-map';
import type { Backing } from './backing';
import type { KitName, OwnKitRef, PartMix, RowPlays, RowSound } from './sound';

export type HitId = string;

/** A change made by hand, added after the feel; it survives every change of the feel. */
export interface Nudge {
  ms: Milliseconds;
  /** Added to the performed velocity; a difference, -126 to 126. */
  velocity: number;
}

/** A pedal's or a pressure's value that came with a stroke: it goes wherever the stroke goes. */
export interface Companion {
  /** Controller 4, or pressure of the hit's key. */
  kind: 'pedal' | 'pressure';
  /** 0 to 127. */
  value: number;
  /** So long before the stroke, 0 to 30. */
  aheadMs: Milliseconds;
}

/** At most so long before a stroke a pedal's movement or a pressure belongs to it. */
export const COMPANION_MS = 30 as Milliseconds;
export const MOST_COMPANIONS = 64;

/** One written stroke. */
export interface Hit {
  id: HitId;
  voice: VoiceName;
  /** The MIDI key it came with, kept for export. */
  key: number;
  tick: Ticks;
  length: Ticks;
  velocity: Velocity;
  ghost?: boolean;
  /** Sounds nothing and ends the ring of its own voice. */
  choke?: boolean;
  /** Silent and not exported, but stays in place. */
  muted?: boolean;
  /** -100 (left) to 100 (right); 0 without it. */
  pan?: number;
  /** Semitones, -24 to 24. */
  pitch?: number;
  /** -100 (dull) to 100 (sharp), added to what the velocity gives. */
  brightness?: number;
  /** Left alone by every tool until it is unlocked. */
  locked?: boolean;
  nudge?: Nudge;
  /** A roll, flam or echo that it carries. */
  ornament?: Ornament;
  /** What the hat's pedal and the pad's pressure did just before it. */
  companions?: readonly Companion[];
  /** How open the hat was when it was struck: 0 (pressed, controller 4 at 127) to 127 (let go, controller 4 at 0). */
  openness?: number;
  /** Where on the pad it was struck: the device's value of controller 16, 0 to 127. */
  position?: number;
  /**
   * The hit whose alternates of the sound it repeats, by id, with `/n` for the n-th stroke of that hit's ornament. Its own without it.
   * A hit that was converted from a loop length or an ornament keeps sounding as it did.
   */
  variation?: string;
  /** The straight grid line it belongs to: given by the hand that placed it, or read once from a file, a take or a break. */
  home: Ticks;
  /** How likely a home that was read is, 0 to 1; certain without it. */
  sure?: number;
  /** The line that is next likely. */
  other?: Ticks;
  /** The user chose the line. */
  decided?: boolean;
  /** A hand put the hit on a line. */
  placed?: boolean;
  /** Left where it is by quantize moves: the decision on an uncertain hit. */
  alone?: boolean;
  /** Sounds with this chance in a pass, in percent, 1 to 99. */
  chance?: number;
  /** Sounds in some passes alone. */
  passes?: Passes;
  /** Which of the source's lanes it came from, by index; the first without it. */
  lane?: number;
  /** On a row of a break: which of its pieces it plays, by index; the first of the row's kind without it. */
  piece?: number;
}

/** A line on the Bench. A voice may have several: each by its own name, key, sound and settings. */
export interface Row {
  /** The row's name, by which hits, scopes and key maps know it. */
  voice: VoiceName;
  /** The user's own name for it; the voice's without one. */
  name?: string;
  /** Of an own row: the voice that it sounds like, and that stands for it where only General MIDI's keys are known. */
  like?: VoiceName;
  /** Its sound ends with the hit; without it, it rings freely. */
  held?: boolean;
  /** How it sounds, where that is not as the kit has it. */
  sound?: RowSound;
  /** What plays it, where that is not the kit. */
  plays?: RowPlays;
  /** Comes round over a length of its own. */
  cycle?: Cycle;
  /** A machine plays it: it needs no hands and feet. */
  machine?: boolean;
  muted?: boolean;
  soloed?: boolean;
  /** All of its hits are locked. */
  locked?: boolean;
}

/** A track and channel of the imported song whose notes became this part's hits. */
export interface Lane {
  track: number;
  /** 1 to 16, as musicians count. */
  channel: number;
}

/** What is known of the imported file; its bytes are kept beside the part. */
export interface PartSource {
  fileName: string;
  /** Ticks a quarter note of the file; null for SMPTE time. */
  ppq: number | null;
  lanes: readonly Lane[];
}

/** The newest format of parts. */
export const PART_FORMAT = 'nod-sway/part@6';
/** part@4 and later only add members, so bodies and edits of part@3 are read as they are. */
const LIKE_NEWEST: readonly unknown[] = ['nod-sway/part@3', 'nod-sway/part@4', 'nod-sway/part@5', PART_FORMAT];

/** Whether a part, or the part that an edit was made on, needs migrating. Edits of part@1 name no format. */
export const isOlderFormat = (data: unknown): boolean => !LIKE_NEWEST.includes((data as { format?: unknown } | null | undefined)?.format);

/** One drum part. Immutable: every change makes a new one, sharing what stayed. */
export interface Part {
  format: typeof PART_FORMAT;
  name: string;
  tempo: readonly TempoChange[];
  /** The tempo of a player without a click, one change per beat. Equals `tempo` while the grid follows the player. */
  playerTempo?: readonly TempoChange[];
  meter: readonly MeterChange[];
  /** Where the grid starts, in ticks from the file's zero. */
  origin: Ticks;
  /** Length in whole bars. */
  bars: number;
  kitMap: KitMap;
  rows: readonly Row[];
  /** Sorted by {@link compareHits}. */
  hits: readonly Hit[];
  feel: Feel;
  /** The built-in kit that plays it; the first without one. */
  kit?: KitName;
  /** A kit of the user's own that plays before it, as far as it goes. */
  ownKit?: OwnKitRef;
  /** Master level and room, where they are not as the kit has them. */
  mix?: PartMix;
  /** Named spans of bars, in order, without overlap. */
  sections?: readonly Section[];
  /** The running order. */
  order?: readonly OrderEntry[];
  /** What passes of a loop are like; the same without it. */
  everyPass?: EveryPass;
  /** Recorded loops whose pieces some rows play. */
  breaks?: readonly Break[];
  /** What was heard in them. */
  heard?: readonly HeardStrokes[];
  /** How its strokes leave for another instrument; as they are without one. */
  target?: OutputMap;
  /** A recording that is heard beside it. */
  backing?: Backing;
  /** Takes that were deleted, by their ids: they are kept beside the part, so that a step back brings them again. */
  deletedTakes?: readonly string[];
  source?: PartSource;
}

/** Written order: by tick, then key, then id, so that equal parts are equal lists. */
export const compareHits = (a: Hit, b: Hit): number => a.tick - b.tick || a.key - b.key || (a.id < b.id ? -1 : a.id > b.id ? 1 : 0);
