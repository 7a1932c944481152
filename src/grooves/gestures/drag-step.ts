import { clamp } from '@/core/units';
import { MOST_LEVEL, MOST_OFFSET, type GrooveStep } from '@/core/model/groove';
import { stepUnderHead, type GrooveStem, type StemsFrame } from '../pictures/groove-stems';

/**
 * A press on a step's stem: the first 4 px decide whether it leans or changes its level. The head keeps its distance from the pointer.
 */
export interface StepDrag {
  kind: 'pressed' | 'lean' | 'level';
  index: number;
  /** How many steps there are. */
  count: number;
  startX: number;
  startY: number;
  /** From the pointer to the head. */
  grabX: number;
  grabY: number;
  from: Pick<GrooveStep, 'offset' | 'level'>;
}

const DECIDED_PX = 4;
/** Shift: one px is so much of a step, or of a level. */
const FINE_OFFSET = 0.002;
const FINE_LEVEL = 0.005;

export const pressStep = (stem: GrooveStem, step: GrooveStep, count: number, x: number, y: number): StepDrag => ({
  kind: 'pressed',
  index: stem.index,
  count,
  startX: x,
  startY: y,
  grabX: stem.headX - x,
  grabY: stem.headY - y,
  from: { offset: step.offset, level: step.level },
});

/** Follows the pointer; `change` is null while nothing is decided. */
export function dragStep(
  drag: StepDrag,
  x: number,
  y: number,
  fine: boolean,
  frame: StemsFrame,
): { drag: StepDrag; change: Partial<Pick<GrooveStep, 'offset' | 'level'>> | null } {
  const [dx, dy] = [x - drag.startX, y - drag.startY];
  if (drag.kind === 'pressed') {
    if (Math.max(Math.abs(dx), Math.abs(dy)) < DECIDED_PX) return { drag, change: null };
    return dragStep({ ...drag, kind: Math.abs(dx) >= Math.abs(dy) ? 'lean' : 'level' }, x, y, fine, frame);
  }
  const under = stepUnderHead(frame, drag.count, drag.index, x + drag.grabX, y + drag.grabY);
  if (drag.kind === 'lean')
    return { drag, change: { offset: clamp(fine ? drag.from.offset + dx * FINE_OFFSET : under.offset, -MOST_OFFSET, MOST_OFFSET) } };
  return { drag, change: { level: clamp(fine ? drag.from.level - dy * FINE_LEVEL : under.level, 0, MOST_LEVEL) } };
}
