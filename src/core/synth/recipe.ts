import type { FilterKind } from './filter';

/** What a voice is made of. Frequencies in Hz, times in seconds, levels as plain factors. */
export type Layer =
  /** A drum skin or bar: sines whose pitch falls from `from` to `to`; `partials` are ratios to it with levels. */
  | { kind: 'skin'; from: number; to: number; fall: number; decay: number; level: number; partials?: readonly (readonly [number, number])[] }
  /** Filtered noise: sticks, wires, air. `attack` is a rise, `bursts` repeats it. */
  | { kind: 'noise'; filter: FilterKind; frequency: number; q: number; decay: number; level: number; attack?: number; bursts?: readonly number[] }
  /** Struck metal: many partials that are no multiples of each other, spread by `spread`, high-passed. */
  | { kind: 'metal'; base: number; spread: number; partials: number; highpass: number; decay: number; level: number }
  /** A pitched, wavering tone: whistles and friction drums. */
  | { kind: 'waver'; from: number; to: number; rate: number; depth: number; decay: number; level: number; attack: number };

export interface Recipe {
  seconds: number;
  layers: readonly Layer[];
  /** Peak level of the finished sound, 0 to 1. */
  peak: number;
}
