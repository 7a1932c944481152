import { NamedError } from '../errors';
import { playedPart } from '../song/played';
import { tempoMapOf } from '../part/part-time';
import { COMPANION_MS, type Hit, type Lane, type Part } from '../model/part';
import type { OutputMap } from '../model/output-map';
import { bpmOf, type TempoChange } from '../time/tempo-map';
import { MeterMap, type MeterChange } from '../time/meter-map';
import { roundHalfUp, ticks, TICKS_PER_QUARTER } from '../units';
import { drumNotes, type DrumNotes } from './drum-notes';
import { defaultPpq, MAX_PPQ, type ExportResult } from './export-part';
import { FOOT_CONTROLLER, POSITION_CONTROLLER } from '../articulation/controllers';
import { HeldControls } from './held-controls';
import { noteEvents, writeNote, type NoteEvent } from './note-tracks';
import { mapsOfSong, tickScale } from './import-part';
import { channelOf, isNote, META, META_END_OF_TRACK, type SmfFile } from './read';
import type { TrackEvents } from './track-events';
import { SmfWriter } from './write';

export interface SongExportOptions {
  written?: boolean;
  /** A multiple of the source's resolution; by default the least that reaches 960. */
  ppq?: number;
  /** Rows that are muted, or silenced by a solo, are written, too. */
  withMuted?: boolean;
  /** Only keys of General MIDI: rows outside of them get the key of what stands for them. */
  generalMidi?: boolean;
  /** How notes leave; by default the part's own target. */
  target?: OutputMap;
}

/**
 * Writes the imported song with only its drums replaced. Every event that is not a note of the drum part keeps its bytes and its
 * place (times the factor); controllers of the hat's pedal and of positions, and pressure, of the drum channels move with the hit that
 * follows them within 30 ms. Running status is written out, and tracks end on one bar line, behind the last event of all.
 * @throws NamedError no-source, bad-resolution, meter-changed
 */
export function exportSong(whole: Part, file: SmfFile, options: SongExportOptions = {}): ExportResult {
  if (!whole.source) throw new NamedError('no-source');
  if (!fitsSong(whole, file)) throw new NamedError('meter-changed');
  const factor = factorOf(whole, file, options.ppq);
  const perTick = ticksPerInternalTick(file) * factor;
  const { part, performance } = playedPart(whole, { written: options.written === true });
  // Tracks and channels are the song's; keys, velocities and lengths go with the output map.
  const target = options.target ?? whole.target;
  const notes = drumNotes(part, performance, {
    perTick,
    early: 'zero',
    barTicks: 0,
    loopTicks: 0,
    withMuted: options.withMuted === true,
    generalMidi: options.generalMidi === true,
    byLane: true,
    ...(target ? { target: { ...target, tracks: 'one', channels: {} } } : {}),
  });
  const { lanes } = whole.source;
  const isDrumLane = laneTest(lanes);
  const shifts = companionShifts(part, file, notes, perTick);
  const ppq = file.division.kind === 'metrical' ? file.division.ppq * factor : file.division.raw;
  const laneOf = (e: NoteEvent): Lane => lanes[(part.hits[notes.hits[e.note] as number] as Hit).lane ?? 0] as Lane;

  const w = new SmfWriter();
  w.header(file.format, file.tracks.length, ppq);
  const ends = endsOf(part, file, notes, factor, perTick);
  const own = byTrack(noteEvents(notes), (e) => laneOf(e).track, file.tracks.length);
  file.tracks.forEach(({ events }, track) => {
    const moved = shifts.get(track);
    const tickOf = (i: number): number => moved?.get(i) ?? (events.ticks[i] as number) * factor;
    const kept: number[] = [];
    for (let i = 0; i < events.length; i++)
      if (!(isNote(events.statuses[i] as number) && isDrumLane(track, channelOf(events.statuses[i] as number)))) kept.push(i);
    // Companions may have changed places with their neighbours; the sort is stable, so all else keeps its order.
    if (moved) kept.sort((a, b) => tickOf(a) - tickOf(b));
    writeTrack(w, file.bytes, events, kept, tickOf, own[track] as NoteEvent[], notes, (e) => laneOf(e).channel, ends(track));
  });
  return {
    bytes: w.finish(),
    notes: notes.ticks.length,
    ppq,
    earlyRule: 'zero',
    bpm: bpmOf(part.tempo[0] as TempoChange),
    bars: barsTo(ends(0) / perTick, part),
    left: notes.left,
    changesBehind: 0,
    rowTracks: 0,
  };
}

