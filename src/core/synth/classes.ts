import { clamp } from '../units';

/** Strokes are rendered in so many classes of velocity. */
export const CLASSES = 16;
/** So many takes of each. */
export const ALTERNATES = 3;

/** @example classOf(1) // 0; classOf(8) // 0; classOf(127) // 15 */
export const classOf = (velocity: number): number => clamp(Math.ceil(velocity / 8) - 1, 0, CLASSES - 1);

/** The velocity that a class is rendered at: its highest. @example velocityOf(0) // 8; velocityOf(15) // 127 */
export const velocityOf = (index: number): number => Math.min(127, 8 * (index + 1));

/** The one law of loudness: amplitude goes with the velocity to this power. A ghost at 25 stands 19 dB under a backbeat at 110. */
export const LOUDNESS_EXPONENT = 1.5;

/** Amplitude of a velocity against the hardest stroke. @example amplitudeOf(127) // 1 */
export const amplitudeOf = (velocity: number): number => (clamp(velocity, 0, 127) / 127) ** LOUDNESS_EXPONENT;
