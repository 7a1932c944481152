import { counted } from '@/core/plurals';
import { MOST_REPEATS, ORNAMENT_LIMITS, type Echo } from '@/core/model/ornament';
import { stepOf } from '@/core/time/grid';
import { clamp } from '@/core/units';
import { percent, PIXELS_A_STROKE, type OrnamentHandles } from './ornament-handles';

export const echoHand: OrnamentHandles<Echo> = {
  kind: 'echo',
  drawn: 'under',
  bracket(echo, { up }) {
    const repeats = clamp(echo.repeats + Math.round(up / PIXELS_A_STROKE), 1, MOST_REPEATS);
    return { change: { repeats }, text: `${counted(repeats, 'repeat')}` };
  },
  along(echo, { x }, { pixelsPerTick }) {
    const steps = clamp(Math.round(echo.steps + x / pixelsPerTick / echo.repeats / stepOf(echo.grid)), ...ORNAMENT_LIMITS.steps);
    return { change: { steps }, text: `every ${steps} of ${echo.grid}` };
  },
  slope(echo, { up }) {
    const decay = clamp(Math.round((echo.decay + up / 120) * 100) / 100, ...ORNAMENT_LIMITS.decay);
    return { change: { decay }, text: `each at ${percent(decay)}` };
  },
};