const barsTo = (tick: number, { meter }: Pick<Part, 'meter'>): number => new MeterMap(meter).barAt(ticks(tick)).index;

/**
 * Where tracks end: all of them on the bar line behind the last event; tracks of format 2, which are songs of their own, each on its own.
 */
function endsOf(
  { meter }: Pick<Part, 'meter'>,
  file: SmfFile,
  notes: DrumNotes,
  factor: number,
  perTick: number,
): (track: number) => number {
  const map = new MeterMap(meter);
  const lineBehind = (tick: number): number => {
    const bar = map.barAt(ticks(tick / perTick));
    const at = roundHalfUp(bar.start * perTick);
    return at >= tick ? at : roundHalfUp(map.barOf(bar.index + 1).start * perTick);
  };
  const lastNote = notes.ends.reduce((last, end) => Math.max(last, end), 0);
  const lasts = file.tracks.map(({ events }) => (events.length > 0 ? (events.ticks[events.length - 1] as number) * factor : 0));
  if (file.format === 2) return (track) => lineBehind(Math.max(lastNote, lasts[track] ?? 0));
  const end = lineBehind(lasts.reduce((last, tick) => Math.max(last, tick), lastNote));
  return () => end;
}

/**
 * Whether the part still has the song's bars: with other ones, or a grid that was made for its hits alone, its tracks no longer fit. How
 * beats are grouped does not matter.
 */
export function fitsSong(part: Pick<Part, 'meter' | 'source' | 'playerTempo'>, file: SmfFile): boolean {
  if (!part.source || part.playerTempo) return false;
  const lengths = (meter: readonly MeterChange[]): string => meter.map((m) => `${m.tick} ${m.numerator}/${m.denominator}`).join();
  return lengths(part.meter) === lengths(mapsOfSong(file, part.source.lanes).meter);
}

function byTrack(events: readonly NoteEvent[], trackOf: (e: NoteEvent) => number, tracks: number): NoteEvent[][] {
  const lists = Array.from({ length: tracks }, (): NoteEvent[] => []);
  for (const e of events) lists[trackOf(e)]?.push(e);
  return lists;
}

function factorOf(part: Part, file: SmfFile, ppq: number | undefined): number {
  if (file.division.kind === 'smpte') return 1;
  const own = file.division.ppq;
  const wanted = ppq ?? defaultPpq({ ...part, source: { fileName: '', lanes: [], ppq: own } });
  if (wanted % own !== 0 || wanted > MAX_PPQ || wanted < own) throw new NamedError('bad-resolution', { ppq: wanted, source: own });
  return wanted / own;
}

const ticksPerInternalTick = (file: SmfFile): number =>
  file.division.kind === 'metrical' ? file.division.ppq / TICKS_PER_QUARTER : file.division.ticksPerSecond / (2 * TICKS_PER_QUARTER);

/** Whether a track and channel is one of the lanes. */
function laneTest(lanes: readonly Lane[]): (track: number, channel: number) => boolean {
  const known = new Set(lanes.map((l) => l.track * 16 + l.channel - 1));
  return (track, channel) => known.has(track * 16 + channel - 1);
}

