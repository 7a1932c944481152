import type { Gesture, Pointer } from './types';

/** While a move's scope is pointed out, a click on the stems takes the line's step in or out; a drag does nothing. */
export function pressPoint(start: Pointer, idle: Gesture): Gesture {
  const pressed: Gesture = {
    name: 'press-point',
    move: () => pressed,
    up(_p, context) {
      context.pointAt(start);
      return idle;
    },
    cancel: () => idle,
  };
  return pressed;
}
