/** What the tiny pictures of moves are made of. */
export const WIDTH = 72;
export const HEIGHT = 26;
/** Where stems stand. */
export const FLOOR = HEIGHT - 3;
/** Height of a stem that nothing changes. */
export const LEVEL = 13;
/** Four places, as of eighths or of beats; and eight. */
export const FEET = [10, 26, 42, 58] as const;
export const PLACES = Array.from({ length: 8 }, (_, i) => 6 + i * 8.5);
/** A few steps of a wandering curve. */
export const WANDERING = [-0.4, -0.9, -0.3, 0.5, 1, 0.6, -0.2, -0.7] as const;

export const limit = (n: number, size: number): number => Math.max(-size, Math.min(size, n));

/** A stem of a picture: foot, lean in pixels, height. */
export interface Small {
  x: number;
  lean: number;
  height: number;
}
