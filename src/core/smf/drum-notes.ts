import { cutLengths, type Performance } from '../perform/perform';
import { isSpilled, strokesOf, type StrokeColumns } from '../ornament/strokes';
import { breakOfRow, keyOfPiece, pieceOfHit } from '../breaks/rows';
import { FIRST_PIECE_KEY } from '../model/break';
import { placeOfId } from '../song/unroll';
import type { Hit, HitId, Part } from '../model/part';
import { endOfPart, tempoMapOf } from '../part/part-time';
import { generalMidiKey, isGeneralMidiKey } from '../part/rows';
import { NO_TARGET, type OutputMap } from '../model/output-map';
import { controlsOfNotes, type Control } from './controls-of-notes';
import { channelFor, keysOfHits, velocityFor } from '../output-map/leaving';
import { audibleVoices } from '../playback/program';
import { clamp, milliseconds, roundHalfUp, ticks, type Milliseconds } from '../units';
import type { VoiceName } from '../row-names';
import type { Ornamented } from '../ornament/ornament-spec';

/** What happens to hits that are performed before the file's start: moved to 0, a bar put in front, or wrapped to the loop's end. */
export const EARLY_RULES = ['zero', 'lead-in', 'wrap'] as const;
export type EarlyRule = (typeof EARLY_RULES)[number];

/** Notes ready to be written: whole ticks of the target's resolution, sorted by tick; columns run parallel. */
export interface DrumNotes {
  ticks: Float64Array;
  ends: Float64Array;
  keys: Uint8Array;
  velocities: Uint8Array;
  /** Index of each note's hit in the part. */
  hits: Uint32Array;
  /** Which stroke of its hit: 0 for the hit itself. */
  numbers: Uint16Array;
  /** Which of the part's rows plays each note, by index. */
  rows: Uint16Array;
  /** Semitones that each note stands off its key, where that is written; null where it is not. */
  bends: Float32Array | null;
  /** Pedal movements and pressure that go with notes, by tick. */
  controls: Control[];
  left: LeftOut;
}

/** What the notes do not show of the part, in numbers. */
export interface LeftOut {
  /** How many were performed before 0. */
  early: number;
  /** Rows with hits that do not sound: muted, or silenced by a solo. */
  silent: VoiceName[];
  /** Notes that fell on another of their key, track and channel: one is left, the louder. */
  merged: number;
  /** Notes whose end a choke brought forward. */
  choked: number;
  /** Strokes of ornaments behind the part's end. */
  spilled: number;
  /** Rows that were written with the General MIDI key of what stands for them, instead of their own. */
  folded: VoiceName[];
  /** Rows with keys that General MIDI does not know. */
  beyond: VoiceName[];
  /** Rows that play pieces of a recording, which MIDI has not. */
  recorded: VoiceName[];
  /** Hits of pieces that no key is left for. */
  keyless: number;
  /** Notes whose pitch was written, as a bend or as another key. */
  pitched: number;
}

/** How performed ticks become the file's: scaled, and early ones by rule. `barTicks` and `loopTicks` are in the file's ticks. */
export interface NoteScale {
  perTick: number;
  early: EarlyRule;
  barTicks: number;
  loopTicks: number;
  /** Rows that do not sound are written, too. */
  withMuted?: boolean;
  /** Only keys of General MIDI: other rows get the key of what stands for them. */
  generalMidi?: boolean;
  /** This break's rows alone, each of its pieces on a key of its own; rows of breaks are left out without it. */
  pieces?: string;
  /** Each of the song's lanes is a track of its own. */
  byLane?: boolean;
  /** Keys, velocities, lengths and an offset by another instrument's wants. */
  target?: OutputMap;
  /** These rows alone, muted or not. */
  onlyRows?: ReadonlySet<VoiceName>;
  /** These hits alone, by their ids in the part. */
  onlyHits?: ReadonlySet<HitId>;
  /** What becomes of pitch: left out, a bend before the note, or the key so many semitones off. */
  pitch?: PitchRule;
}

/** What becomes of the pitch of hits, which one key has none of. */
export const PITCH_RULES = ['left', 'bend', 'keys'] as const;
export type PitchRule = (typeof PITCH_RULES)[number];

/** What is written is what is heard. */
export type Noted = Ornamented & Pick<Part, 'rows' | 'bars' | 'breaks' | 'kitMap'>;

