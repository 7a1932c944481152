import { readFileSync } from 'node:fs';
import { filterInPlace } from '@/core/synth/filter';

/** Reads drums of a SoundFont (SoundFont Technical Specification 2.04): samples by key and velocity, with pitch, level and decay. */

const GENERATOR = {
  firstOffset: 0,
  lastOffset: 1,
  firstCoarse: 4,
  lastCoarse: 12,
  cutoff: 8,
  hold: 35,
  decay: 36,
  sustain: 37,
  instrument: 41,
  keys: 43,
  velocities: 44,
  attenuation: 48,
  coarseTune: 51,
  fineTune: 52,
  sample: 53,
  loops: 54,
  scaleTuning: 56,
  rootKey: 58,
} as const;
/** Those that say what is looped and where are given as they are; levels and tunings add up over preset and instrument. */
const ADDS: ReadonlySet<number> = new Set([
  GENERATOR.cutoff,
  GENERATOR.hold,
  GENERATOR.decay,
  GENERATOR.sustain,
  GENERATOR.attenuation,
  GENERATOR.coarseTune,
  GENERATOR.fineTune,
]);
const PERCUSSION = 128;
const OPEN_CENTS = 13_500;
/** A timecent of nothing. */
const NO_TIME = -12_000;

type Zone = ReadonlyMap<number, number>;

interface SampleHeader {
  start: number;
  end: number;
  loopStart: number;
  loopEnd: number;
  rate: number;
  root: number;
  cents: number;
}

export interface SoundFont {
  /** Numbers of the percussion sets. */
  sets: readonly number[];
  /** A drum as it sounds at a rate; null where the set has none on that key. @param velocity 1 to 127: chooses the recording alone */
  drum(set: number, key: number, velocity: number, rate: number, seconds: number): Float32Array | null;
}

const inRange = (range: number | undefined, value: number): boolean =>
  range === undefined || (value >= (range & 255) && value <= range >> 8);

