import type { Stem } from '../geometry/stems';
import { marquee } from './press-ground';
import { pressStem } from './press-stem';
import { DRAG_PIXELS, type Gesture, type Pointer } from './types';

/**
 * A column is pressed away from its hit: a click is one on the hit, a drag selects by a rectangle. In the open row a drag up or down is
 * one of its velocity.
 */
export function pressAbove(start: Pointer, stem: Stem, isOpenRow: boolean, idle: Gesture): Gesture {
  const pressed: Gesture = {
    name: 'press-above',
    move(p, context) {
      const [dx, dy] = [Math.abs(p.x - start.x), Math.abs(p.y - start.y)];
      if (Math.hypot(dx, dy) < DRAG_PIXELS) return pressed;
      return dx > dy || !isOpenRow ? marquee(start, context, idle).move(p, context) : onStem.move(p, context);
    },
    up: (p, context) => onStem.up(p, context),
    cancel: () => idle,
  };
  const onStem = pressStem(start, stem, idle);
  return pressed;
}