/** Merges kept events and new notes: at one tick first the note-offs, then what was kept, then the note-ons; the end mark last. */
function writeTrack(
  w: SmfWriter,
  bytes: Uint8Array,
  events: TrackEvents,
  kept: readonly number[],
  tickOf: (i: number) => number,
  own: readonly NoteEvent[],
  notes: DrumNotes,
  channel: (e: NoteEvent) => number,
  end: number,
) {
  w.track(() => {
    let now = 0;
    let next = 0;
    const held = new HeldControls();
    const advance = (tick: number) => {
      w.delta(Math.max(0, tick - now));
      now = Math.max(now, tick);
    };
    const writeNotes = (until: number, ons: boolean) => {
      for (let e = own[next]; e && (e.tick < until || (e.tick === until && (ons || !e.on))); e = own[++next]) {
        const on = channel(e);
        if (e.control && !held.wants(e.control, on)) continue;
        advance(e.tick);
        writeNote(w, e, notes, on);
        if (!e.control && e.on) held.struck(on);
      }
    };
    for (const i of kept) {
      const tick = tickOf(i);
      const status = events.statuses[i] as number;
      const start = events.starts[i] as number;
      if (status === META && bytes[start] === META_END_OF_TRACK) continue;
      writeNotes(tick, false);
      advance(tick);
      w.byte(status);
      w.copy(bytes, start, events.ends[i] as number);
      if ((status & 0xf0) === 0xb0) held.moved(channelOf(status), bytes[start] as number, bytes[start + 1] as number);
    }
    writeNotes(Infinity, true);
    advance(Math.max(now, end));
    w.byte(META);
    w.byte(META_END_OF_TRACK);
    w.byte(0);
  });
}

/**
 * New ticks of pedal controllers and pressure on the drum lanes, by track and event: they keep their distance to the hit that follows
 * within 30 ms.
 */
function companionShifts(part: Part, file: SmfFile, notes: DrumNotes, perTick: number): Map<number, Map<number, number>> {
  const shifts = new Map<number, Map<number, number>>();
  const toTicks = tickScale(file);
  const tempo = tempoMapOf(part);
  const performedOf = new Map<number, number>();
  notes.hits.forEach((hit, k) => notes.numbers[k] === 0 && performedOf.set(hit, notes.ticks[k] as number));
  const factor = perTick / ticksPerInternalTick(file);
  const lanes = part.source?.lanes ?? [];
  const hitsOfLane = lanes.map((): number[] => []);
  part.hits.forEach((hit, i) => hitsOfLane[hit.lane ?? 0]?.push(i));
  lanes.forEach((lane, laneIndex) => {
    const own = hitsOfLane[laneIndex] as number[];
    const events = file.tracks[lane.track]?.events;
    if (!events || own.length === 0) return;
    let next = 0;
    for (let e = 0; e < events.length; e++) {
      const status = events.statuses[e] as number;
      if (channelOf(status) !== lane.channel || !isCompanion(file.bytes, status, events.starts[e] as number)) continue;
      const at = events.ticks[e] as number;
      const tick = ticks(toTicks(at));
      while (next < own.length && (part.hits[own[next] as number] as Hit).tick < tick) next++;
      const index = own[next];
      if (index === undefined) break;
      const hit = part.hits[index] as Hit;
      const performed = performedOf.get(index);
      // A hit that is not written takes nothing along.
      if (performed === undefined || tempo.between(tick, hit.tick) > COMPANION_MS) continue;
      const moved = shifts.get(lane.track) ?? new Map<number, number>();
      moved.set(e, Math.max(0, at * factor + performed - Math.round(hit.tick * perTick)));
      shifts.set(lane.track, moved);
    }
  });
  return shifts;
}

function isCompanion(bytes: Uint8Array, status: number, start: number): boolean {
  const kind = status & 0xf0;
  return kind === 0xa0 || kind === 0xd0 || (kind === 0xb0 && (bytes[start] === FOOT_CONTROLLER || bytes[start] === POSITION_CONTROLLER));
}
