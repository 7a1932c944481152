/** How a row sounds beside what it is: each member stands over what the kit has. */
export interface RowSound {
  /** dB, -60 to 12. */
  level?: number;
  /** -100 (left) to 100 (right). */
  pan?: number;
  /** Semitones, -24 to 24. */
  tune?: number;
  /** Percent of the natural ring, 10 to 200. */
  ring?: number;
  /** How strongly velocity drives loudness, in percent, 0 to 200. */
  loudness?: number;
  /** How strongly velocity drives the tone, in percent, 0 to 200. */
  tone?: number;
  /** How much of it goes into the room, in percent, 0 to 100. */
  room?: number;
  /** Rows of the same group end each other's ring; 0 to 8, 0 for none. */
  group?: number;
}

/** What plays a row instead of what the kit has for it: another built-in kit, a sound of the user's own, or the pieces of a break. */
export type RowPlays = { kit: KitName } | { own: string; name: string } | { break: string };

/** A kit of the user's own; its name is kept too, for where it is not at hand. */
export interface OwnKitRef {
  id: string;
  name: string;
}

export const ROW_SOUND = {
  level: { min: -60, max: 12, rest: 0, digits: 1, unit: 'dB' },
  pan: { min: -100, max: 100, rest: 0, digits: 0, unit: '%' },
  tune: { min: -24, max: 24, rest: 0, digits: 2, unit: 'semitones' },
  ring: { min: 10, max: 200, rest: 100, digits: 0, unit: '%' },
  loudness: { min: 0, max: 200, rest: 100, digits: 0, unit: '%' },
  tone: { min: 0, max: 200, rest: 100, digits: 0, unit: '%' },
  room: { min: 0, max: 100, rest: 100, digits: 0, unit: '%' },
  group: { min: 0, max: 8, rest: 0, digits: 0, unit: '' },
} as const satisfies Readonly<Record<keyof RowSound, { min: number; max: number; rest: number; digits: number; unit: string }>>;

/** How the part sounds as a whole. */
export interface PartMix {
  /** Master level in dB, -60 to 12. */
  level?: number;
  /** Size of the room in percent, 0 to 100. */
  size?: number;
  /** How much of the room is heard, in percent, 0 to 100; the kit's own without it. */
  room?: number;
}

export const PART_MIX = {
  level: { min: -60, max: 12, rest: 0, digits: 1, unit: 'dB' },
  size: { min: 0, max: 100, rest: 40, digits: 0, unit: '%' },
  room: { min: 0, max: 100, rest: 0, digits: 0, unit: '%' },
} as const satisfies Readonly<Record<keyof PartMix, { min: number; max: number; rest: number; digits: number; unit: string }>>;

/** The kits that are built in. */
export const KIT_NAMES = ['Wheelhouse', 'Dry Dock', 'Sailcloth', 'Beacon'] as const;
export type KitName = (typeof KIT_NAMES)[number];
export const isKitName = (name: unknown): name is KitName => (KIT_NAMES as readonly unknown[]).includes(name);
export const FIRST_KIT: KitName = 'Wheelhouse';
