import { NamedError } from '../errors';
import { EMPTY_FEEL } from '../feel/feel';
import { compareHits, type Hit, type Lane, type Part } from '../part/part';
import { meterMapOf } from '../part/part-time';
import { markGhosts } from '../part/ghosts';
import { sameMeter, type MeterChange } from '../time/meter-map';
import { DEFAULT_MICROSECONDS_PER_QUARTER, type TempoChange } from '../time/tempo-map';
import { ticks, TICKS_PER_QUARTER, velocity } from '../units';
import { compareVoices, GENERAL_MIDI_KIT, voiceOfKey, type KitMap } from '../voices';
import { listLanes, notesByChannel } from './lanes';
import { channelOf, META, META_METER, META_TEMPO, metaData, type RawTrack, type SmfFile } from './read';

/** Longest part, in quarter notes. */
export const MAX_QUARTERS = 100_000;

export interface ImportOptions {
  name: string;
  lanes: readonly Lane[];
  fileName?: string;
  kitMap?: KitMap;
}

export interface ImportedPart {
  part: Part;
  /** What was unusual and how it was read, in sentences. */
  notices: string[];
}

/**
 * Makes a part of the notes on the chosen lanes, with the file's tempo and meter maps (none: 120 BPM, 4/4). Its length is whole
 * bars up to the last hit.
 * @throws NamedError no-notes, no-drum-notes (details count the notes by channel), part-too-long
 */
export function importPart(file: SmfFile, options: ImportOptions): ImportedPart {
  const notices = [...file.notices];
  const toTicks = tickScale(file);
  const notes = collectNotes(file, options.lanes, notices);
  if (notes.length === 0) {
    const all = listLanes(file);
    throw all.length === 0 ? new NamedError('no-notes') : new NamedError('no-drum-notes', { notesByChannel: notesByChannel(all) });
  }
  const kitMap = options.kitMap ?? GENERAL_MIDI_KIT;
  const hits = makeHits(notes, toTicks, kitMap);
  const lastTick = (hits[hits.length - 1] as Hit).tick;
  if (lastTick > MAX_QUARTERS * TICKS_PER_QUARTER) throw new NamedError('part-too-long', { quarters: Math.round(lastTick / TICKS_PER_QUARTER) });

  const timeTracks = file.format === 2 ? file.tracks.filter((_, i) => options.lanes.some((l) => l.track === i)) : file.tracks;
  const { tempo, meter } = collectMaps(file, timeTracks, toTicks);
  const origin = ticks(0);
  const bars = meterMapOf({ meter, origin }).barAt(lastTick).index + 1;
  const rows = [...new Set(hits.map((h) => h.voice))].sort(compareVoices).map((voice) => ({ voice }));
  const part: Part = {
    format: 'nod-sway/part@1',
    name: options.name,
    tempo,
    meter,
    origin,
    bars,
    kitMap,
    rows,
    hits,
    feel: EMPTY_FEEL,
    source: {
      fileName: options.fileName ?? options.name,
      ppq: file.division.kind === 'metrical' ? file.division.ppq : null,
      lanes: options.lanes.map(({ track, channel }) => ({ track, channel })),
    },
  };
  return { part, notices };
}

/** Turns the file's ticks into ours. SMPTE time is read at 120 BPM. */
export function tickScale(file: SmfFile): (tick: number) => number {
  const { division } = file;
  if (division.kind === 'metrical') return (t) => Math.round((t * TICKS_PER_QUARTER) / division.ppq);
  return (t) => Math.round((t / division.ticksPerSecond) * 2 * TICKS_PER_QUARTER);
}

interface Note {
  key: number;
  velocity: number;
  tick: number;
  end: number;
  lane: number;
}

