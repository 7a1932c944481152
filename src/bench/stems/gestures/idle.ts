import { drawVelocities } from './draw-velocities';
import { pressOrnament } from './drag-ornament';
import { paint } from './paint';
import { pressFoot } from './press-foot';
import { pressGround } from './press-ground';
import { pressPoint } from './press-point';
import { pressStem } from './press-stem';
import { pressTouch } from './press-touch';
import type { Gesture } from './types';
import { wipe } from './wipe';

/** Nothing pressed: the tool and what lies under the pointer decide what a press begins. */
export const idle: Gesture = {
  name: 'idle',
  move: () => idle,
  up: () => idle,
  cancel: () => idle,
  down(p, hands) {
    const { tool, pointing } = hands.bench().desk;
    if (pointing !== null) return pressPoint(p, idle);
    if (tool === 'brush') return paint(p, hands, idle);
    if (tool === 'wipe') return wipe(p, hands, idle);
    if (tool === 'line' || tool === 'curve') return drawVelocities(p, tool, hands, idle);
    if (p.touch) return pressTouch(p, idle);
    const grip = hands.gripAt(p);
    if (grip) return pressOrnament(p, grip, idle);
    const stem = hands.stemAt(p);
    if (!stem) return pressGround(p, hands.groundAt(p), idle);
    return isOnFoot(p.y, stem.footY) ? pressFoot(p, stem, idle) : pressStem(p, stem, idle);
  },
};

/** The foot is taken hold of this far above its ground line, and anywhere below. */
const FOOT_REACH = 4;

export const isOnFoot = (y: number, footY: number): boolean => y >= footY - FOOT_REACH;
