import { NamedError } from '../errors';
import { MOST_TRACKS } from '../limits';
import { decodeText } from './text';
import { TrackEvents, type TrackEvent } from './track-events';

export type { TrackEvent };

export interface RawTrack {
  events: TrackEvents;
  name: string;
}

/** How a file counts time: ticks a quarter note, or ticks a second of SMPTE time. */
export type Division = { kind: 'metrical'; ppq: number } | { kind: 'smpte'; ticksPerSecond: number; raw: number };

/** A standard MIDI file taken apart, but not interpreted. */
export interface SmfFile {
  bytes: Uint8Array;
  format: number;
  division: Division;
  tracks: RawTrack[];
  /** What was wrong with the file and tolerated, in sentences. */
  notices: string[];
}

/** Files above this are refused. */
export const MAX_FILE_BYTES = 8 * 1024 * 1024;

export const META = 0xff;
export const META_TRACK_NAME = 0x03;
export const META_MARKER = 0x06;
export const META_END_OF_TRACK = 0x2f;
export const META_TEMPO = 0x51;
export const META_METER = 0x58;

/**
 * Reads a standard MIDI file (formats 0, 1, 2; running status; metrical or SMPTE division). Damage inside a track ends that
 * track early and is reported; the rest is kept.
 * @throws NamedError empty-file, not-midi, file-too-large, damaged-midi, too-many-tracks
 */
export function readSmf(bytes: Uint8Array): SmfFile {
  if (bytes.length === 0) throw new NamedError('empty-file');
  if (bytes.length > MAX_FILE_BYTES) throw new NamedError('file-too-large', { bytes: bytes.length });
  if (tagAt(bytes, 0) !== 'MThd' || bytes.length < 14) throw new NamedError('not-midi');
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const headerLength = view.getUint32(4);
  const format = view.getUint16(8);
  if (format > 2) throw new NamedError('not-midi', { format });
  const file: SmfFile = { bytes, format, division: readDivision(view.getUint16(12)), tracks: [], notices: [] };
  const declared = view.getUint16(10);

  let at = 8 + Math.max(6, headerLength);
  while (at + 8 <= bytes.length) {
    const tag = tagAt(bytes, at);
    const length = view.getUint32(at + 4);
    const end = Math.min(bytes.length, at + 8 + length);
    if (tag === 'MTrk') {
      const number = file.tracks.length + 1;
      if (number > MOST_TRACKS) throw new NamedError('too-many-tracks');
      if (at + 8 + length > bytes.length) file.notices.push(`Track ${number} ends before its declared length; what was there is kept.`);
      file.tracks.push(readTrack(bytes, at + 8, end, number, file.notices));
    }
    at += 8 + length;
  }
  if (file.tracks.length === 0) throw new NamedError('damaged-midi');
  if (declared !== file.tracks.length) file.notices.push(`The header promises ${declared} tracks; ${file.tracks.length} are there.`);
  return file;
}

function readDivision(raw: number): Division {
  if (raw & 0x8000) {
    const rate = 256 - (raw >> 8);
    const framesPerSecond = rate === 29 ? 30000 / 1001 : rate;
    return { kind: 'smpte', ticksPerSecond: framesPerSecond * Math.max(1, raw & 0xff), raw };
  }
  if (raw === 0) throw new NamedError('not-midi', { division: 0 });
  return { kind: 'metrical', ppq: raw };
}

/** Data bytes behind each kind of channel message, by the status byte's upper half. */
const dataLength = (status: number): number => ((status & 0xf0) === 0xc0 || (status & 0xf0) === 0xd0 ? 1 : 2);

function readTrack(bytes: Uint8Array, from: number, end: number, number: number, notices: string[]): RawTrack {
  // A note takes three bytes or more, and two events: this is rarely too small.
  const track: RawTrack = { events: new TrackEvents(Math.max(16, (end - from) >> 2)), name: '' };
  let at = from;
  let tick = 0;
  let running = 0;
  let ended = false;

  /** A variable-length quantity; -1 where it runs over the end or over four bytes. */
  const quantity = (): number => {
    let value = 0;
    for (let n = 0; n < 4; n++) {
      if (at >= end) return -1;
      const byte = bytes[at++] as number;
      value = (value << 7) | (byte & 0x7f);
      if (byte < 0x80) return value;
    }
    return -1;
  };

  while (at < end && !ended) {
    const delta = quantity();
    if (delta < 0 || at >= end) break;
    tick += delta;
    let status = bytes[at] as number;
    if (status >= 0x80) at++;
    else status = running;
    if (status === 0) break;

    const start = at;
    if (status === META) {
      const type = bytes[at++];
      const length = quantity();
      if (length < 0 || at + length > end) break;
      if (type === META_TRACK_NAME && !track.name) track.name = decodeText(bytes.subarray(at, at + length));
      if (type === META_END_OF_TRACK) ended = true;
      at += length;
    } else if (status === 0xf0 || status === 0xf7) {
      const length = quantity();
      if (length < 0 || at + length > end) break;
      at += length;
    } else if (status > 0xf0) {
      break;
    } else {
      running = status;
      const length = dataLength(status);
      if (at + length > end || (bytes[at] as number) >= 0x80 || (length === 2 && (bytes[at + 1] as number) >= 0x80)) break;
      at += length;
    }
    track.events.push(tick, status, start, at);
  }
  if (!ended)
    notices.push(
      at < end
        ? `Track ${number} is damaged after tick ${tick}; what came before is kept.`
        : `Track ${number} has no end mark; it was read to its last event.`,
    );
  return track;
}

const tagAt = (bytes: Uint8Array, at: number): string => String.fromCharCode(...bytes.subarray(at, at + 4));

/** The payload of a meta event: its bytes without type and length. */
export function metaData(bytes: Uint8Array, event: Pick<TrackEvent, 'start' | 'end'>): { type: number; data: Uint8Array } {
  let at = event.start + 1;
  while ((bytes[at] as number) >= 0x80) at++;
  return { type: bytes[event.start] as number, data: bytes.subarray(at + 1, event.end) };
}

/** Whether an event is a note of any channel (on or off). */
export const isNote = (status: number): boolean => status >= 0x80 && status < 0xa0;
/** The channel of a channel message, 1 to 16. */
export const channelOf = (status: number): number => (status & 0x0f) + 1;
