import { NamedError } from '../errors';
import { gridOfPlayer } from '../part/grid-of-player';
import { endOfPart, meterMapOf } from '../part/part-time';
import { labelOfRow } from '../part/rows';
import { barsOf } from '../part/sections';
import type { Hit, HitId, Part } from '../model/part';
import { NO_TARGET, type OutputMap } from '../model/output-map';
import type { VoiceName } from '../row-names';
import { playedPart, type PlayedPart } from '../song/played';
import { placeOfId, type OrderRound } from '../song/unroll';
import { channelFor } from '../output-map/leaving';
import { bpmOf, type TempoChange } from '../time/tempo-map';
import { MeterMap } from '../time/meter-map';
import { roundHalfUp, ticks, TICKS_PER_QUARTER } from '../units';
import { asBreakNotes, hearableTest, isAllBreaks } from './break-notes';
import { drumNotes, type DrumNotes, type EarlyRule, type LeftOut, type PitchRule } from './drum-notes';
import { noteEvents, writeBendRange, writeTrack, type TrackChange } from './note-tracks';
import { META_MARKER } from './read';
import { writeMeta, writeMeter, writeTempo } from './write-meta';
import { encodeText } from './text';
import { SmfWriter } from './write';

export const MIN_PPQ = 24;
export const MAX_PPQ = 32767;
/** Resolutions below this make a lean of a few milliseconds vanish. */
const FINE_ENOUGH = 960;
/** Times that no grid holds are kept to a quarter of a millisecond. */
const FINE_FOR_FREE_TIMES = 1920;

export interface PartExportOptions {
  /** Performed (default) or as written. */
  written?: boolean;
  /** Ticks a quarter note; by default {@link defaultPpq}. */
  ppq?: number;
  /** Default: moved to 0. */
  early?: EarlyRule;
  /** Rows that are muted, or silenced by a solo, are written, too; by default what is exported is what is heard. */
  withMuted?: boolean;
  /** The running order unrolled, its sections marked; from first to last bar without one. */
  order?: boolean;
  /** These rounds alone. */
  rounds?: readonly OrderRound[];
  /** Only keys of General MIDI: rows outside of them get the key of what stands for them. */
  generalMidi?: boolean;
  /**
   * This break's rows alone, its pieces on keys from 36 up; without it rows of breaks are left out, and named, unless there is
   * nothing else: then each of their hits is written with the General MIDI keys of what it is called.
   */
  pieces?: string;
  /** How notes leave; by default the part's own target, without one the hits' own keys on channel 10. */
  target?: OutputMap;
  /** 0: everything in one track; 1: tempo and meter in a first track of their own. By default 0, and 1 where each row has a track. */
  format?: 0 | 1;
  /** These rows alone, muted or not. */
  onlyRows?: ReadonlySet<VoiceName>;
  /** These hits alone. */
  onlyHits?: ReadonlySet<HitId>;
  /** What becomes of pitch; by default it is left out. */
  pitch?: PitchRule;
}

export interface ExportResult {
  bytes: Uint8Array;
  notes: number;
  ppq: number;
  /** Tempo at its start. */
  bpm: number;
  /** Whole bars from the file's start to the end of its tracks. */
  bars: number;
  /** What was done with notes that were performed before the file's start. */
  earlyRule: EarlyRule;
  /** What the file does not show of the part. */
  left: LeftOut;
  /** Changes of tempo and meter behind the part's end, which are left out. */
  changesBehind: number;
  /** How many rows have a track of their own; 0 where all share one. */
  rowTracks: number;
}

/**
 * The least multiple of the source's resolution that reaches 960, and 1920 where the grid follows a player; without a source just that.
 */
export function defaultPpq(part: Pick<Part, 'source' | 'tempo' | 'playerTempo'>): number {
  const enough = gridOfPlayer(part) === 'follows' ? FINE_FOR_FREE_TIMES : FINE_ENOUGH;
  const own = part.source?.ppq;
  return own ? own * Math.max(1, Math.ceil(enough / own)) : enough;
}

/** @throws NamedError bad-resolution */
export function checkPpq(ppq: number): number {
  if (!Number.isInteger(ppq) || ppq < MIN_PPQ || ppq > MAX_PPQ) throw new NamedError('bad-resolution', { ppq });
  return ppq;
}

/**
 * Writes the part as a standard MIDI file: name, tempo and meter maps, section names as markers, the drum notes by its target. All
 * tracks begin at 0 and end on the same bar line, the part's end, or the first one behind the last note; no note goes on behind it.
 * @throws NamedError bad-resolution
 */
