import type { FilterKind } from './filter';

/**
 * What a stroke is made of. Frequencies in Hz, times in seconds (contacts in ms), levels as plain factors. A pair is a value for the
 * softest and one for the hardest stroke; between them it goes geometrically.
 */
export type Pair = readonly [soft: number, hard: number];

/** Decaying sines: heads, bars, shells. */
export interface ModesLayer {
  kind: 'modes';
  hz: number;
  /** Ratios to `hz` with levels. */
  modes: readonly (readonly [ratio: number, level: number])[];
  /** Time until the first is 60 dB down; others by their ratio to the power -`damping`. */
  t60: number;
  damping: number;
  /** The pulse of the contact in ms: the longer, the less of the high modes. */
  contact: Pair;
  /** A second stage: so much of each mode rings so much longer. */
  tail?: { share: number; times: number };
  /** Semitones by which the pitch falls after the hardest stroke, by the square of the force; and how fast. */
  glide?: { semitones: number; seconds: number };
  level: number;
}

/** Struck plates: hundreds of modes that are no multiples of each other, a second set that rises after the stroke, air above. */
export interface PlateLayer {
  kind: 'plate';
  from: number;
  to: number;
  /** Hz from mode to mode, each off by up to `jitter` of it. */
  spacing: number;
  jitter: number;
  /** Time to 60 dB at 600 Hz; others by (600 / f) to the power `fall`. */
  t60: number;
  fall: number;
  contact: Pair;
  /** Levels by frequency: (f / 1000) to this power. */
  slope: number;
  /** How much of the second set, by force, and how long it rises. */
  late: number;
  rise: number;
  /** Noise above 15 kHz. */
  air: number;
  level: number;
}

/** Filtered noise: sticks, air, shells that rattle. */
export interface NoiseLayer {
  kind: 'noise';
  filter: FilterKind;
  hz: number;
  q: number;
  t60: number;
  /** Seconds of its rise. */
  attack?: number;
  /** Starts of its repeats, in seconds. */
  bursts?: readonly number[];
  /** Its level goes with the force to this power, beside the stroke's own loudness; 0 by default. */
  force?: number;
  level: number;
}

/** Snare wires: five bands of noise that follow the head a moment later. */
export interface WiresLayer {
  kind: 'wires';
  /** Seconds to 60 dB of the lowest and the highest band. */
  t60: Pair;
  /** Of the head that they follow. */
  head: number;
  /** How much of the highs come with force, in dB from the softest to the hardest stroke. */
  open: number;
  level: number;
}

/** A pitched, wavering tone: whistles and friction drums. */
export interface WaverLayer {
  kind: 'waver';
  from: number;
  to: number;
  rate: number;
  depth: number;
  seconds: number;
  attack: number;
  level: number;
}

/** Six squares that are no multiples of each other, as one metal sound, high-passed. */
export interface ClusterLayer {
  kind: 'cluster';
  hz: number;
  highpass: number;
  t60: number;
  attack?: number;
  level: number;
}

export type Layer = ModesLayer | PlateLayer | NoiseLayer | WiresLayer | WaverLayer | ClusterLayer;

export interface Recipe {
  layers: readonly Layer[];
  /** Corner of the low-pass over all of it. */
  tone: Pair;
  /** K-weighted level of the hardest stroke over its first 0.4 s, in dB. */
  level: number;
}
