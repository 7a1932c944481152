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
import type { Gesture } from './types';

/** Nothing pressed: the tool and what lies under the pointer decide what a press begins. */
export const idle: Gesture = {
  name: 'idle',
  move: () => idle,
  up: () => idle,
  cancel: () => idle,
  down(p, hands) {
    const { tool, pointing } = hands.bench().desk;
    if (pointing !== null) return pressPoint(p, idle);
    if (tool === 'hits') return paintHits(p, hands, idle);
    if (tool === 'nothing') return erase(p, hands, idle);
    if (tool === 'line' || tool === 'free') return drawVelocities(p, tool, hands, idle);
    if (p.touch) return pressTouch(p, idle);
    const grip = hands.gripAt(p);
    if (grip) return pressOrnament(p, grip, idle);
    const stem = hands.stemAt(p);
    if (!stem) return pressGround(p, hands.groundAt(p), idle);
    if (isAboveHead(p.y, stem.headY)) return pressAbove(p, stem, idle);
    return isOnFoot(p.y, stem.footY) ? pressFoot(p, stem, idle) : pressStem(p, stem, idle);
  },
};

/** So far above the head a column is no longer taken hold of by it. */
const ABOVE_HEAD = 14;

export const isAboveHead = (y: number, headY: number): boolean => y < headY - ABOVE_HEAD;

/** The foot is taken hold of this far above its ground line, and anywhere below. */
const FOOT_REACH = 4;

export const isOnFoot = (y: number, footY: number): boolean => y >= footY - FOOT_REACH;
