import { counted, plural } from '../plurals';
import { NamedError } from '../errors';
import { EMPTY_FEEL } from '../model/feel';
import { MAX_BARS, MAX_QUARTERS, MOST_HITS, MOST_METERS, MOST_TEMPOS, shortName } from '../limits';
import { compareHits, type Hit, type Lane, type Part } from '../model/part';
import { provisionalHome } from '../homes/homes';
import { withHomesRead } from '../reading/read-into';
import { meterMapOf } from '../part/part-time';
import { ghostLimits, isGhost } from '../ghosts/imported';
import { sameMeter, type MeterChange } from '../time/meter-map';
import { DEFAULT_MICROSECONDS_PER_QUARTER, type TempoChange } from '../time/tempo-map';
import { ticks, TICKS_PER_QUARTER, velocity } from '../units';
import { GENERAL_MIDI_KIT, isGeneralMidi, voiceOfKey, type KitMap } from '../key-map';
import { nextRow } from '../row-names';
import { compareVoices, generalMidiKeys, VOICES } from '../voices';
import { listLanes, notesByChannel } from './lanes';
import { LaneArticulation } from './lane-articulation';
import { TrackEvents } from './track-events';
import { channelOf, META, META_METER, META_TEMPO, metaData, type RawTrack, type SmfFile } from './read';

/** No tick of a part lies further from zero. */
const LAST_TICK = MAX_QUARTERS * TICKS_PER_QUARTER;

export interface ImportOptions {
  name: string;
  lanes: readonly Lane[];
  fileName?: string;
  kitMap?: KitMap;
  /** Homes are not read: each hit has the line that it stands on, or the nearest sixteenth. For who reads them later, or needs none. */
  unread?: true;
}

export interface ImportedPart {
  part: Part;
  /** What was unusual and how it was read, in sentences. */
  notices: string[];
}

/**
 * Makes a part of the notes on the chosen lanes, with the file's tempo and meter maps (none: 120 BPM, 4/4). Its length is whole
 * bars up to the last hit.
 * @throws NamedError no-notes, no-drum-notes (details count the notes by channel), part-too-long, too-many-hits, too-many-bars,
 *   too-many-tempos, too-many-meters
 */
export function importPart(file: SmfFile, options: ImportOptions): ImportedPart {
  const notices = [...file.notices];
  const toTicks = tickScale(file);
  const asked = options.kitMap ?? GENERAL_MIDI_KIT;
  const { hits, kitMap } = collectHits(file, options.lanes, toTicks, asked, notices);
  if (hits.length === 0) {
    const all = listLanes(file);
    throw all.length === 0 ? new NamedError('no-notes') : new NamedError('no-drum-notes', { notesByChannel: notesByChannel(all) });
  }
  const lastTick = (hits[hits.length - 1] as Hit).tick;
  if (lastTick > LAST_TICK) throw new NamedError('part-too-long', { quarters: Math.round(lastTick / TICKS_PER_QUARTER) });

  const { tempo, meter } = mapsOfSong(file, options.lanes, notices);
  const origin = ticks(0);
  const bars = meterMapOf({ meter, origin }).barAt(lastTick).index + 1;
  if (bars > MAX_BARS) throw new NamedError('too-many-bars', { bars });
  const name = shortName(options.name.trim()) || 'Untitled';
  if (name.length < options.name.trim().length) notices.push('The name was longer than 240 letters and was shortened.');
  const rows = [...new Set(hits.map((h) => h.voice))].sort(compareVoices).map((voice) => ({ voice }));
  const part: Part = {
    format: 'nod-sway/part@6',
    name,
    tempo,
    meter,
    origin,
    bars,
    kitMap,
    rows,
    hits,
    feel: EMPTY_FEEL,
    source: {
      fileName: shortName(options.fileName ?? name),
      ppq: file.division.kind === 'metrical' ? file.division.ppq : null,
      lanes: options.lanes.map(({ track, channel }) => ({ track, channel })),
    },
  };
  return { part: options.unread ? withProvisionalHomes(part) : withHomesRead(part), notices };
}