/**
 * Rounds performed hits and the strokes of their ornaments to a file's ticks (half up). Rows that do not sound are left out unless
 * they are asked for, and so is what ornaments would play behind the part's end. Of notes of one key and lane at one tick the louder
 * stays; they never overlap, the earlier is cut. A choke is no note: it ends its row's last note before it.
 */
export function drumNotes(part: Noted, performance: Performance, scale: NoteScale): DrumNotes {
  const strokes = strokesOf(part, performance);
  const left: LeftOut = {
    early: 0,
    silent: [],
    merged: 0,
    choked: 0,
    spilled: 0,
    folded: [],
    beyond: [],
    recorded: [],
    keyless: 0,
    pitched: 0,
  };
  const chosen = soundingStrokes(part, strokes, scale, left);
  const times = new Float64Array(strokes.ticks.length);
  const hitOf = (s: number): Hit => part.hits[strokes.hits[s] as number] as Hit;
  const target = scale.target ?? NO_TARGET;
  const placeOf = later(part, target.offsetMs);
  const lead =
    scale.early === 'lead-in' && chosen.some((s) => !hitOf(s).choke && roundHalfUp(placeOf(strokes.ticks[s] as number) * scale.perTick) < 0)
      ? scale.barTicks
      : 0;
  for (const s of chosen) {
    let t = roundHalfUp(placeOf(strokes.ticks[s] as number) * scale.perTick);
    if (t < 0) {
      if (!hitOf(s).choke) left.early++;
      if (scale.early === 'wrap' && t + scale.loopTicks >= 0) t += scale.loopTicks;
      else if (lead === 0) t = 0;
    }
    times[s] = Math.max(0, t + lead);
  }
  const struck = chosen.filter((s) => !hitOf(s).choke);
  const keys = keysOf(part, strokes, struck, scale, left);
  const rows = rowNumberer(part, strokes);
  const bends = pitchesOf(part, strokes, struck, performance, scale, keys, left);
  const channels = part.rows.map((r) => channelFor(target, r.voice));
  // Where each row has a track, notes of one key in two rows are two.
  const trackOf = (s: number): number => (scale.byLane ? (hitOf(s).lane ?? 0) : target.tracks === 'rows' ? rows(s) : 0);
  const groupOf = (s: number): number => (trackOf(s) * CHANNELS + (channels[rows(s)] ?? 0)) * KEYS + (keys[s] as number);
  const hasPositions = part.hits.some((h) => h.position !== undefined);
  const { kept: sounding, alone } = mergeEqual(
    struck,
    times,
    strokes,
    groupOf,
    left,
    hasPositions ? (s) => hitOf(s).position === undefined : null,
  );
  const n = sounding.length;
  const notes: DrumNotes = {
    ticks: new Float64Array(n),
    ends: new Float64Array(n),
    keys: new Uint8Array(n),
    velocities: new Uint8Array(n),
    hits: new Uint32Array(n),
    numbers: new Uint16Array(n),
    rows: new Uint16Array(n),
    bends: bends && new Float32Array(n),
    controls: [],
    left,
  };
  const lengths = new Float64Array(n);
  const tempo = target.noteMs === null ? null : tempoMapOf(part);
  const lengthOf = (s: number): number =>
    tempo
      ? tempo.shift(ticks(strokes.ticks[s] as number), milliseconds(target.noteMs ?? 0)) - (strokes.ticks[s] as number)
      : alone.has(s) && strokes.numbers[s] === 0
        ? hitOf(s).length
        : (strokes.lengths[s] as number);
  const groups = new Uint32Array(n);
  sounding.forEach((s, k) => {
    notes.ticks[k] = times[s] as number;
    notes.keys[k] = keys[s] as number;
    notes.velocities[k] = scale.target ? velocityFor(target, strokes.velocities[s] as number) : (strokes.velocities[s] as number);
    notes.hits[k] = strokes.hits[s] as number;
    notes.numbers[k] = strokes.numbers[s] as number;
    notes.rows[k] = rows(s);
    if (bends && notes.bends) notes.bends[k] = bends[s] as number;
    groups[k] = groupOf(s);
    lengths[k] = Math.max(1, roundHalfUp(lengthOf(s) * scale.perTick));
  });
  notes.controls = controlsOfNotes(
    part,
    notes,
    scale.perTick,
    target,
    (note) => channels[notes.rows[note] as number] ?? 0,
    scale.byLane === true,
  );
  const cut = cutLengths(groups, notes.ticks, lengths);
  for (let k = 0; k < n; k++) notes.ends[k] = (notes.ticks[k] as number) + (cut[k] as number);
  endAtChokes(part, strokes, chosen, sounding, times, notes);
  return notes;
}

