import { atRate } from '@/core/audio/resample';
import type { KitName } from '@/core/model/sound';
import type { Part } from '@/core/model/part';
import { monoOf } from '@/core/onsets/listen';
import { Looker } from '@/core/onsets/look';
import { findPeaks } from '@/core/onsets/onsets';
import { DB_OF_LOUD, SECONDS_OF_LATE, SOUNDS, type SoundKind } from '@/core/onsets/stroke-net';
import { tempoMapOf } from '@/core/part/part-time';
import { performPart } from '@/core/perform/perform';
import { randomStream } from '@/core/random';
import { renderPart, strokeSource } from '@/core/render/render-part';
import { ticks, velocity } from '@/core/units';
import { beatOf, kitOf } from './beats';
import { plainDrums } from './plain-drums';

/** What is seen of a stroke, and what it is. */
export interface Example {
  seed: number;
  /** What it was played on: one of our kits, or drums that are not ours. */
  kit: KitName | 'plain';
  values: Float32Array;
  /** By sound, in the net's units; null where it was not struck. */
  truth: readonly ({ loud: number; late: number } | null)[];
}

const RATE = 44_100;
/** Strokes so long before and after a moment that was found are struck there, in seconds. */
const EARLY = 0.013;
const LATE = 0.022;
/** What might be a stroke and is far from any plain one is learnt from now and then. */
const APART = 0.03;
const MAYBE = 0.25;
/** How often each beat is heard through other ears. */
const COLOURS = 2;
/** Where a sound has most of what it is told by, in Hz. */
const HEART: Readonly<Record<SoundKind, number>> = { kick: 80, snare: 1000, hat: 9000, skin: 250, bright: 4000 };
const LOW_HZ = 250;
const HIGH_HZ = 4000;
const MOST_DB = 5;
const MOST_SPEED = 0.17;

/** A stroke's loudness is that of its first moments. */
const LEVEL_SECONDS = 0.05;
/** How much louder or softer drums of others are than those of ours, in dB, and how their loudness goes with how hard they are struck. */
const MOST_APART = 5;
const LAWS = [1, 2] as const;

const SKINS = ['tom-', 'conga', 'bongo', 'block', 'rim'] as const;

function soundOf(voice: string): SoundKind {
  if (voice === 'kick') return 'kick';
  if (voice.startsWith('snare')) return 'snare';
  if (voice.startsWith('hat')) return 'hat';
  return SKINS.some((name) => voice.startsWith(name)) ? 'skin' : 'bright';
}

interface Stroke {
  at: number;
  sound: SoundKind;
  /** dB. */
  level: number;
}

/** How drums may sound elsewhere: other lows and highs, another pitch, some noise. */
interface Colour {
  low: number;
  high: number;
  speed: number;
  noise: number;
}

const UNCOLOURED: Colour = { low: 1, high: 1, speed: 1, noise: 0 };

interface Sounding {
  kit: Example['kit'];
  sound: Float32Array;
  strokes: readonly Stroke[];
}

/** All examples of the beats of some seeds, on our kits and on plain drums in turn. @param onBeat told of each */
export function examplesOf(seeds: readonly number[], onBeat: (nth: number) => void): Example[] {
  return seeds.flatMap((seed, nth) => {
    onBeat(nth);
    const part = beatOf(seed);
    if (part.hits.length === 0) return [];
    const { kit, sound, strokes } = seed % 2 === 0 ? onKit(part, kitOf(seed >> 1)) : onPlainDrums(part, seed);
    const random = randomStream(seed);
    const gain = (): number => 10 ** ((random() * 2 - 1) * (MOST_DB / 20));
    const colours = Array.from({ length: COLOURS }, (): Colour => ({
      low: gain(),
      high: gain(),
      speed: 1 + (random() * 2 - 1) * MOST_SPEED,
      noise: random() < 0.5 ? 0 : 0.01 * random(),
    }));
    return [UNCOLOURED, ...colours].flatMap((colour) =>
      looksAt(
        coloured(sound, colour, random),
        strokes.map((s) => throughEars(s, colour)),
        random,
      ).map((look) => ({ seed, kit, ...look })),
    );
  });
}

/** All strokes that our kits have are kept: some gigabytes. */
const source = strokeSource(RATE, undefined, 8e9);

const rendered = (part: Part): Float32Array => monoOf(renderPart(part, { rate: RATE, ending: 'ring', volume: 0.8, strokes: source }));

/** When and how hard each hit is struck: seconds, and 0 to 1. */
function performed(part: Part): { at: number; force: number; voice: string }[] {
  const { ticks: at, velocities } = performPart(part);
  const tempo = tempoMapOf(part);
  return part.hits.map(({ voice }, i) => ({
    at: Math.max(0, tempo.between(ticks(0), ticks(at[i] as number)) / 1000),
    force: (velocities[i] as number) / 127,
    voice,
  }));
}

function onKit(beat: Part, kit: KitName): Sounding {
  const part = { ...beat, kit };
  const strokes = performed(part).map(({ at, force, voice }) => ({
    at,
    sound: soundOf(voice),
    level: levelAlone(kit, voice) + 30 * Math.log10(force),
  }));
  return { kit, sound: rendered(part), strokes };
}

