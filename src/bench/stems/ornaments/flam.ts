import { plural } from '@/core/plurals';
import { MOST_GRACES, ORNAMENT_LIMITS, type Flam } from '@/core/model/ornament';
import { GRACE_WORDS } from '@/core/ornament/flam';
import { clamp } from '@/core/units';
import { percent, PIXELS_A_STROKE, type OrnamentHandles } from './ornament-handles';

const PIXELS_A_MS = 0.26;

export const flamHand: OrnamentHandles<Flam> = {
  kind: 'flam',
  drawn: 'before',
  apart: ({ spacingMs }) => spacingMs * PIXELS_A_MS,
  bracket(flam, { up }) {
    const strokes = clamp(flam.strokes + Math.round(up / PIXELS_A_STROKE), 1, MOST_GRACES);
    return { change: { strokes }, text: `${GRACE_WORDS[strokes - 1] ?? ''}: ${strokes} grace ${plural(strokes, 'stroke')}` };
  },
  along(flam, { x }) {
    const spacingMs = clamp(Math.round(flam.spacingMs - x / flam.strokes), ...ORNAMENT_LIMITS.spacingMs);
    return { change: { spacingMs }, text: `${spacingMs} ms apart` };
  },
  slope(flam, { up }) {
    const level = clamp(Math.round((flam.level + up / 80) * 100) / 100, ...ORNAMENT_LIMITS.level);
    return { change: { level }, text: `at ${percent(level)}` };
  },
};
