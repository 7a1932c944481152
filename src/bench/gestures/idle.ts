import { pressGround } from './press-ground';
import { pressStem } from './press-stem';
import type { Gesture } from './types';

/** Nothing pressed: a press on a stem's column takes hold of it, one on empty ground may become a marquee. */
export const idle: Gesture = {
  name: 'idle',
  move: () => idle,
  up: () => idle,
  cancel: () => idle,
  down(p, hands) {
    const stem = hands.stemAt(p);
    return stem ? pressStem(p, stem, idle) : pressGround(p, hands.groundAt(p), idle);
  },
};