export function exportPart(whole: Part, options: PartExportOptions = {}): ExportResult {
  const ppq = checkPpq(options.ppq ?? defaultPpq(whole));
  const played = playedPart(whole, options);
  const isChosen = (h: Hit): boolean =>
    (!options.onlyRows || options.onlyRows.has(h.voice)) && (!options.onlyHits || options.onlyHits.has(placeOfId(h.id).id));
  // Where there is nothing but slices of breaks, their names are written.
  const named = options.pieces === undefined && isAllBreaks(played.part, isChosen);
  const isHeard = hearableTest(played.part, options.withMuted === true || options.onlyRows !== undefined);
  const { part, performance } = named ? asBreakNotes(played.part, played.performance, (h) => isChosen(h) && isHeard(h)) : played;
  const perTick = ppq / TICKS_PER_QUARTER;
  const earlyRule = options.early ?? 'zero';
  const given = options.pieces === undefined ? (options.target ?? whole.target) : undefined;
  const target = given ?? NO_TARGET;
  const barTicks = roundHalfUp(meterMapOf(part).barOf(0).length * perTick);
  const end = endOfPart(part);
  const notes = drumNotes(part, performance, {
    perTick,
    early: earlyRule,
    barTicks,
    loopTicks: roundHalfUp((end - part.origin) * perTick),
    withMuted: options.withMuted === true,
    generalMidi: options.generalMidi === true,
    ...(given ? { target: given } : {}),
    ...(options.pieces === undefined ? {} : { pieces: options.pieces }),
    ...(options.onlyRows && !named ? { onlyRows: options.onlyRows } : {}),
    ...(options.onlyHits && !named ? { onlyHits: options.onlyHits } : {}),
    ...(options.pitch ? { pitch: options.pitch } : {}),
  });
  const isLed = earlyRule === 'lead-in' && notes.left.early > 0;
  const at = (tick: number): number => (tick <= 0 ? 0 : roundHalfUp(tick * perTick) + (isLed ? barTicks : 0));
  const ending = barLineBehind(part, end, at, notes.ticks.at(-1) ?? -1);
  endNotesAt(notes, ending.tick);

  // The first of each is the one that holds from the start.
  const meter = part.meter.filter((m, i) => i === 0 || m.tick + part.origin < end);
  const tempo = part.tempo.filter((t, i) => i === 0 || t.tick < end);
  const changes: TrackChange[] = [
    ...meter.map((m) => ({ tick: at(m.tick), write: (w: SmfWriter) => writeMeter(w, m) })),
    ...tempo.map((t) => ({ tick: at(t.tick), write: (w: SmfWriter) => writeTempo(w, t.microsecondsPerQuarter) })),
    ...markersOf(whole, played).map(({ tick, name }) => ({
      tick: at(tick),
      write: (w: SmfWriter) => writeMeta(w, META_MARKER, encodeText(name)),
    })),
  ].sort((a, b) => a.tick - b.tick);

  const channelOf = (note: number): number => channelFor(target, part.rows[notes.rows[note] as number]?.voice ?? '');
  const format = target.tracks === 'rows' ? 1 : (options.format ?? 0);
  const bending = notes.bends ? [...new Set(Array.from(notes.ticks, (_, k) => channelOf(k)))] : [];
  const rows = format === 1 && target.tracks === 'rows' ? part.rows.map((_, i) => i).filter((i) => notes.rows.includes(i)) : null;
  const w = new SmfWriter();
  const track = (name: string, own: readonly TrackChange[], of: (note: number) => boolean, begins: boolean) =>
    writeTrack(w, {
      name,
      changes: own,
      notes,
      events: noteEvents(notes, of),
      channelOf,
      end: ending.tick,
      begin: begins ? () => bending.forEach((channel) => writeBendRange(w, channel)) : undefined,
    });
  if (format === 0) {
    w.header(0, 1, ppq);
    track(part.name, changes, () => true, true);
  } else {
    w.header(1, 1 + (rows?.length ?? 1), ppq);
    track(part.name, changes, () => false, false);
    if (!rows) track('Drums', [], () => true, true);
    rows?.forEach((row, i) => track(labelOfRow(part, part.rows[row]?.voice ?? ''), [], (note) => notes.rows[note] === row, i === 0));
  }
  return {
    bytes: w.finish(),
    notes: notes.ticks.length,
    ppq,
    bpm: bpmOf(tempo[0] as TempoChange),
    bars: ending.bars + (isLed ? 1 : 0),
    earlyRule,
    left: notes.left,
    changesBehind: part.meter.length - meter.length + part.tempo.length - tempo.length,
    rowTracks: rows?.length ?? 0,
  };
}

/** No note goes on behind a tick. */
function endNotesAt({ ticks: ons, ends }: DrumNotes, last: number) {
  for (let k = 0; k < ends.length; k++) ends[k] = Math.min(ends[k] as number, Math.max(last, (ons[k] as number) + 1));
}

/**
 * The bar line that a file's tracks end on. Its bars count from its own start, wherever the part's grid begins: the line nearest to the
 * part's end, or the first one behind the last note.
 */
function barLineBehind(
  { meter }: Pick<Part, 'meter'>,
  end: number,
  at: (tick: number) => number,
  lastOn: number,
): { tick: number; bars: number } {
  const map = new MeterMap(meter);
  const { index, start, length } = map.barAt(ticks(end));
  let bars = Math.max(1, end - start >= length / 2 ? index + 1 : index);
  // Steps that double: at a tempo of a microsecond a note may lie millions of bars behind the end.
  let step = 1;
  for (; at(map.barOf(bars + step).start) <= lastOn; step *= 2) bars += step;
  for (; step >= 1; step /= 2) if (at(map.barOf(bars + step - 1).start) <= lastOn) bars += step;
  return { tick: at(map.barOf(bars).start), bars };
}

/** Names of sections where they begin: as the order calls them, or where they stand in the bars that are written. */
function markersOf(whole: Part, { marks }: PlayedPart): { tick: number; name: string }[] {
  const named = marks.flatMap(({ tick, round: { name } }) => (name === undefined ? [] : [{ tick, name }]));
  if (named.length > 0 || !whole.sections) return named;
  const map = meterMapOf(whole);
  const starts = whole.sections.map((s) => ({ bar: barsOf(s).from, name: s.name }));
  if (marks.length === 0) return starts.map(({ bar, name }) => ({ tick: map.barOf(bar).start, name }));
  return marks.flatMap(({ tick, round }) =>
    starts
      .filter(({ bar }) => bar >= round.from && bar < round.to)
      .map(({ bar, name }) => ({ tick: tick + map.barOf(bar).start - map.barOf(round.from).start, name })),
  );
}
