import { GENERAL_MIDI_KIT, keyOfVoice } from '@/core/key-map';
import { KIT_NAMES } from '@/core/model/sound';
import { classOf, velocityOf } from '@/core/synth/classes';
import { strokeOf } from '@/core/synth/kits/all';
import { plainDrums } from './plain-drums';
import type { SoundFont } from './soundfont';

/** Whose drums they are: one of our kits, plainly made, or a set of the general soundfont by its family. */
export type Origin = string;

/** One drum: how it sounds when it is struck so hard (0 to 1). Which take it is goes with the call. */
export type Drum = (force: number, take: number) => Float32Array;

export interface DrumSet {
  origin: Origin;
  /** Amplitude goes with force to this power. */
  law: number;
  drum(voice: string): Drum;
}

export const RATE = 44_100;
/** Longest sound, in seconds: a longer tail makes no difference to the fit. */
const LONGEST = 1.6;
const FADE = 0.05;
const TAKES = 3;
/** Sets of the general soundfont that differ in little are one family, left out together. */
const FAMILIES: readonly (readonly [name: string, first: number, last: number])[] = [
  ['font a', 0, 7],
  ['font b', 8, 15],
  ['font c', 16, 19],
  ['font d', 24, 25],
  ['font e', 32, 39],
  ['font f', 40, 47],
  ['font g', 48, 48],
];

/** Drums of two sides: a net that learnt from one of them is asked about the other. Plain drums are new in each loop and stand on both. */
export const OURS: readonly Origin[] = [...KIT_NAMES, 'plain'];
export const FONT: readonly Origin[] = [...FAMILIES.map(([name]) => name), 'plain'];
export const isPlain = (origin: Origin): boolean => origin === 'plain';

const cut = (sound: Float32Array): Float32Array => {
  const length = Math.min(sound.length, Math.round(LONGEST * RATE));
  if (length === sound.length) return sound;
  const fade = Math.round(FADE * RATE);
  return sound.subarray(0, length).map((x, i) => x * Math.min(1, (length - i) / fade));
};

/** Drum sets by origin; recordings and strokes are kept once they were made. */
export function drumSets(font: SoundFont | null): (origin: Origin, seed: number) => DrumSet {
  const known = new Map<string, Float32Array>();
  const kept = (name: string, make: () => Float32Array): Float32Array => {
    let sound = known.get(name);
    if (!sound) known.set(name, (sound = cut(make())));
    return sound;
  };
  const plainOf = (seed: number): DrumSet => {
    const drums = plainDrums(seed);
    return { origin: 'plain', law: 1.5, drum: (voice) => (force) => cut(drums(voice)(force)) };
  };
  return (origin, seed) => {
    const kit = KIT_NAMES.find((k) => k === origin);
    if (kit)
      return {
        origin,
        law: 1.5,
        drum: (voice) => (force, take) => {
          // Half of the classes are enough to learn from.
          const layer = classOf(Math.max(1, force * 127)) | 1;
          const sound = kept(`${kit}|${voice}|${layer}|${take % TAKES}`, () => strokeOf(kit, voice, layer, take % TAKES, RATE).samples);
          const gain = (127 / velocityOf(layer)) ** 1.5;
          return sound.map((x) => x * gain);
        },
      };
    const family = FAMILIES.find(([name]) => name === origin);
    if (!family || !font) return plainOf(seed);
    const sets = font.sets.filter((s) => s >= family[1] && s <= family[2]);
    const set = sets[seed % sets.length] as number;
    return {
      origin,
      // The specification's own curve of velocity: 40 log (v / 127) dB.
      law: 2,
      drum: (voice) => {
        const key = keyOfVoice(GENERAL_MIDI_KIT, voice);
        const soundAt = (v: number): Float32Array =>
          kept(`${set}|${key}|${v}`, () => font.drum(set, key, v, RATE, LONGEST) ?? new Float32Array(1));
        // A set without that drum lends it from those that are made plainly.
        if (soundAt(112).length < 100) return plainOf(seed).drum(voice);
        return (force) => soundAt(force < 0.35 ? 40 : force < 0.6 ? 68 : force < 0.8 ? 94 : 120);
      },
    };
  };
}