/** Turns the file's ticks into ours. SMPTE time is read at 120 BPM. */
export function tickScale(file: SmfFile): (tick: number) => number {
  const { division } = file;
  if (division.kind === 'metrical') return (t) => Math.round((t * TICKS_PER_QUARTER) / division.ppq);
  return (t) => Math.round((t / division.ticksPerSecond) * 2 * TICKS_PER_QUARTER);
}

/**
 * Makes a hit of each note on the lanes: note-ons are paired with note-offs (the earliest open note of a key ends first), those
 * that never end are reported. One object a note, filled in as its end is met: large files are mostly made of this.
 */
function collectHits(
  file: SmfFile,
  lanes: readonly Lane[],
  toTicks: (t: number) => number,
  kitMap: KitMap,
  notices: string[],
): { hits: Hit[]; kitMap: KitMap } {
  const hits: Hit[] = [];
  const used = new Uint8Array(128);
  const voices = Array.from({ length: 128 }, (_, key) => voiceOfKey(kitMap, key));
  let endless = 0;
  let held = 0;
  lanes.forEach((lane, laneIndex) => {
    // Nearly always one note of a key is open at a time: the others wait in a list that is made when it is needed.
    const open: (Hit | undefined)[] = new Array<Hit | undefined>(128).fill(undefined);
    const later = new Map<number, Waiting>();
    const events = file.tracks[lane.track]?.events ?? new TrackEvents(1);
    const articulation = new LaneArticulation(file.division);
    for (let i = 0; i < events.length; i++) {
      const status = events.statuses[i] as number;
      const kind = status & 0xf0;
      if ((kind !== 0x90 && kind !== 0x80 && kind !== 0xb0) || channelOf(status) !== lane.channel) continue;
      const at = events.starts[i] as number;
      if (kind === 0xb0) {
        articulation.moved(file.bytes[at] as number, file.bytes[at + 1] as number, events.ticks[i] as number);
        continue;
      }
      const key = file.bytes[at] as number;
      const strength = file.bytes[at + 1] as number;
      const tick = toTicks(events.ticks[i] as number);
      if (kind === 0x90 && strength > 0) {
        const hit: Hit = {
          id: '',
          voice: voices[key] as string,
          key,
          tick: ticks(tick),
          home: ticks(tick),
          length: ticks(TICKS_PER_QUARTER / 4),
          velocity: velocity(strength),
        };
        used[key] = 1;
        if (laneIndex > 0) hit.lane = laneIndex;
        articulation.on(hit, events.ticks[i] as number);
        if (hits.push(hit) > MOST_HITS) throw new NamedError('too-many-hits');
        const waiting = later.get(key);
        if (!open[key]) open[key] = hit;
        else if (waiting) waiting.hits.push(hit);
        else later.set(key, { hits: [hit], next: 0 });
      } else {
        const hit = open[key];
        if (!hit) continue;
        hit.length = ticks(Math.min(LAST_TICK, tick - hit.tick));
        if (tick - hit.tick > LAST_TICK) held++;
        open[key] = undefined;
        const waiting = later.size > 0 ? later.get(key) : undefined;
        if (waiting && waiting.next < waiting.hits.length) open[key] = waiting.hits[waiting.next++];
      }
    }
    for (const hit of open) if (hit) endless++;
    for (const waiting of later.values()) endless += waiting.hits.length - waiting.next;
  });
  if (endless > 0) notices.push(`${endless} notes had no end; they last a sixteenth.`);
  if (held > 0)
    notices.push(
      `${counted(held, 'note was', 'notes were')} held for over 100,000 quarter notes and ${plural(held, 'was', 'were')} cut there.`,
    );
  const split = splitKeys(kitMap, (key) => used[key] === 1);
  if (split !== kitMap) for (const hit of hits) hit.voice = voiceOfKey(split, hit.key);
  return { hits: giveIds(hits), kitMap: split };
}

/** Hits of a file that was just read have nobody else who knows them: they get their homes in place. */
function withProvisionalHomes(part: Part): Part {
  const map = meterMapOf(part);
  for (const hit of part.hits as Hit[]) hit.home = provisionalHome(map, hit.tick);
  return part;
}

/**
 * By General MIDI's map two keys may play one voice: where a file uses both, the second gets a row of its own. Other maps say
 * themselves what is to be apart.
 */