export function readSoundFont(path: string): SoundFont {
  const bytes = readFileSync(path);
  const chunks = new Map<string, { from: number; length: number }>();
  const walk = (from: number, until: number): void => {
    for (let at = from; at + 8 <= until;) {
      const id = bytes.toString('latin1', at, at + 4);
      const length = bytes.readUInt32LE(at + 4);
      if (id === 'LIST' || id === 'RIFF') walk(at + 12, at + 8 + length);
      else chunks.set(id, { from: at + 8, length });
      at += 8 + length + (length & 1);
    }
  };
  walk(0, bytes.length);
  const rows = <T>(id: string, size: number, read: (at: number) => T): T[] => {
    const { from, length } = chunks.get(id) as { from: number; length: number };
    return Array.from({ length: Math.floor(length / size) }, (_, i) => read(from + i * size));
  };
  const pcm = chunks.get('smpl') as { from: number };
  const presets = rows('phdr', 38, (at) => ({
    set: bytes.readUInt16LE(at + 20),
    bank: bytes.readUInt16LE(at + 22),
    bag: bytes.readUInt16LE(at + 24),
  }));
  const instruments = rows('inst', 22, (at) => bytes.readUInt16LE(at + 20));
  const samples = rows('shdr', 46, (at): SampleHeader => ({
    start: bytes.readUInt32LE(at + 20),
    end: bytes.readUInt32LE(at + 24),
    loopStart: bytes.readUInt32LE(at + 28),
    loopEnd: bytes.readUInt32LE(at + 32),
    rate: bytes.readUInt32LE(at + 36),
    root: bytes.readUInt8(at + 40),
    cents: bytes.readInt8(at + 41),
  }));
  const zonesOf = (bags: number[], generators: (readonly [number, number])[], first: number, behind: number): Zone[] =>
    Array.from({ length: behind - first }, (_, i) => new Map(generators.slice(bags[first + i], bags[first + i + 1])));
  const generator = (at: number): readonly [number, number] => {
    const kind = bytes.readUInt16LE(at);
    const isRange = kind === GENERATOR.keys || kind === GENERATOR.velocities;
    return [kind, isRange ? bytes.readUInt16LE(at + 2) : bytes.readInt16LE(at + 2)];
  };
  const [presetBags, presetGenerators] = [rows('pbag', 4, (at) => bytes.readUInt16LE(at)), rows('pgen', 4, generator)];
  const [bags, generators] = [rows('ibag', 4, (at) => bytes.readUInt16LE(at)), rows('igen', 4, generator)];

  function zonesFor(set: number, key: number, velocity: number): Zone[] {
    const index = presets.findIndex((p) => p.bank === PERCUSSION && p.set === set);
    const own = zonesOf(presetBags, presetGenerators, (presets[index] as { bag: number }).bag, (presets[index + 1] as { bag: number }).bag);
    return played(own, GENERATOR.instrument, key, velocity).flatMap((outer) => {
      const n = outer.get(GENERATOR.instrument) as number;
      const inner = zonesOf(bags, generators, instruments[n] as number, instruments[n + 1] as number);
      return played(inner, GENERATOR.sample, key, velocity).map((zone) => {
        const sum = new Map(zone);
        for (const [kind, value] of outer) if (ADDS.has(kind)) sum.set(kind, (sum.get(kind) ?? startOf(kind)) + value);
        return sum;
      });
    });
  }

  function sound(zone: Zone, key: number, rate: number, seconds: number): Float32Array {
    const of = samples[(zone.get(GENERATOR.sample) as number) & 0xffff] as SampleHeader;
    const get = (kind: number, rest: number): number => zone.get(kind) ?? rest;
    const root = get(GENERATOR.rootKey, -1) >= 0 ? get(GENERATOR.rootKey, of.root) : of.root;
    const cents =
      (key - root) * get(GENERATOR.scaleTuning, 100) + of.cents + 100 * get(GENERATOR.coarseTune, 0) + get(GENERATOR.fineTune, 0);
    const speed = (of.rate / rate) * 2 ** (cents / 1200);
    const first = of.start + get(GENERATOR.firstOffset, 0) + 32_768 * get(GENERATOR.firstCoarse, 0);
    const end = of.end + get(GENERATOR.lastOffset, 0) + 32_768 * get(GENERATOR.lastCoarse, 0);
    const looped = (get(GENERATOR.loops, 0) & 1) === 1 && of.loopEnd > of.loopStart;
    const length = Math.floor(Math.min(seconds * rate, looped ? Infinity : (end - first - 2) / speed));
    const gain = 10 ** (-get(GENERATOR.attenuation, 0) / 200);
    const time = (kind: number): number => 2 ** (get(kind, NO_TIME) / 1200);
    const [hold, decay, sustain] = [time(GENERATOR.hold), time(GENERATOR.decay), get(GENERATOR.sustain, 0) / 10];
    const out = new Float32Array(Math.max(1, length));
    for (let i = 0; i < length; i++) {
      let at = first + i * speed;
      if (looped && at >= of.loopEnd) at = of.loopStart + ((at - of.loopStart) % (of.loopEnd - of.loopStart));
      const whole = Math.floor(at);
      const [a, b] = [bytes.readInt16LE(pcm.from + 2 * whole), bytes.readInt16LE(pcm.from + 2 * (whole + 1))];
      // It falls by 100 dB in the time of its decay, down to where it is sustained.
      const fallen = Math.min(sustain, (100 * Math.max(0, i / rate - hold)) / decay);
      out[i] = ((a + (at - whole) * (b - a)) / 32_768) * gain * 10 ** (-fallen / 20);
    }
    const cutoff = get(GENERATOR.cutoff, OPEN_CENTS);
    return cutoff < OPEN_CENTS ? filterInPlace(out, 'lowpass', Math.min(0.45 * rate, 8.176 * 2 ** (cutoff / 1200)), 0.7, rate) : out;
  }

  return {
    sets: presets.filter((p) => p.bank === PERCUSSION).map((p) => p.set),
    drum(set, key, velocity, rate, seconds) {
      const all = zonesFor(set, key, velocity).map((zone) => sound(zone, key, rate, seconds));
      if (all.length === 0) return null;
      const mono = new Float32Array(Math.max(...all.map((s) => s.length)));
      for (const one of all) one.forEach((x, i) => (mono[i]! += x));
      return mono;
    },
  };
}

/** Zones that a note plays; a first one without a target says what holds for all. */
function played(zones: readonly Zone[], target: number, key: number, velocity: number): Zone[] {
  const [head] = zones;
  const common = head && !head.has(target) ? head : new Map<number, number>();
  return zones
    .filter((z) => z.has(target))
    .map((z) => new Map([...common, ...z]))
    .filter((z) => inRange(z.get(GENERATOR.keys), key) && inRange(z.get(GENERATOR.velocities), velocity));
}

const startOf = (kind: number): number =>
  kind === GENERATOR.cutoff ? OPEN_CENTS : kind === GENERATOR.hold || kind === GENERATOR.decay ? NO_TIME : 0;
