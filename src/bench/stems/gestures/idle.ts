import { erase } from './erase';
import { drawVelocities } from './draw-velocities';
import { pressOrnament } from './drag-ornament';
import { paintHits } from './paint';
import { pressFoot } from './press-foot';
import { pressAbove } from './press-above';
import { pressGround } from './press-ground';
import { pressPoint } from './press-point';
import { pressStem } from './press-stem';
import { pressTouch } from './press-touch';
import type { Stem } from '../geometry/stems';
import type { Gesture } from './types';

/** Nothing pressed: the tool and what lies under the pointer decide what a press begins. */
export const idle: Gesture = {
  name: 'idle',
  move: () => idle,
  up: () => idle,
  cancel: () => idle,
  down(p, context) {
    const { tool, pointing } = context.bench().ui;
    if (pointing !== null) return pressPoint(p, idle);
    if (tool === 'hits') return paintHits(p, context, idle);
    if (tool === 'nothing') return erase(p, context, idle);
    if (tool === 'line' || tool === 'free') return drawVelocities(p, tool, context, idle);
    if (p.touch) return pressTouch(p, idle);
    const grip = context.gripAt(p);
    if (grip) return pressOrnament(p, grip, idle);
    const stem = context.stemAt(p);
    if (!stem) return pressGround(p, context.groundAt(p), idle);
    // In the open row each column is its hit's; elsewhere only what is near the head or the stem.
    if (!isHeld(p, stem) || isAboveHead(p.y, stem.headY))
      return pressAbove(p, stem, context.bench().focus === context.bench().part.hits[stem.index]?.voice, idle);
    return isOnFoot(p.y, stem.footY) ? pressFoot(p, stem, idle) : pressStem(p, stem, idle);
  },
};

/** A hit is taken hold of so near its head, and so near its stem. */
const HEAD_REACH = 9;
const STEM_REACH = 5;

/** Whether a press is near enough to a hit to take hold of it. */
export function isHeld(
  { x, y }: { x: number; y: number },
  { headX, headY, footX, footY }: Pick<Stem, 'headX' | 'headY' | 'footX' | 'footY'>,
): boolean {
  if (Math.hypot(x - headX, y - headY) <= HEAD_REACH) return true;
  if (isOnFoot(y, footY)) return Math.abs(x - footX) <= HEAD_REACH;
  // Along the stem, from its foot to its head.
  const [dx, dy] = [headX - footX, headY - footY];
  const share = Math.max(0, Math.min(1, ((x - footX) * dx + (y - footY) * dy) / (dx * dx + dy * dy || 1)));
  return Math.hypot(x - footX - share * dx, y - footY - share * dy) <= STEM_REACH;
}

/** So far above the head a column is no longer taken hold of by it. */
const ABOVE_HEAD = 14;

export const isAboveHead = (y: number, headY: number): boolean => y < headY - ABOVE_HEAD;

/** The foot is taken hold of this far above its ground line, and anywhere below. */
const FOOT_REACH = 4;

export const isOnFoot = (y: number, footY: number): boolean => y >= footY - FOOT_REACH;
