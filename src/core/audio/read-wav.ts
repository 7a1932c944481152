import { NamedError } from '../errors';
import { LARGEST_SOUND, LONGEST_SAMPLE } from '../limits';

/** A sound file as samples, -1 to 1. */
export interface AudioData {
  /** Frames a second. */
  rate: number;
  /** One or two; of more, the first two. */
  channels: Float32Array[];
}

/** What the file itself had, where that differs from what is used of it. */
export interface ReadWav extends AudioData {
  channelsInFile: number;
  /** Of the whole file, whatever of it was read. */
  seconds: number;
  /** It ends before it says it does. */
  cutOff: boolean;
}

/** What of a file is read, in seconds, and how large it may be. */
export interface ReadRange {
  from?: number;
  until?: number;
  /** Bytes. */
  largest?: number;
}

const PCM = 1;
const FLOAT = 3;
const EXTENSIBLE = 0xfffe;
export const LOWEST_RATE = 4000;
export const HIGHEST_RATE = 384_000;

const wrong = (cause: string): NamedError => new NamedError('bad-sound', { cause });

/** Whether bytes begin as a RIFF/WAVE file does. */
export const isWav = (bytes: Uint8Array): boolean => bytes.length >= 12 && textAt(bytes, 0) === 'RIFF' && textAt(bytes, 8) === 'WAVE';

const textAt = (bytes: Uint8Array, at: number): string => String.fromCharCode(...bytes.subarray(at, at + 4));

interface Format {
  kind: number;
  channels: number;
  rate: number;
  bits: number;
  /** Bytes of a frame. */
  frame: number;
}

/**
 * Reads a RIFF/WAVE file (IBM & Microsoft, Multimedia Programming Interface, 1991): 8 to 32 bits, whole numbers or floating point, any rate
 * from 4 to 384 kHz. A file that ends early gives what it has, and says so. Of more than two channels the first two are used.
 * @param longest seconds of the file
 * @throws NamedError bad-sound, sound-too-large, sound-too-long
 */
export function readWav(
  bytes: Uint8Array,
  longest = LONGEST_SAMPLE,
  { from = 0, until = Infinity, largest = LARGEST_SOUND }: ReadRange = {},
): ReadWav {
  if (bytes.length > largest) throw new NamedError('sound-too-large', { bytes: bytes.length, most: largest });
  if (!isWav(bytes)) throw wrong('it is not a WAV file');
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let format: Format | null = null;
  for (let at = 12; at + 8 <= bytes.length;) {
    const [name, size] = [textAt(bytes, at), view.getUint32(at + 4, true)];
    if (name === 'fmt ') format = formatAt(view, at + 8, Math.min(size, bytes.length - at - 8));
    else if (name === 'data') {
      if (!format) throw wrong('its format is missing');
      const there = bytes.length - at - 8;
      // Who writes without knowing the end says 0 or all ones.
      const open = size === 0 || size === 0xffffffff;
      return {
        ...samplesAt(view, at + 8, open ? there : Math.min(size, there), format, longest, from, until),
        channelsInFile: format.channels,
        cutOff: !open && size > there,
      };
    }
    at += 8 + size + (size % 2);
  }
  throw wrong(format ? 'it has no sound in it' : 'it ends before its sound begins');
}

function formatAt(view: DataView, at: number, size: number): Format {
  if (size < 16) throw wrong('its format is cut off');
  const tag = view.getUint16(at, true);
  const format = {
    kind: tag === EXTENSIBLE && size >= 26 ? view.getUint16(at + 24, true) : tag,
    channels: view.getUint16(at + 2, true),
    rate: view.getUint32(at + 4, true),
    bits: view.getUint16(at + 14, true),
    frame: view.getUint16(at + 12, true),
  };
  if (format.kind !== PCM && format.kind !== FLOAT) throw wrong('it is compressed, which is not read');
  if (format.channels < 1 || format.channels > 64) throw wrong(`it says that it has ${format.channels} channels`);
  if (format.rate < LOWEST_RATE || format.rate > HIGHEST_RATE) throw wrong(`it says that it has ${format.rate} samples a second`);
  const widths = format.kind === FLOAT ? [32, 64] : [8, 16, 24, 32];
  if (!widths.includes(format.bits) || format.frame !== (format.channels * format.bits) / 8)
    throw wrong(`its samples have ${format.bits} bits in ${format.frame} bytes`);
  return format;
}

function samplesAt(
  view: DataView,
  at: number,
  size: number,
  { kind, channels, rate, bits, frame }: Format,
  longest: number,
  from: number,
  until: number,
): AudioData & { seconds: number } {
  const frames = Math.floor(size / frame);
  if (frames === 0) throw wrong('it has no samples');
  if (frames / rate > longest) throw new NamedError('sound-too-long', { seconds: Math.round(frames / rate), most: longest });
  const width = bits / 8;
  const read = readerOf(view, kind, bits);
  const first = Math.max(0, Math.min(frames, Math.round(from * rate)));
  const count = Math.max(0, Math.min(frames, Math.round(until * rate)) - first);
  const channelAt = (start: number): Float32Array => {
    const samples = new Float32Array(count);
    for (let i = 0; i < count; i++) samples[i] = read(start + i * frame);
    return samples;
  };
  return {
    rate,
    seconds: frames / rate,
    channels: Array.from({ length: Math.min(2, channels) }, (_, c) => channelAt(at + first * frame + c * width)),
  };
}

function readerOf(view: DataView, kind: number, bits: number): (at: number) => number {
  // What is no number in a file is silence here.
  if (kind === FLOAT) return (at) => finite(bits === 32 ? view.getFloat32(at, true) : view.getFloat64(at, true));
  switch (bits) {
    case 8:
      return (at) => (view.getUint8(at) - 128) / 128;
    case 16:
      return (at) => view.getInt16(at, true) / 32_768;
    case 24:
      return (at) => ((view.getInt8(at + 2) << 16) | view.getUint16(at, true)) / 8_388_608;
    default:
      return (at) => view.getInt32(at, true) / 2_147_483_648;
  }
}

/** Far beyond full scale is a broken file as well. */
const LOUDEST = 64;
const finite = (x: number): number => (Number.isFinite(x) ? Math.max(-LOUDEST, Math.min(LOUDEST, x)) : 0);
