/** Collects the bytes of a standard MIDI file; grows as needed. */
export class SmfWriter {
  private bytes = new Uint8Array(4096);
  private length = 0;

  private reserve(more: number) {
    if (this.length + more <= this.bytes.length) return;
    const grown = new Uint8Array(Math.max(this.bytes.length * 2, this.length + more));
    grown.set(this.bytes.subarray(0, this.length));
    this.bytes = grown;
  }

  byte(value: number) {
    this.reserve(1);
    this.bytes[this.length++] = value;
  }

  uint16(value: number) {
    this.byte((value >> 8) & 0xff);
    this.byte(value & 0xff);
  }

  uint32(value: number) {
    this.uint16(value >>> 16);
    this.uint16(value & 0xffff);
  }

  text(value: string) {
    for (let i = 0; i < value.length; i++) this.byte(value.charCodeAt(i) & 0xff);
  }

  copy(source: Uint8Array, from = 0, to = source.length) {
    this.reserve(to - from);
    this.bytes.set(source.subarray(from, to), this.length);
    this.length += to - from;
  }

  /** A variable-length quantity of up to 28 bits. */
  quantity(value: number) {
    if (value >= 1 << 21) this.byte(0x80 | ((value >> 21) & 0x7f));
    if (value >= 1 << 14) this.byte(0x80 | ((value >> 14) & 0x7f));
    if (value >= 1 << 7) this.byte(0x80 | ((value >> 7) & 0x7f));
    this.byte(value & 0x7f);
  }

  /** The time before an event. One that is too long for a delta is written in steps, with an empty text event after each. */
  delta(ticks: number) {
    let left = ticks;
    for (; left > MAX_DELTA; left -= MAX_DELTA) {
      this.quantity(MAX_DELTA);
      for (const b of EMPTY_TEXT) this.byte(b);
    }
    this.quantity(left);
  }

  header(format: number, tracks: number, division: number) {
    this.text('MThd');
    this.uint32(6);
    this.uint16(format);
    this.uint16(tracks);
    this.uint16(division);
  }

  /** Writes one track chunk and fills in its length afterwards. */
  track(body: () => void) {
    this.text('MTrk');
    this.uint32(0);
    const start = this.length;
    body();
    const size = this.length - start;
    for (let i = 0; i < 4; i++) this.bytes[start - 4 + i] = (size >>> (24 - 8 * i)) & 0xff;
  }

  finish(): Uint8Array {
    return this.bytes.slice(0, this.length);
  }
}

const EMPTY_TEXT = [0xff, 0x01, 0x00];

/** Longest delta a variable-length quantity holds. */
const MAX_DELTA = (1 << 28) - 1;
