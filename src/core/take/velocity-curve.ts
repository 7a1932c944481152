import type { VelocityCurve } from '../model/take';
import { clampVelocity, clamp, type Velocity } from '../units';

/**
 * @param value 1 to 127, as the device sent it
 * @example throughCurve({ power: 2, floor: 1, ceiling: 127 }, 64) // 33: a quarter of the way
 */
export function throughCurve({ power, floor, ceiling }: VelocityCurve, value: number): Velocity {
  const share = (clamp(value, 1, 127) - 1) / 126;
  return clampVelocity(floor + (ceiling - floor) * share ** power);
}
