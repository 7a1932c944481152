/** Sound files made from code, in every shape that comes in. */

export interface WavShape {
  rate?: number;
  bits?: 8 | 16 | 24 | 32 | '32f';
  channels?: number;
  extensible?: boolean;
  /** Chunks before the sound. */
  before?: Uint8Array;
  /** So many bytes are missing at its end. */
  cut?: number;
}

/** A WAV file of a function of frame and channel, values -1 to 1. */
export function wavFile(
  frames: number,
  value: (frame: number, channel: number) => number,
  { rate = 44_100, bits = 16, channels = 1, extensible = false, before = new Uint8Array(), cut = 0 }: WavShape = {},
): Uint8Array<ArrayBuffer> {
  const width = bits === '32f' ? 4 : bits / 8;
  const format = extensible ? 40 : 16;
  const size = frames * channels * width;
  const head = 12 + 8 + format + before.length + 8;
  const bytes = new Uint8Array(head + size);
  const v = new DataView(bytes.buffer);
  const text = (at: number, letters: string) => [...letters].forEach((l, i) => (bytes[at + i] = l.charCodeAt(0)));
  text(0, 'RIFF');
  v.setUint32(4, bytes.length - 8, true);
  text(8, 'WAVEfmt ');
  v.setUint32(16, format, true);
  const kind = bits === '32f' ? 3 : 1;
  v.setUint16(20, extensible ? 0xfffe : kind, true);
  v.setUint16(22, channels, true);
  v.setUint32(24, rate, true);
  v.setUint32(28, rate * channels * width, true);
  v.setUint16(32, channels * width, true);
  v.setUint16(34, width * 8, true);
  if (extensible) v.setUint16(44, kind, true);
  bytes.set(before, 20 + format);
  text(head - 8, 'data');
  v.setUint32(head - 4, size, true);
  for (let i = 0; i < frames; i++) {
    for (let c = 0; c < channels; c++) {
      const at = head + (i * channels + c) * width;
      const x = value(i, c);
      if (bits === '32f') v.setFloat32(at, x, true);
      else if (bits === 8) v.setUint8(at, Math.round(x * 127) + 128);
      else if (bits === 16) v.setInt16(at, Math.round(x * 32_767), true);
      else if (bits === 32) v.setInt32(at, Math.round(x * 2_147_483_647), true);
      else {
        const n = Math.round(x * 8_388_607);
        v.setUint16(at, n & 0xffff, true);
        v.setInt8(at + 2, n >> 16);
      }
    }
  }
  return bytes.slice(0, bytes.length - cut);
}

/** A drum's sound: a falling sine of so many Hz, ringing so many seconds, after some silence. */
export const drum =
  (hz: number, { level = 1, ring = 0.12, lead = 0, rate = 44_100 } = {}) =>
  (frame: number): number => {
    const t = frame / rate - lead;
    return t < 0 ? 0 : level * Math.sin(2 * Math.PI * hz * t) * Math.exp(-t / ring);
  };