const alone = new Map<string, number>();

/** How loud a voice begins at 127, in dB. */
function levelAlone(kit: KitName, voice: string): number {
  const name = `${kit} ${voice}`;
  let level = alone.get(name);
  if (level === undefined) {
    const beat = beatOf(0);
    const hit = { ...(beat.hits[0] as Part['hits'][number]), voice, tick: ticks(0), velocity: velocity(127) };
    level = levelOf(rendered({ ...beat, bars: 1, kit, rows: [{ voice }], hits: [hit], feel: { ...beat.feel, moves: [] } }));
    alone.set(name, level);
  }
  return level;
}

function levelOf(sound: Float32Array): number {
  const length = Math.round(LEVEL_SECONDS * RATE);
  let power = 0;
  for (let i = 0; i < Math.min(length, sound.length); i++) power += (sound[i] as number) ** 2;
  return 10 * Math.log10(power / length + 1e-12);
}

function onPlainDrums(part: Part, seed: number): Sounding {
  const random = randomStream(seed + 1);
  const drumOf = plainDrums(seed);
  const law = LAWS[0] + (LAWS[1] - LAWS[0]) * random();
  const hits = performed(part);
  const sound = new Float32Array(Math.ceil((Math.max(...hits.map((h) => h.at)) + 1) * RATE));
  const drums = new Map(
    [...new Set(part.hits.map((h) => h.voice))].map((voice) => [
      voice,
      { drum: drumOf(voice), loudest: levelAlone('Wheelhouse', voice) + (random() * 2 - 1) * MOST_APART },
    ]),
  );
  const strokes = hits.map(({ at, force, voice }) => {
    const { drum, loudest } = drums.get(voice) as { drum: (force: number) => Float32Array; loudest: number };
    const level = loudest + 20 * law * Math.log10(force);
    const own = drum(force);
    const gain = 10 ** ((level - levelOf(own)) / 20);
    const first = Math.round(at * RATE);
    for (let i = 0; i < own.length && first + i < sound.length; i++)
      sound[first + i] = (sound[first + i] as number) + gain * (own[i] as number);
    return { at, sound: soundOf(voice), level };
  });
  return { kit: 'plain', sound, strokes };
}

function coloured(sound: Float32Array, { low, high, speed, noise }: Colour, random: () => number): Float32Array {
  const [poleLow, poleHigh] = [LOW_HZ, HIGH_HZ].map((hz) => 1 - Math.exp((-2 * Math.PI * hz) / RATE)) as [number, number];
  let [under, below] = [0, 0];
  const shelved = sound.map((x) => {
    under += poleLow * (x - under);
    const y = x + (low - 1) * under;
    below += poleHigh * (y - below);
    return y + (high - 1) * (y - below) + noise * (random() * 2 - 1);
  });
  return speed === 1 ? shelved : atRate(shelved, RATE * speed, RATE);
}

/** A stroke as it is in a coloured sound. */
function throughEars({ at, sound, level }: Stroke, { low, high, speed }: Colour): Stroke {
  const hz = HEART[sound] / speed;
  // One pole's share of what is under its corner, and of what is over it.
  const lowShare = 1 / (1 + (hz / LOW_HZ) ** 2);
  const highShare = 1 - 1 / (1 + (hz / HIGH_HZ) ** 2);
  const gain =
    Math.hypot(1 + (low - 1) * lowShare, (low - 1) * Math.sqrt(lowShare * (1 - lowShare))) *
    Math.hypot(1 + (high - 1) * highShare, (high - 1) * Math.sqrt(highShare * (1 - highShare)));
  return { at: at / speed, sound, level: level + 20 * Math.log10(gain) };
}

function looksAt(sound: Float32Array, strokes: readonly Stroke[], random: () => number): Pick<Example, 'values' | 'truth'>[] {
  const peaks = findPeaks(sound, RATE).list.map((p) => ({ at: p.seconds as number, plain: p.over >= 1 }));
  const plain = peaks.filter((p) => p.plain).map((p) => p.at);
  const looker = new Looker(sound, RATE);
  return peaks.flatMap(({ at, plain: isPlain }) => {
    if (!isPlain && (random() > MAYBE || plain.some((p) => Math.abs(p - at) < APART))) return [];
    const previous = plain.findLast((p) => p < at) ?? -1;
    const next = plain.find((p) => p > at) ?? sound.length / RATE;
    const struck = strokes.filter((s) => s.at > at - EARLY && s.at < at + LATE && s.at < (at + next) / 2 && s.at > (at + previous) / 2);
    const { values, total } = looker.look({ at, previous, next });
    const truth = SOUNDS.map((sound) => {
      const own = struck.filter((s) => s.sound === sound).sort((a, b) => b.level - a.level)[0];
      return own ? { loud: (own.level - total) / DB_OF_LOUD, late: (own.at - at) / SECONDS_OF_LATE } : null;
    });
    return [{ values: Float32Array.from(values), truth }];
  });
}
