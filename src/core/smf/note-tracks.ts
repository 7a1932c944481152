import type { Control } from './controls-of-notes';
import type { DrumNotes } from './drum-notes';
import { META_END_OF_TRACK, META_TRACK_NAME } from './read';
import { encodeText } from './text';
import { writeMeta } from './write-meta';
import { FOOT_CONTROLLER, POSITION_CONTROLLER } from '../articulation/controllers';
import type { SmfWriter } from './write';

/** A pitch bend's middle, and how many semitones its ends are away from it. */
const BEND_MIDDLE = 8192;
export const BEND_SEMITONES = 24;

export interface NoteEvent {
  tick: number;
  /** Index into the notes. */
  note: number;
  on: boolean;
  /** Not the note itself, but what comes before it. */
  control?: Control;
}

/** Note-ons and note-offs in order, of some notes or all; at one tick the offs come first, then pedals and pressure. */
export function noteEvents(notes: DrumNotes, of: (note: number) => boolean = () => true): NoteEvent[] {
  const count = notes.ticks.length;
  const offs = Array.from({ length: count }, (_, i) => i)
    .filter(of)
    .sort((a, b) => (notes.ends[a] as number) - (notes.ends[b] as number));
  const events: NoteEvent[] = [];
  let k = 0;
  let c = 0;
  for (let i = 0; i < count; i++) {
    if (!of(i)) continue;
    const tick = notes.ticks[i] as number;
    for (
      let control = notes.controls[c];
      control && (control.tick < tick || (control.tick === tick && control.note <= i));
      control = notes.controls[++c]
    ) {
      if (!of(control.note)) continue;
      for (let o = offs[k]; o !== undefined && (notes.ends[o] as number) <= control.tick; o = offs[++k])
        events.push({ tick: notes.ends[o] as number, note: o, on: false });
      events.push({ tick: control.tick, note: control.note, on: true, control });
    }
    for (let o = offs[k]; o !== undefined && (notes.ends[o] as number) <= tick; o = offs[++k])
      events.push({ tick: notes.ends[o] as number, note: o, on: false });
    events.push({ tick, note: i, on: true });
  }
  for (let o = offs[k]; o !== undefined; o = offs[++k]) events.push({ tick: notes.ends[o] as number, note: o, on: false });
  return events;
}

export function writeNote(w: SmfWriter, event: NoteEvent, notes: DrumNotes, channel: number) {
  const { control } = event;
  if (control) {
    const controller = { pedal: FOOT_CONTROLLER, position: POSITION_CONTROLLER, pressure: null }[control.kind];
    w.byte((controller === null ? 0xa0 : 0xb0) | (channel - 1));
    w.byte(controller ?? (notes.keys[event.note] as number));
    return w.byte(control.value);
  }
  w.byte((event.on ? 0x90 : 0x80) | (channel - 1));
  w.byte(notes.keys[event.note] as number);
  w.byte(event.on ? (notes.velocities[event.note] as number) : 64);
}

/** Something else than a note, at a tick. */
export interface TrackChange {
  tick: number;
  write: (w: SmfWriter) => void;
}

interface Track {
  name: string;
  /** By tick; each before the notes of its tick. */
  changes: readonly TrackChange[];
  notes: DrumNotes;
  events: readonly NoteEvent[];
  channelOf: (note: number) => number;
  /** Where it ends. */
  end: number;
  /** Written at its start. */
  begin?: (() => void) | undefined;
}

/** Writes one track from 0 to its end. */
export function writeTrack(w: SmfWriter, { name, changes, notes, events, channelOf, end, begin }: Track): void {
  w.track(() => {
    let now = 0;
    const advance = (tick: number) => {
      w.delta(tick - now);
      now = tick;
    };
    advance(0);
    writeMeta(w, META_TRACK_NAME, encodeText(name));
    begin?.();
    let next = 0;
    const writeChanges = (until: number) => {
      for (let c = changes[next]; c && c.tick <= until; c = changes[++next]) {
        advance(c.tick);
        c.write(w);
      }
    };
    const bent = new Map<number, number>();
    for (const event of events) {
      writeChanges(event.tick);
      const channel = channelOf(event.note);
      const bend = notes.bends?.[event.note] ?? 0;
      if (event.on && !event.control && bend !== (bent.get(channel) ?? 0)) {
        advance(event.tick);
        writeBend(w, channel, bend);
        bent.set(channel, bend);
      }
      advance(event.tick);
      writeNote(w, event, notes, channel);
    }
    writeChanges(end);
    advance(end);
    writeMeta(w, META_END_OF_TRACK, []);
  });
}

function writeBend(w: SmfWriter, channel: number, semitones: number) {
  const value = Math.min(2 * BEND_MIDDLE - 1, Math.max(0, BEND_MIDDLE + Math.round((semitones / BEND_SEMITONES) * BEND_MIDDLE)));
  for (const byte of [0xe0 | (channel - 1), value & 0x7f, value >> 7]) w.byte(byte);
}

/** Says how far a channel's bend goes: registered parameter 0 (MIDI 1.0 detailed specification), in semitones. */
export function writeBendRange(w: SmfWriter, channel: number): void {
  for (const [controller, value] of [
    [101, 0],
    [100, 0],
    [6, BEND_SEMITONES],
    [38, 0],
  ] as const) {
    w.quantity(0);
    for (const byte of [0xb0 | (channel - 1), controller, value]) w.byte(byte);
  }
}