/** Pairs note-ons with note-offs (the earliest open note of a key ends first); reports the ones that never end. */
function collectNotes(file: SmfFile, lanes: readonly Lane[], notices: string[]): Note[] {
  const notes: Note[] = [];
  let endless = 0;
  lanes.forEach((lane, laneIndex) => {
    const track = file.tracks[lane.track];
    if (!track) return;
    const open = new Map<number, Note[]>();
    for (const event of track.events) {
      const kind = event.status & 0xf0;
      if ((kind !== 0x90 && kind !== 0x80) || channelOf(event.status) !== lane.channel) continue;
      const key = file.bytes[event.start] as number;
      const strength = file.bytes[event.start + 1] as number;
      const waiting = open.get(key);
      if (kind === 0x90 && strength > 0) {
        const note: Note = { key, velocity: strength, tick: event.tick, end: -1, lane: laneIndex };
        notes.push(note);
        if (waiting) waiting.push(note);
        else open.set(key, [note]);
      } else {
        const note = waiting?.shift();
        if (note) note.end = event.tick;
      }
    }
    for (const waiting of open.values()) endless += waiting.length;
  });
  if (endless > 0) notices.push(`${endless} notes had no end; they last a sixteenth.`);
  return notes;
}

function makeHits(notes: Note[], toTicks: (t: number) => number, kitMap: KitMap): Hit[] {
  const ordinals = new Map<string, number>();
  const hits = notes.map((note): Hit => {
    const tick = toTicks(note.tick);
    const place = `${note.key}@${tick}`;
    const ordinal = ordinals.get(place) ?? 0;
    ordinals.set(place, ordinal + 1);
    const hit: Hit = {
      id: `${place}.${ordinal}`,
      voice: voiceOfKey(kitMap, note.key),
      key: note.key,
      tick: ticks(tick),
      length: ticks(note.end < 0 ? TICKS_PER_QUARTER / 4 : toTicks(note.end) - tick),
      velocity: velocity(note.velocity),
    };
    if (note.lane > 0) hit.lane = note.lane;
    return hit;
  });
  return markGhosts(hits.sort(compareHits));
}

function collectMaps(file: SmfFile, tracks: readonly RawTrack[], toTicks: (t: number) => number): { tempo: TempoChange[]; meter: MeterChange[] } {
  const tempo: TempoChange[] = [];
  const meter: MeterChange[] = [];
  for (const track of tracks) {
    for (const event of track.events) {
      if (event.status !== META) continue;
      const { type, data } = metaData(file.bytes, event);
      const tick = ticks(toTicks(event.tick));
      if (type === META_TEMPO && data.length >= 3 && file.division.kind === 'metrical') {
        const microsecondsPerQuarter = ((data[0] as number) << 16) | ((data[1] as number) << 8) | (data[2] as number);
        if (microsecondsPerQuarter > 0) tempo.push({ tick, microsecondsPerQuarter });
      } else if (type === META_METER && data.length >= 2) {
        const numerator = data[0] as number;
        const power = data[1] as number;
        if (numerator > 0 && numerator <= 64 && power <= 6) meter.push({ tick, numerator, denominator: 2 ** power });
      }
    }
  }
  return { tempo: tidyTempo(tempo), meter: tidyMeter(meter) };
}

/** Sorted, one a tick (the last counts), starting at 0. */
function tidyTempo(changes: TempoChange[]): TempoChange[] {
  const tidy: TempoChange[] = [];
  for (const change of changes.sort((a, b) => a.tick - b.tick)) {
    const last = tidy[tidy.length - 1];
    if (last?.tick === change.tick) tidy.pop();
    else if (last?.microsecondsPerQuarter === change.microsecondsPerQuarter) continue;
    tidy.push(change);
  }
  if (tidy[0]?.tick !== 0) tidy.unshift({ tick: ticks(0), microsecondsPerQuarter: DEFAULT_MICROSECONDS_PER_QUARTER });
  return tidy;
}

function tidyMeter(changes: MeterChange[]): MeterChange[] {
  const tidy: MeterChange[] = [];
  for (const change of changes.sort((a, b) => a.tick - b.tick)) {
    if (tidy[tidy.length - 1]?.tick === change.tick) tidy.pop();
    const last = tidy[tidy.length - 1];
    if (last && sameMeter(last, change)) continue;
    tidy.push(change);
  }
  if (tidy[0]?.tick !== 0) tidy.unshift({ tick: ticks(0), numerator: 4, denominator: 4 });
  // The default may now be repeated by the file's first change.
  return tidy.filter((change, i) => i === 0 || !sameMeter(tidy[i - 1] as MeterChange, change));
}
