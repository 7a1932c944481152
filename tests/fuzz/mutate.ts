/** Small numbers that decide everything from one seed (mulberry32). */
export function dice(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), state | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  };
}

const upTo = (roll: () => number, n: number): number => Math.floor(roll() * n);
const pick = <T>(roll: () => number, list: readonly T[]): T => list[upTo(roll, list.length)] as T;

/** Bytes that decide much: lengths, statuses, metas. */
const TELLING = [0x00, 0x01, 0x7f, 0x80, 0x90, 0x99, 0x89, 0xb9, 0xc0, 0xf0, 0xf7, 0xff, 0x2f, 0x51, 0x58, 0x54];

/** A damaged copy of a file: bytes changed, cut, doubled, moved about. */
export function mutateBytes(source: Uint8Array, roll: () => number): Uint8Array {
  let bytes = Uint8Array.from(source);
  for (let n = 1 + upTo(roll, 6); n > 0; n--) {
    const at = upTo(roll, bytes.length);
    const length = 1 + upTo(roll, Math.min(400, bytes.length - at));
    switch (upTo(roll, 6)) {
      case 0:
        bytes[at] = upTo(roll, 256);
        break;
      case 1:
        bytes[at] = pick(roll, TELLING);
        break;
      case 2:
        bytes = joined(bytes.subarray(0, at), bytes.subarray(at + length));
        break;
      case 3:
        bytes = joined(bytes.subarray(0, at), bytes.subarray(at, at + length), bytes.subarray(at));
        break;
      case 4:
        bytes.fill(pick(roll, TELLING), at, at + Math.min(length, 4));
        break;
      default:
        if (roll() < 0.3) bytes = bytes.slice(0, Math.max(1, at));
        else for (let i = 0; i < 4 && at + i < bytes.length; i++) bytes[at + i] = upTo(roll, 256);
    }
  }
  return bytes;
}

function joined(...parts: readonly Uint8Array[]): Uint8Array<ArrayBuffer> {
  const out = new Uint8Array(parts.reduce((n, p) => n + p.length, 0));
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}

const ODD: readonly unknown[] = [
  null,
  true,
  '',
  'x',
  '__proto__',
  'constructor',
  'toString',
  'y'.repeat(5000),
  0,
  -1,
  0.5,
  1e-300,
  1e308,
  -1e308,
  2 ** 53,
  127,
  128,
  [],
  {},
  [[]],
  { __proto__: null },
  'kick',
  '1/16',
  'nod-sway/part@1',
];

/** A damaged copy of JSON: values replaced, taken out, doubled, renamed. */
export function mutateJson(source: string, roll: () => number): string {
  const data = JSON.parse(source) as unknown;
  const places: { in: Record<string, unknown> | unknown[]; at: string | number }[] = [];
  const walk = (value: unknown): void => {
    if (typeof value !== 'object' || value === null) return;
    for (const at of Array.isArray(value) ? value.keys() : Object.keys(value)) {
      places.push({ in: value as Record<string, unknown>, at });
      if (places.length < 5000) walk((value as Record<string, unknown>)[at]);
    }
  };
  walk(data);
  for (let n = 1 + upTo(roll, 3); n > 0 && places.length > 0; n--) {
    const place = pick(roll, places);
    const holder = place.in as Record<string, unknown>;
    const kind = upTo(roll, 6);
    if (kind < 3) holder[place.at] = pick(roll, ODD);
    else if (kind === 3 && Array.isArray(place.in)) place.in.splice(Number(place.at), 1);
    else if (kind === 3) delete holder[place.at];
    else if (kind === 4 && Array.isArray(place.in)) for (let i = upTo(roll, 2000); i > 0; i--) place.in.push(holder[place.at]);
    else if (!Array.isArray(place.in))
      Object.defineProperty(holder, pick(roll, ['__proto__', 'constructor', 'hasOwnProperty', 'extra']), {
        value: holder[place.at],
        enumerable: true,
        configurable: true,
        writable: true,
      });
  }
  const text = JSON.stringify(data);
  return roll() < 0.05 ? text.slice(0, upTo(roll, text.length)) : text;
}
