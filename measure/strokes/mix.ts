import { atRate } from '@/core/audio/resample';
import type { Part } from '@/core/model/part';
import type { SoundKind } from '@/core/onsets/stroke-net';
import { tempoMapOf } from '@/core/part/part-time';
import { performPart } from '@/core/perform/perform';
import { ticks } from '@/core/units';
import { RATE, type Drum, type DrumSet, type Origin } from './drum-sets';

/** A loop as sound, and all that is struck in it. */
export interface Mixed {
  sound: Float32Array;
  strokes: readonly MixedStroke[];
}

export interface MixedStroke {
  /** Seconds. */
  at: number;
  sound: SoundKind;
  /** Of its first moments, in dB. */
  level: number;
  /** Whose drum it is. */
  origin: Origin;
  /** 1 to 127, as performed. */
  velocity: number;
}

type Random = () => number;

const SKINS = ['tom-', 'conga', 'bongo', 'block', 'rim'] as const;
/** A stroke's loudness is that of its first moments. */
const LEVEL_SECONDS = 0.05;
/** How loud drums are at their hardest, in dB, to begin with, and how far they go from there. */
const LOUD_DB: Readonly<Record<SoundKind, number>> = { kick: -14, snare: -16, hat: -26, skin: -17, bright: -24 };
const MOST_APART = 6;
const MOST_SPEED = 0.16;
const MOST_SHELF = 6;
const LOW_HZ = 250;
const HIGH_HZ = 4000;
/** Fade of an open hat when the next hat chokes it, in seconds. */
const CHOKE = 0.02;

export function soundOf(voice: string): SoundKind {
  if (voice === 'kick') return 'kick';
  if (voice.startsWith('snare')) return 'snare';
  if (voice.startsWith('hat')) return 'hat';
  return SKINS.some((name) => voice.startsWith(name)) ? 'skin' : 'bright';
}

export function levelOf(sound: Float32Array): number {
  const length = Math.round(LEVEL_SECONDS * RATE);
  let power = 0;
  for (let i = 0; i < Math.min(length, sound.length); i++) power += (sound[i] as number) ** 2;
  return 10 * Math.log10(power / length + 1e-12);
}

/** A drum as others tune, damp and record it: pitch, lows and highs, how long it rings, how loud it is and how that goes with force. */
function changed(drum: Drum, kind: SoundKind, random: Random): Drum {
  const [speed, low, high] = [
    random() < 0.7 ? 1 + (random() * 2 - 1) * MOST_SPEED : 1,
    10 ** (((random() * 2 - 1) * MOST_SHELF) / 20),
    10 ** (((random() * 2 - 1) * MOST_SHELF) / 20),
  ];
  const decay = random() < 0.35 ? 0.03 * 20 ** random() : Infinity;
  const law = 0.8 + 1.2 * random();
  const loudest = LOUD_DB[kind] + (random() * 2 - 1) * MOST_APART;
  const [poleLow, poleHigh] = [LOW_HZ, HIGH_HZ].map((hz) => 1 - Math.exp((-2 * Math.PI * hz) / RATE)) as [number, number];
  const known = new Map<string, Float32Array>();
  const shaped = (force: number, take: number): Float32Array => {
    const name = `${Math.round(force * 12)}|${take % 3}`;
    let sound = known.get(name);
    if (!sound) {
      let [under, below] = [0, 0];
      const own = drum(force, take);
      const tuned = speed === 1 ? own : atRate(own, RATE * speed, RATE);
      sound = tuned.map((x, i) => {
        under += poleLow * (x - under);
        const y = x + (low - 1) * under;
        below += poleHigh * (y - below);
        return (y + (high - 1) * (y - below)) * (decay === Infinity ? 1 : Math.exp(-i / (decay * RATE)));
      });
      known.set(name, sound);
    }
    return sound;
  };
  return (force, take) => {
    const sound = shaped(force, take);
    const gain = 10 ** ((loudest + 20 * law * Math.log10(force) - levelOf(sound)) / 20);
    return sound.map((x) => x * gain);
  };
}

/** As its set plays it: amplitude goes with force to some power. */
const asIs =
  (drum: Drum, law: number): Drum =>
  (force, take) =>
    drum(force, take).map((x) => x * force ** law);

/**
 * Mixes a part of drums of one set, or of several.
 * @param setFor the set that plays a voice @param natural drums are as their sets play them
 */
export function mixed(part: Part, setFor: (voice: string) => DrumSet, random: Random, natural = false): Mixed {
  const { ticks: at, velocities } = performPart(part);
  const tempo = tempoMapOf(part);
  const drums = new Map(
    [...new Set(part.hits.map((h) => h.voice))].map((voice) => {
      const set = setFor(voice);
      const own = set.drum(voice);
      return [voice, { origin: set.origin, drum: natural ? asIs(own, set.law) : changed(own, soundOf(voice), random) }];
    }),
  );
  const hits = part.hits
    .map(({ voice }, i) => ({
      at: Math.max(0, tempo.between(ticks(0), ticks(at[i] as number)) / 1000),
      velocity: velocities[i] as number,
      voice,
    }))
    .sort((a, b) => a.at - b.at);
  const sound = new Float32Array(Math.ceil((Math.max(...hits.map((h) => h.at)) + 0.8) * RATE));
  const strokes = hits.map(({ at: moment, velocity, voice }, n): MixedStroke => {
    const { drum, origin } = drums.get(voice) as { drum: Drum; origin: Origin };
    const own = drum(velocity / 127, n);
    const first = Math.round(moment * RATE);
    const choke = voice === 'hat-open' ? hits.find((h, i) => i > n && h.voice.startsWith('hat'))?.at : undefined;
    const end = choke === undefined ? Infinity : Math.round(choke * RATE) - first;
    for (let i = 0; i < own.length && first + i < sound.length; i++) {
      const gain = i < end ? 1 : 1 - (i - end) / (CHOKE * RATE);
      if (gain <= 0) break;
      sound[first + i]! += gain * (own[i] as number);
    }
    return { at: moment, sound: soundOf(voice), level: levelOf(own), origin, velocity };
  });
  return { sound, strokes };
}
