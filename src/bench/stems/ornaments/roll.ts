import { MOST_STROKES, ORNAMENT_LIMITS, type Roll } from '@/core/model/ornament';
import { rollCount } from '@/core/part/roll-strokes';
import { stepOf } from '@/core/time/grid';
import { clamp, ticks } from '@/core/units';
import { percent, PIXELS_A_STROKE, type OrnamentHandles } from './ornament-handles';

export const rollHand: OrnamentHandles<Roll> = {
  kind: 'roll',
  drawn: 'over',
  bracket(roll, { up }, { rollLength }) {
    const strokes = clamp(rollCount(roll, rollLength) + Math.round(up / PIXELS_A_STROKE), 2, MOST_STROKES);
    return { change: { strokes }, text: `${strokes} strokes` };
  },
  along(_roll, { x, fine }, { rollLength, pixelsPerTick, grid }) {
    const step = stepOf(grid) / (fine ? 8 : 1);
    const length = ticks(Math.max(step, Math.round((rollLength + x / pixelsPerTick) / step) * step));
    return { change: { length }, text: `${(length / stepOf('1/16')).toFixed(fine ? 2 : 0)} sixteenths long` };
  },
  slope(roll, { up }) {
    const to = clamp(Math.round((roll.to + up / 60) * 100) / 100, ...ORNAMENT_LIMITS.to);
    return { change: { to }, text: `to ${percent(to)}` };
  },
};
