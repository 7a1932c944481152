import { NamedError } from '../errors';
import { performPart, writtenPerformance } from '../feel/perform';
import { tempoMapOf } from '../part/part-time';
import { COMPANION_MS, type Hit, type Lane, type Part } from '../part/part';
import { ticks, TICKS_PER_QUARTER } from '../units';
import { drumNotes, type DrumNotes } from './drum-notes';
import { defaultPpq, FOOT_CONTROLLER, MAX_PPQ, noteEvents, writeNote, type ExportResult, type NoteEvent } from './export-part';
import { tickScale } from './import-part';
import { channelOf, isNote, META, META_END_OF_TRACK, type RawEvent, type SmfFile } from './read';
import { MAX_DELTA, SmfWriter } from './write';

export interface SongExportOptions {
  written?: boolean;
  /** A multiple of the source's resolution; by default the least that reaches 960. */
  ppq?: number;
}

/**
 * Writes the imported song with only its drums replaced. Every event that is not a note of the drum part keeps its bytes and its
 * place (times the factor); hat-pedal controllers and pressure of the drum channels move with the hit that follows them
 * within 30 ms. Running status is written out, and the end of a track moves later where a hit does.
 * @throws NamedError no-source, bad-resolution
 */
export function exportSong(part: Part, file: SmfFile, options: SongExportOptions = {}): ExportResult {
  if (!part.source) throw new NamedError('no-source');
  const factor = factorOf(file, options.ppq);
  const perTick = ticksPerInternalTick(file) * factor;
  const performance = options.written ? writtenPerformance(part) : performPart(part);
  const notes = drumNotes(part, performance, { perTick, early: 'zero', barTicks: 0, loopTicks: 0 });
  const lanes = part.source.lanes;
  const taken = file.tracks.map((track) => [...track.events]);
  const companions = companionShifts(part, file, taken, notes, perTick);
  const ppq = file.division.kind === 'metrical' ? file.division.ppq * factor : file.division.raw;

  const w = new SmfWriter();
  w.header(file.format, file.tracks.length, ppq);
  const events = noteEvents(notes);
  file.tracks.forEach((_, index) => {
    const own = events.filter((e) => (lanes[laneOf(part.hits, notes, e)] as Lane).track === index);
    const kept = (taken[index] as RawEvent[])
      .filter((e) => !(isNote(e.status) && isDrumLane(lanes, index, e)))
      .map((e) => ({ event: e, tick: companions.get(e) ?? e.tick * factor }));
    // Companions may have changed places with their neighbours; the sort is stable, so all else keeps its order.
    if (companions.size > 0) kept.sort((a, b) => a.tick - b.tick);
    writeTrack(w, file, kept, own, notes, (e) => (lanes[laneOf(part.hits, notes, e)] as Lane).channel);
  });
  return { bytes: w.finish(), notes: notes.ticks.length, ppq, early: notes.early, earlyRule: 'zero' };
}

function factorOf(file: SmfFile, ppq: number | undefined): number {
  if (file.division.kind === 'smpte') return 1;
  const own = file.division.ppq;
  const wanted = ppq ?? defaultPpq(own);
  if (wanted % own !== 0 || wanted > MAX_PPQ || wanted < own) throw new NamedError('bad-resolution', { ppq: wanted, source: own });
  return wanted / own;
}

const ticksPerInternalTick = (file: SmfFile): number =>
  file.division.kind === 'metrical' ? file.division.ppq / TICKS_PER_QUARTER : file.division.ticksPerSecond / (2 * TICKS_PER_QUARTER);

const laneOf = (hits: readonly Hit[], notes: DrumNotes, e: NoteEvent): number => (hits[notes.hits[e.note] as number] as Hit).lane ?? 0;

const isDrumLane = (lanes: readonly Lane[], track: number, e: RawEvent): boolean => lanes.some((l) => l.track === track && l.channel === channelOf(e.status));

interface KeptEvent {
  event: RawEvent;
  tick: number;
}

/** Merges kept events and new notes: at one tick first the note-offs, then what was kept, then the note-ons; the end mark last. */
function writeTrack(w: SmfWriter, file: SmfFile, kept: readonly KeptEvent[], own: readonly NoteEvent[], notes: DrumNotes, channel: (e: NoteEvent) => number) {
  w.track(() => {
    let now = 0;
    let i = 0;
    const advance = (tick: number) => {
      w.quantity(Math.min(MAX_DELTA, Math.max(0, tick - now)));
      now = Math.max(now, tick);
    };
    const writeNotes = (until: number, ons: boolean) => {
      for (let e = own[i]; e && (e.tick < until || (e.tick === until && (ons || !e.on))); e = own[++i]) {
        advance(e.tick);
        writeNote(w, e, notes, channel(e));
      }
    };
    let end: KeptEvent | undefined;
    for (const k of kept) {
      if (isEndMark(file.bytes, k.event)) {
        end = k;
        continue;
      }
      writeNotes(k.tick, false);
      advance(k.tick);
      w.byte(k.event.status);
      w.copy(file.bytes, k.event.start, k.event.end);
    }
    writeNotes(Infinity, true);
    advance(Math.max(now, end?.tick ?? now));
    w.byte(META);
    w.byte(META_END_OF_TRACK);
    w.byte(0);
  });
}

const isEndMark = (bytes: Uint8Array, e: RawEvent): boolean => e.status === META && bytes[e.start] === META_END_OF_TRACK;

/** New ticks of pedal controllers and pressure on the drum lanes: they keep their distance to the hit that follows within 30 ms. */
function companionShifts(part: Part, file: SmfFile, taken: readonly RawEvent[][], notes: DrumNotes, perTick: number): Map<RawEvent, number> {
  const shifts = new Map<RawEvent, number>();
  const toTicks = tickScale(file);
  const tempo = tempoMapOf(part);
  const performedOf = new Map<number, number>();
  notes.hits.forEach((hit, k) => notes.numbers[k] === 0 && performedOf.set(hit, notes.ticks[k] as number));
  const factor = perTick / ticksPerInternalTick(file);
  part.source?.lanes.forEach((lane, laneIndex) => {
    const own = part.hits.flatMap((hit, i) => ((hit.lane ?? 0) === laneIndex ? [i] : []));
    let next = 0;
    for (const event of taken[lane.track] ?? []) {
      if (channelOf(event.status) !== lane.channel || !isCompanion(file.bytes, event)) continue;
      const tick = ticks(toTicks(event.tick));
      while (next < own.length && (part.hits[own[next] as number] as Hit).tick < tick) next++;
      const index = own[next];
      if (index === undefined) break;
      const hit = part.hits[index] as Hit;
      if (tempo.between(tick, hit.tick) > COMPANION_MS) continue;
      const written = Math.round(hit.tick * perTick);
      shifts.set(event, Math.max(0, event.tick * factor + (performedOf.get(index) as number) - written));
    }
  });
  return shifts;
}

function isCompanion(bytes: Uint8Array, event: RawEvent): boolean {
  const kind = event.status & 0xf0;
  return kind === 0xa0 || kind === 0xd0 || (kind === 0xb0 && bytes[event.start] === FOOT_CONTROLLER);
}