/** Places so many ms later in real time. */
function later(part: Pick<Part, 'tempo'>, ms: number): (tick: number) => number {
  if (ms === 0) return (tick) => tick;
  const tempo = tempoMapOf(part);
  return (tick) => tempo.shift(ticks(tick), ms as Milliseconds);
}

/** A MIDI key has no pitch: it is written as bends, as other keys, or not at all. */
function pitchesOf(
  part: Noted,
  strokes: StrokeColumns,
  struck: readonly number[],
  { timbre }: Performance,
  { pitch = 'left' }: NoteScale,
  keys: Uint8Array,
  left: LeftOut,
): Float32Array | null {
  if (pitch === 'left') return null;
  const bends = pitch === 'bend' ? new Float32Array(strokes.ticks.length) : null;
  for (const s of struck) {
    const hit = strokes.hits[s] as number;
    const semitones = timbre ? (timbre.pitches[hit] as number) : (part.hits[hit]?.pitch ?? 0);
    if (bends ? semitones === 0 : Math.round(semitones) === 0) continue;
    left.pitched++;
    if (bends) bends[s] = semitones;
    else keys[s] = clamp((keys[s] as number) + Math.round(semitones), 0, KEYS - 1);
  }
  return left.pitched > 0 ? bends : null;
}

const KEYS = 128;
const CHANNELS = 17;
/** The last piece that a key names. */
const LAST_PIECE = KEYS - 1 - FIRST_PIECE_KEY;

/** Strokes that are heard, chokes among them, in the part's order. */
function soundingStrokes(
  part: Noted,
  strokes: StrokeColumns,
  { withMuted = false, pieces, onlyRows, onlyHits }: NoteScale,
  left: LeftOut,
): number[] {
  const audible = audibleVoices(part);
  const end = endOfPart(part);
  const silent = new Set<VoiceName>();
  const recorded = new Set<VoiceName>();
  const breaks = new Map(part.rows.map((r) => [r.voice, breakOfRow(part, r.voice)?.id]));
  const chosen: number[] = [];
  for (let s = 0; s < strokes.ticks.length; s++) {
    const voice = voiceOf(part, strokes, s);
    const of = breaks.get(voice);
    const hit = part.hits[strokes.hits[s] as number] as Hit;
    if ((onlyRows && !onlyRows.has(hit.voice)) || (onlyHits && !onlyHits.has(placeOfId(hit.id).id))) continue;
    if (of !== pieces) {
      if (of !== undefined) recorded.add(voice);
    } else if (pieces !== undefined && (hit.piece ?? 0) > LAST_PIECE) left.keyless++;
    else if (!withMuted && !onlyRows && !audible.has(voice)) silent.add(voice);
    else if (isSpilled(strokes, s, end)) left.spilled++;
    else chosen.push(s);
  }
  left.silent = [...silent];
  left.recorded = [...recorded];
  return chosen;
}

/** The key of each stroke, by its number; those outside of General MIDI are named, or folded where only its keys are wanted. */
function keysOf(
  part: Noted,
  strokes: StrokeColumns,
  struck: readonly number[],
  { generalMidi: fold = false, pieces, target }: NoteScale,
  left: LeftOut,
): Uint8Array {
  const keys = Uint8Array.from(strokes.keys);
  const of = part.breaks?.find((b) => b.id === pieces);
  if (of) {
    for (const s of struck) keys[s] = keyOfPiece(pieceOfHit(of, part.hits[strokes.hits[s] as number] as Hit));
    return keys;
  }
  const asKeys = target?.articulation === 'keys';
  if (target && (asKeys || target.keys.kind !== 'hits')) {
    const keyOf = keysOfHits(part, target);
    for (const s of struck) keys[s] = keyOf(part.hits[strokes.hits[s] as number] as Hit, voiceOf(part, strokes, s), keys[s] as number);
    return keys;
  }
  const rows = rowNumberer(part, strokes);
  const known = new Map<number, number>();
  const [folded, beyond] = [new Set<VoiceName>(), new Set<VoiceName>()];
  for (const s of struck) {
    const key = keys[s] as number;
    if (!fold && isGeneralMidiKey(key)) continue;
    const id = rows(s) * KEYS + key;
    let next = known.get(id);
    if (next === undefined) {
      const row = voiceOf(part, strokes, s);
      next = fold ? (generalMidiKey(part, row, key) ?? key) : key;
      known.set(id, next);
      if (next !== key) folded.add(row);
      if (!isGeneralMidiKey(next)) beyond.add(row);
    }
    keys[s] = next;
  }
  left.folded = [...folded];
  left.beyond = [...beyond];
  return keys;
}

