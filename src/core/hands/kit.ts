/** The kit as hands see it: where each drum stands, and which limbs may strike it. */
import { voiceOfRow, type VoiceName } from '../row-names';
import { limbOf } from '../voices';
import { clamp } from '../units';

/** Where a drum stands, seen from the stool of a right-handed kit: right and away are positive, in arm's lengths. */
export interface DrumPosition {
  x: number;
  y: number;
}

/** As far as a drum can stand from the snare, in arm's lengths: to either side, and towards the stool or away. */
export const REACH = { side: 1.2, near: -0.3, far: 1.1 } as const;

/** Drums that stand together. */
export interface Spot extends DrumPosition {
  name: string;
  /** As short as a picture has room for. */
  label: string;
  voices: RegExp;
}

export const SPOTS: readonly Spot[] = [
  { name: 'hat', label: 'hats', voices: /^hat/, x: -0.6, y: 0.1 },
  { name: 'snare', label: 'snare', voices: /^(snare|rim|clap)/, x: 0, y: 0 },
  { name: 'tom-high', label: 'high', voices: /^tom-high/, x: -0.2, y: 0.45 },
  { name: 'tom-mid', label: 'mid', voices: /^tom-mid/, x: 0.2, y: 0.45 },
  { name: 'tom-low', label: 'low', voices: /^tom-low/, x: 0.55, y: 0.25 },
  { name: 'tom-floor', label: 'floor', voices: /^(tom-floor|tom-rim)/, x: 0.75, y: 0 },
  { name: 'ride', label: 'ride', voices: /^ride/, x: 0.75, y: 0.5 },
  { name: 'crash', label: 'crash', voices: /^crash/, x: -0.5, y: 0.75 },
  { name: 'china', label: 'china', voices: /^(china|splash)/, x: 0.6, y: 0.8 },
  { name: 'cowbell', label: 'bell', voices: /^cowbell/, x: 0.1, y: 0.6 },
  { name: 'rest', label: 'others', voices: /^/, x: 0.4, y: 0.3 },
];

/** Who may strike a voice: either hand or one of them; either foot, or the one that kicks, or the one at the hat. */
export const STRIKERS = ['hands', 'lead-hand', 'other-hand', 'feet', 'kick-foot', 'hat-foot'] as const;
export type Striker = (typeof STRIKERS)[number];

/** What is otherwise than usual: places by the name of their spot, strikers by voice. */
export interface KitLayout {
  places?: Readonly<Record<string, DrumPosition>>;
  strikers?: Readonly<Record<string, Striker>>;
}

const USUAL_STRIKERS = { hand: 'hands', 'kick-foot': 'feet', 'hat-foot': 'hat-foot' } as const;

/** Who strikes a row where nothing else is said: both feet may kick, one works the hat. @example usualStriker('kick') // 'feet' */
export const usualStriker = (row: VoiceName): Striker => USUAL_STRIKERS[limbOf(row)];

/** @example strikerOf('cowbell', { strikers: { cowbell: 'hat-foot' } }) // 'hat-foot' */
export const strikerOf = (row: VoiceName, kit: KitLayout = {}): Striker => kit.strikers?.[voiceOfRow(row)] ?? usualStriker(row);

export const isByHand = (striker: Striker): boolean => striker === 'hands' || striker === 'lead-hand' || striker === 'other-hand';

/** @example spotOf('snare:2').name // 'snare' */
export function spotOf(row: VoiceName): Spot {
  const voice = voiceOfRow(row);
  return SPOTS.find((spot) => spot.voices.test(voice)) as Spot;
}

/** @example placeOf('snare:2') // { x: 0, y: 0 } */
export function placeOf(row: VoiceName, kit: KitLayout = {}): DrumPosition {
  const spot = spotOf(row);
  const { x, y } = kit.places?.[spot.name] ?? spot;
  return { x, y };
}

/** A place within reach. */
export const within = ({ x, y }: DrumPosition): DrumPosition => ({
  x: clamp(x, -REACH.side, REACH.side),
  y: clamp(y, REACH.near, REACH.far),
});

export const distance = (a: DrumPosition, b: DrumPosition): number => Math.hypot(a.x - b.x, a.y - b.y);
