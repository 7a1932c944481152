import { randomStream } from '../random';

/** How samples are written. */
export const BITS = ['16', '24', '32f'] as const;
export type Bits = (typeof BITS)[number];

export interface WavOptions {
  rate: number;
  bits: Bits;
  /** Beats a minute, kept in the file. */
  tempo?: number;
  /** The whole file is a loop. */
  loop?: boolean;
  /** Of the dither at 16 bits. */
  seed?: number;
}

const WIDTH: Readonly<Record<Bits, number>> = { '16': 2, '24': 3, '32f': 4 };
const PCM = 1;
const FLOAT = 3;

/**
 * Writes stereo samples as RIFF/WAVE (IBM & Microsoft, Multimedia Programming Interface, 1991): 16 bits are dithered (triangular, seeded),
 * 24 rounded, 32 floating point. Loop points lie in a `smpl` chunk, the tempo in an ID3 tag (TBPM).
 */
export function writeWav(left: Float32Array, right: Float32Array, { rate, bits, tempo, loop = false, seed = 1 }: WavOptions): Uint8Array {
  const width = WIDTH[bits];
  const size = left.length * 2 * width;
  const extra = [...(loop ? [smplChunk(rate, left.length)] : []), ...(tempo === undefined ? [] : [id3Chunk(tempo)])];
  const total = 44 + size + (size % 2) + extra.reduce((sum, c) => sum + c.length, 0);
  const bytes = new Uint8Array(total);
  const view = new DataView(bytes.buffer);
  text(bytes, 0, 'RIFF');
  view.setUint32(4, total - 8, true);
  text(bytes, 8, 'WAVEfmt ');
  view.setUint32(16, 16, true);
  view.setUint16(20, bits === '32f' ? FLOAT : PCM, true);
  view.setUint16(22, 2, true);
  view.setUint32(24, rate, true);
  view.setUint32(28, rate * 2 * width, true);
  view.setUint16(32, 2 * width, true);
  view.setUint16(34, width * 8, true);
  text(bytes, 36, 'data');
  view.setUint32(40, size, true);
  const dither = randomStream(seed);
  let at = 44;
  for (let i = 0; i < left.length; i++) {
    for (const x of [left[i] as number, right[i] as number]) {
      if (bits === '32f') view.setFloat32(at, x, true);
      else if (bits === '16') view.setInt16(at, whole(x * 32767 + (x === 0 ? 0 : dither() - dither()), 32767), true);
      else {
        const v = whole(x * 8388607, 8388607);
        view.setUint16(at, v & 0xffff, true);
        view.setInt8(at + 2, v >> 16);
      }
      at += width;
    }
  }
  at += size % 2;
  for (const chunk of extra) {
    bytes.set(chunk, at);
    at += chunk.length;
  }
  return bytes;
}

const whole = (x: number, most: number): number => Math.max(-most - 1, Math.min(most, Math.round(x)));

function text(bytes: Uint8Array, at: number, letters: string) {
  for (let i = 0; i < letters.length; i++) bytes[at + i] = letters.charCodeAt(i);
}

function smplChunk(rate: number, frames: number): Uint8Array {
  const bytes = new Uint8Array(8 + 60);
  const view = new DataView(bytes.buffer);
  text(bytes, 0, 'smpl');
  view.setUint32(4, 60, true);
  view.setUint32(16, Math.round(1e9 / rate), true);
  view.setUint32(20, 60, true);
  view.setUint32(36, 1, true);
  view.setUint32(52, 0, true);
  view.setUint32(56, Math.max(0, frames - 1), true);
  return bytes;
}

function id3Chunk(tempo: number): Uint8Array {
  const value = String(Math.round(tempo * 100) / 100);
  const body = 1 + value.length;
  const tag = 10 + 10 + body;
  const bytes = new Uint8Array(8 + tag + (tag % 2));
  const view = new DataView(bytes.buffer);
  text(bytes, 0, 'id3 ');
  view.setUint32(4, tag, true);
  text(bytes, 8, 'ID3');
  bytes[11] = 3;
  bytes[17] = 10 + body;
  text(bytes, 18, 'TBPM');
  view.setUint32(22, body);
  text(bytes, 29, value);
  return bytes;
}