/** Which of the part's rows each stroke is played by, by index; rows that the part has not come behind its own. */
function rowNumberer(part: Pick<Part, 'hits' | 'rows'>, strokes: StrokeColumns): (s: number) => number {
  const numbers = new Map(part.rows.map((r, i) => [r.voice, i]));
  return (s) => {
    const row = voiceOf(part, strokes, s);
    let number = numbers.get(row);
    if (number === undefined) numbers.set(row, (number = numbers.size));
    return number;
  };
}

const voiceOf = (part: Pick<Part, 'hits'>, strokes: StrokeColumns, s: number): VoiceName =>
  strokes.voices.get(s) ?? (part.hits[strokes.hits[s] as number] as Hit).voice;

/**
 * Strokes in the order in which they are written; of equal ones the louder alone, the first of equally loud ones. Those are `alone`: the
 * one that goes cuts no length. At the same tick strokes with a position come first, since a position applies to the next note.
 */
function mergeEqual(
  chosen: readonly number[],
  times: Float64Array,
  strokes: StrokeColumns,
  groupOf: (s: number) => number,
  left: LeftOut,
  isLater: ((s: number) => boolean) | null,
): { kept: Uint32Array; alone: ReadonlySet<number> } {
  const alone = new Set<number>();
  const order = Uint32Array.from(chosen).sort(
    (a, b) => (times[a] as number) - (times[b] as number) || (isLater ? Number(isLater(a)) - Number(isLater(b)) : 0) || a - b,
  );
  const kept: number[] = [];
  let tick = Number.NaN;
  let atTick = new Map<number, number>();
  for (const s of order) {
    if (times[s] !== tick) {
      tick = times[s] as number;
      if (atTick.size > 0) atTick = new Map();
    }
    const group = groupOf(s);
    const place = atTick.get(group);
    if (place === undefined) atTick.set(group, kept.push(s) - 1);
    else {
      left.merged++;
      if ((strokes.velocities[s] as number) > (strokes.velocities[kept[place] as number] as number)) kept[place] = s;
      alone.add(kept[place] as number);
    }
  }
  return { kept: Uint32Array.from(kept), alone };
}

/** Ends the last note of a row where a choke of that row is performed. */
function endAtChokes(
  part: Noted,
  strokes: StrokeColumns,
  chosen: readonly number[],
  sounding: Uint32Array,
  times: Float64Array,
  notes: DrumNotes,
) {
  const isChoke = (s: number): boolean => (part.hits[strokes.hits[s] as number] as Hit).choke === true;
  if (!chosen.some(isChoke)) return;
  const noteOf = new Map([...sounding].map((s, k) => [s, k]));
  const lastOfRow = new Map<VoiceName, number>();
  const performed = [...chosen].sort((a, b) => (strokes.ticks[a] as number) - (strokes.ticks[b] as number) || a - b);
  for (const s of performed) {
    const voice = voiceOf(part, strokes, s);
    const note = noteOf.get(s);
    if (note !== undefined) lastOfRow.set(voice, note);
    if (!isChoke(s)) continue;
    const last = lastOfRow.get(voice);
    const at = times[s] as number;
    if (last === undefined || at < (notes.ticks[last] as number) || at > (notes.ends[last] as number)) continue;
    // A choke of the note's own key cut it already when it was performed.
    const stroke = sounding[last] as number;
    if (at === notes.ends[last] && (part.hits[strokes.hits[stroke] as number] as Hit).length <= (strokes.lengths[stroke] as number))
      continue;
    notes.ends[last] = Math.max((notes.ticks[last] as number) + 1, at);
    notes.left.choked++;
  }
}
