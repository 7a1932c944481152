/** Writes small MIDI files for tests, independently of the code under test: plain numbers in, bytes out. */

export type TestEvent = readonly [tick: number, ...bytes: number[]];

const quantity = (n: number): number[] => {
  const out = [n & 0x7f];
  for (let rest = n >> 7; rest > 0; rest >>= 7) out.unshift(0x80 | (rest & 0x7f));
  return out;
};

export const text = (s: string): number[] => [...s].map((c) => c.charCodeAt(0));
const uint32 = (n: number): number[] => [n >>> 24, (n >> 16) & 255, (n >> 8) & 255, n & 255];
const uint16 = (n: number): number[] => [(n >> 8) & 255, n & 255];

export function trackChunk(events: readonly TestEvent[], end = true): number[] {
  const body: number[] = [];
  let now = 0;
  for (const [tick, ...bytes] of events) {
    for (const b of quantity(tick - now)) body.push(b);
    for (const b of bytes) body.push(b);
    now = tick;
  }
  if (end) body.push(0, 0xff, 0x2f, 0);
  return [...text('MTrk'), ...uint32(body.length)].concat(body);
}

export const midiFile = (format: number, division: number, tracks: readonly number[][]): Uint8Array =>
  new Uint8Array([...text('MThd'), ...uint32(6), ...uint16(format), ...uint16(tracks.length), ...uint16(division), ...tracks.flat()]);

export const tempoEvent = (tick: number, us: number): TestEvent => [tick, 0xff, 0x51, 3, (us >> 16) & 255, (us >> 8) & 255, us & 255];
export const meterEvent = (tick: number, n: number, power: number): TestEvent => [tick, 0xff, 0x58, 4, n, power, 24, 8];

/** Drum notes as on/off events on a channel (1 to 16). */
export const noteEvents = (
  notes: readonly (readonly [tick: number, key: number, velocity: number])[],
  length = 10,
  channel = 10,
): TestEvent[] =>
  notes
    .flatMap(([tick, key, velocity]): TestEvent[] => [
      [tick, 0x90 | (channel - 1), key, velocity],
      [tick + length, 0x80 | (channel - 1), key, 64],
    ])
    .sort((a, b) => a[0] - b[0]);

/** A track's name of so many letters. */
export const metaName = (tick: number, letters: number): TestEvent => {
  const event = new Array<number>(letters + quantity(letters).length + 3).fill(0x61);
  event.splice(0, 3 + quantity(letters).length, tick, 0xff, 3, ...quantity(letters));
  return event as unknown as TestEvent;
};

/** A file of format 1 that is nothing but headers of empty tracks. */
export function rawTracks(count: number): Uint8Array {
  const head = [...text('MThd'), ...uint32(6), ...uint16(1), ...uint16(0xffff), ...uint16(480)];
  const bytes = new Uint8Array(head.length + count * 8);
  bytes.set(head);
  const empty = [...text('MTrk'), 0, 0, 0, 0];
  for (let i = 0; i < count; i++) bytes.set(empty, head.length + i * 8);
  return bytes;
}
