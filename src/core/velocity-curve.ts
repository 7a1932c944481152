import { clamp, clampVelocity, type Velocity } from './units';

/** How velocities of one instrument are read by another: a power curve between a floor and a ceiling. */
export interface VelocityCurve {
  /** 1 is straight; under 1 soft strokes come out louder, over 1 softer. 0.25 to 4. */
  power: number;
  floor: number;
  ceiling: number;
}

export const STRAIGHT_CURVE: VelocityCurve = { power: 1, floor: 1, ceiling: 127 };

/**
 * @param value 1 to 127, as the device sent it
 * @example throughCurve({ power: 2, floor: 1, ceiling: 127 }, 64) // 33: a quarter of the way
 */
export function throughCurve({ power, floor, ceiling }: VelocityCurve, value: number): Velocity {
  const share = (clamp(value, 1, 127) - 1) / 126;
  return clampVelocity(floor + (ceiling - floor) * share ** power);
}
