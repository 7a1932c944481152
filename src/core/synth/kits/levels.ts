import type { KitName } from '../../model/sound';
import { standIns, type VoiceName } from '../../row-names';

/** How loud the voices of the built-in kits are, how much room they have, what ends what: apart from their recipes, which are large. */

const ACOUSTIC: Readonly<Record<VoiceName, number>> = {
  kick: -14,
  snare: -18.5,
  'snare-rimshot': -20,
  'snare-edge': -21,
  'snare-sweep': -24,
  rim: -23,
  clap: -19,
  'hat-closed': -23,
  'hat-shoulder': -21,
  'hat-half': -20,
  'hat-open': -19,
  'hat-pedal': -25,
  'hat-splash': -22,
  ride: -22,
  'ride-edge': -19,
  'ride-bell': -20,
  crash: -16,
  splash: -20,
  china: -17,
  'tom-high': -17,
  'tom-mid': -16.5,
  'tom-low': -16,
  'tom-floor': -15.5,
  'tom-rim': -20,
  tambourine: -23,
  shaker: -26,
  cabasa: -25,
  maracas: -25,
  cowbell: -21,
  'agogo-high': -21,
  'agogo-low': -21,
  triangle: -24,
  'triangle-mute': -26,
  claves: -24,
  'block-high': -23,
  'block-low': -23,
  'guiro-short': -25,
  'guiro-long': -22,
  vibraslap: -22,
  'whistle-short': -22,
  'whistle-long': -19,
  'cuica-mute': -23,
  'cuica-open': -20,
  'bongo-high': -20.5,
  'bongo-low': -20,
  'conga-mute': -22.5,
  'conga-high': -18.5,
  'conga-low': -18,
  'timbale-high': -18,
  'timbale-low': -18,
};
const BEACON: Readonly<Record<VoiceName, number>> = {
  ...ACOUSTIC,
  kick: -13,
  snare: -18,
  'snare-rimshot': -18.5,
  'snare-edge': -20,
  'hat-closed': -24,
  'hat-shoulder': -22,
  'hat-half': -22,
  'hat-open': -20,
  'hat-pedal': -26,
  'hat-splash': -23,
  'ride-edge': -20,
  'ride-bell': -21,
  crash: -17,
  splash: -21,
  china: -19,
  'tom-rim': -21,
  tambourine: -24,
  triangle: -25,
  'triangle-mute': -27,
  'bongo-high': -20,
  'bongo-low': -19.5,
  'conga-mute': -21,
};

/** Of a key without an instrument. */
export const TICK_LEVEL = -22;

/** Metal rings on whatever follows it. */
const isMetal = (voice: VoiceName): boolean => /^(crash|ride|splash|china|hat-)/.test(voice) || voice === 'triangle';

/** A built-in kit as it is played. */
export interface KitTraits {
  /** Of each voice, in dB. */
  levels: Readonly<Record<VoiceName, number>>;
  /** How much of its room is heard, in percent, where the part does not say. */
  room: number;
  /** Whether a stroke of a voice ends the one before it. */
  cuts(voice: VoiceName): boolean;
}

const rings = (): boolean => false;

export const KIT_TRAITS: Readonly<Record<KitName, KitTraits>> = {
  Wheelhouse: { levels: ACOUSTIC, room: 10, cuts: rings },
  'Dry Dock': { levels: ACOUSTIC, room: 30, cuts: rings },
  Sailcloth: { levels: ACOUSTIC, room: 15, cuts: rings },
  Beacon: { levels: BEACON, room: 0, cuts: (voice) => !isMetal(voice) },
};

/** The level of what a kit makes a voice of, in dB. @example levelOf('Wheelhouse', 'kick') // -14 */
export function levelOf(kit: KitName, voice: VoiceName): number {
  const { levels } = KIT_TRAITS[kit];
  const own = [voice, ...standIns(voice)].find((name) => Object.hasOwn(levels, name));
  return own === undefined ? TICK_LEVEL : (levels[own] as number);
}