function splitKeys(kitMap: KitMap, isUsed: (key: number) => boolean): KitMap {
  if (!isGeneralMidi(kitMap)) return kitMap;
  const apart = VOICES.flatMap((name) => {
    const [first, second] = generalMidiKeys(name);
    return first !== undefined && second !== undefined && isUsed(first) && isUsed(second)
      ? [[second, nextRow(new Set([name]), name)] as const]
      : [];
  });
  return apart.length === 0 ? kitMap : { ...kitMap, voices: { ...kitMap.voices, ...Object.fromEntries(apart) } };
}

/** Notes of a key that started while an earlier one was held; those before `next` have been taken. */
interface Waiting {
  hits: Hit[];
  next: number;
}

/** Sorts, and names each hit by key, tick and ordinal among equals: importing a file again gives the same ids. */
function giveIds(hits: Hit[]): Hit[] {
  const order = (a: Hit, b: Hit): number => a.tick - b.tick || a.key - b.key;
  if (!isSorted(hits, order)) hits.sort(order);
  let ordinal = 0;
  let most = 0;
  for (let i = 0; i < hits.length; i++) {
    const hit = hits[i] as Hit;
    const before = hits[i - 1];
    ordinal = before && before.tick === hit.tick && before.key === hit.key ? ordinal + 1 : 0;
    most = Math.max(most, ordinal);
    hit.id = ordinal === 0 ? `${hit.key}@${hit.tick}` : `${hit.key}@${hit.tick}.${ordinal}`;
  }
  // From ten equal strokes on their ids sort otherwise than they came.
  const limits = ghostLimits(hits);
  for (const hit of hits) if (isGhost(hit, limits)) hit.ghost = true;
  return most < 10 ? hits : hits.sort(compareHits);
}

function isSorted<T>(list: readonly T[], order: (a: T, b: T) => number): boolean {
  for (let i = 1; i < list.length; i++) if (order(list[i - 1] as T, list[i] as T) > 0) return false;
  return true;
}

/**
 * The tempo and meter maps of a file, in our ticks; of a format 2 file those of the lanes' tracks.
 * @throws NamedError too-many-tempos, too-many-meters
 */
export function mapsOfSong(file: SmfFile, lanes: readonly Lane[], notices: string[] = []): { tempo: TempoChange[]; meter: MeterChange[] } {
  const toTicks = tickScale(file);
  const chosen = new Set(lanes.map((l) => l.track));
  const tracks: readonly RawTrack[] = file.format === 2 ? file.tracks.filter((_, i) => chosen.has(i)) : file.tracks;
  const tempo: TempoChange[] = [];
  const meter: MeterChange[] = [];
  for (const track of tracks) {
    const { length, statuses, starts, ends } = track.events;
    for (let i = 0; i < length; i++) {
      if (statuses[i] !== META) continue;
      const kind = file.bytes[starts[i] as number];
      if (kind !== META_TEMPO && kind !== META_METER) continue;
      const { type, data } = metaData(file.bytes, { start: starts[i] as number, end: ends[i] as number });
      const tick = ticks(toTicks(track.events.ticks[i] as number));
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
  if (tempo.length > MOST_TEMPOS) throw new NamedError('too-many-tempos');
  if (meter.length > MOST_METERS) throw new NamedError('too-many-meters');
  const far = [...tempo, ...meter].filter((change) => change.tick > LAST_TICK).length;
  if (far > 0)
    notices.push(`${counted(far, 'change')} of tempo or meter after 100,000 quarter notes ${plural(far, 'was', 'were')} left out.`);
  return { tempo: tidyTempo(tempo.filter((t) => t.tick <= LAST_TICK)), meter: tidyMeter(meter.filter((m) => m.tick <= LAST_TICK)) };
}

/** Sorted, one a tick (the last counts), starting at 0; repeated equal ones stay, so that an export has as many. */
function tidyTempo(changes: TempoChange[]): TempoChange[] {
  const tidy: TempoChange[] = [];
  for (const change of changes.sort((a, b) => a.tick - b.tick)) {
    const last = tidy[tidy.length - 1];
    if (last?.tick === change.tick) tidy.pop();
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
