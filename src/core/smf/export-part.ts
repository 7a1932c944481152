import { NamedError } from '../errors';
import { endOfPart, meterMapOf } from '../part/part-time';
import type { Part } from '../model/part';
import { playedPart } from '../song/played';
import type { Round } from '../song/unroll';
import { roundHalfUp, TICKS_PER_QUARTER } from '../units';
import { drumNotes, type Control, type DrumNotes, type EarlyRule, type LeftOut } from './drum-notes';
import { DRUM_CHANNEL } from './lanes';
import { META_END_OF_TRACK, META_MARKER, META_TRACK_NAME } from './read';
import { writeMeta, writeMeter, writeTempo } from './write-meta';
import { encodeText } from './text';
import { MAX_DELTA, SmfWriter } from './write';

/** How far the hat's pedal is pressed. */
export const FOOT_CONTROLLER = 4;
export const MIN_PPQ = 24;
export const MAX_PPQ = 32767;
/** Resolutions below this make a lean of a few milliseconds vanish. */
const FINE_ENOUGH = 960;

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
  rounds?: readonly Round[];
  /** Only keys of General MIDI: rows outside of them get the key of what stands for them. */
  generalMidi?: boolean;
  /** This break's rows alone, its pieces on keys from 36 up; without it rows of breaks are left out, and named. */
  pieces?: string;
}

export interface ExportResult {
  bytes: Uint8Array;
  notes: number;
  ppq: number;
  /** What was done with notes that were performed before the file's start. */
  earlyRule: EarlyRule;
  /** What the file does not show of the part. */
  left: LeftOut;
  /** Changes of tempo and meter behind the part's end, which are left out. */
  changesBehind: number;
}

/** The least multiple of the source's resolution that reaches 960; 960 without a source. */
export function defaultPpq(sourcePpq: number | null | undefined): number {
  if (!sourcePpq) return FINE_ENOUGH;
  return sourcePpq * Math.max(1, Math.ceil(FINE_ENOUGH / sourcePpq));
}

/** @throws NamedError bad-resolution */
export function checkPpq(ppq: number): number {
  if (!Number.isInteger(ppq) || ppq < MIN_PPQ || ppq > MAX_PPQ) throw new NamedError('bad-resolution', { ppq });
  return ppq;
}

/** Writes the part as a standard MIDI file of format 0: name, tempo and meter maps, the drum notes on channel 10. */
export function exportPart(whole: Part, options: PartExportOptions = {}): ExportResult {
  const ppq = checkPpq(options.ppq ?? defaultPpq(whole.source?.ppq));
  const { part, performance, marks } = playedPart(whole, options);
  const perTick = ppq / TICKS_PER_QUARTER;
  const earlyRule = options.early ?? 'zero';
  const firstBar = meterMapOf(part).barOf(0);
  const barTicks = roundHalfUp(firstBar.length * perTick);
  const end = endOfPart(part);
  const notes = drumNotes(part, performance, { perTick, early: earlyRule, barTicks, loopTicks: roundHalfUp((end - part.origin) * perTick), withMuted: options.withMuted === true, generalMidi: options.generalMidi === true, ...(options.pieces === undefined ? {} : { pieces: options.pieces }) });
  const leadTicks = earlyRule === 'lead-in' && notes.left.early > 0 ? barTicks : 0;
  const at = (tick: number): number => (tick <= 0 ? 0 : roundHalfUp(tick * perTick) + leadTicks);

  // The first of each is the one that holds from the start.
  const meter = part.meter.filter((m, i) => i === 0 || m.tick + part.origin < end);
  const tempo = part.tempo.filter((t, i) => i === 0 || t.tick < end);

  const w = new SmfWriter();
  w.header(0, 1, ppq);
  w.track(() => {
    const changes = [
      ...meter.map((m) => ({ tick: at(m.tick), write: () => writeMeter(w, m) })),
      ...tempo.map((t) => ({ tick: at(t.tick), write: () => writeTempo(w, t.microsecondsPerQuarter) })),
      ...marks.flatMap(({ tick, round }) => (round.name === undefined ? [] : [{ tick: at(tick), write: () => writeMeta(w, META_MARKER, encodeText(round.name as string)) }])),
    ].sort((a, b) => a.tick - b.tick);
    w.quantity(0);
    writeMeta(w, META_TRACK_NAME, encodeText(part.name));
    let next = 0;
    let now = 0;
    const pending = noteEvents(notes);
    const writeChanges = (until: number) => {
      for (let c = changes[next]; c && c.tick <= until; c = changes[++next]) {
        w.quantity(Math.min(MAX_DELTA, c.tick - now));
        c.write();
        now = c.tick;
      }
    };
    for (const event of pending) {
      writeChanges(event.tick);
      w.quantity(Math.min(MAX_DELTA, event.tick - now));
      writeNote(w, event, notes, DRUM_CHANNEL);
      now = event.tick;
    }
    writeChanges(Infinity);
    w.quantity(0);
    writeMeta(w, META_END_OF_TRACK, []);
  });
  return { bytes: w.finish(), notes: notes.ticks.length, ppq, earlyRule, left: notes.left, changesBehind: part.meter.length - meter.length + part.tempo.length - tempo.length };
}

export interface NoteEvent {
  tick: number;
  /** Index into the notes. */
  note: number;
  on: boolean;
  /** Not the note itself, but what comes before it. */
  control?: Control;
}

/** Note-ons and note-offs in order; at one tick the offs come first, then pedals and pressure. */
export function noteEvents(notes: DrumNotes): NoteEvent[] {
  const count = notes.ticks.length;
  const offs = Array.from({ length: count }, (_, i) => i).sort((a, b) => (notes.ends[a] as number) - (notes.ends[b] as number));
  const events: NoteEvent[] = [];
  let k = 0;
  let c = 0;
  for (let i = 0; i < count; i++) {
    const tick = notes.ticks[i] as number;
    for (let control = notes.controls[c]; control && control.tick <= tick; control = notes.controls[++c]) {
      for (let o = offs[k]; o !== undefined && (notes.ends[o] as number) <= control.tick; o = offs[++k]) events.push({ tick: notes.ends[o] as number, note: o, on: false });
      events.push({ tick: control.tick, note: control.note, on: true, control });
    }
    for (let o = offs[k]; o !== undefined && (notes.ends[o] as number) <= tick; o = offs[++k]) events.push({ tick: notes.ends[o] as number, note: o, on: false });
    events.push({ tick, note: i, on: true });
  }
  for (let o = offs[k]; o !== undefined; o = offs[++k]) events.push({ tick: notes.ends[o] as number, note: o, on: false });
  return events;
}

export function writeNote(w: SmfWriter, event: NoteEvent, notes: DrumNotes, channel: number) {
  const { control } = event;
  if (control) {
    w.byte((control.kind === 'pedal' ? 0xb0 : 0xa0) | (channel - 1));
    w.byte(control.kind === 'pedal' ? FOOT_CONTROLLER : (notes.keys[event.note] as number));
    return w.byte(control.value);
  }
  w.byte((event.on ? 0x90 : 0x80) | (channel - 1));
  w.byte(notes.keys[event.note] as number);
  w.byte(event.on ? (notes.velocities[event.note] as number) : 64);
}
