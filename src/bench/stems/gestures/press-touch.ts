import type { Hit } from '@/core/model/part';
import { place } from './press-ground';
import { DRAG_PIXELS, type Gesture, type GestureContext, type Pointer } from './types';

/** A finger is too broad to hold a head: a tap takes the column (the large pad then moves it) or places a hit, a drag scrolls. */
export function pressTouch(start: Pointer, idle: Gesture): Gesture {
  const pressed: Gesture = {
    name: 'press-touch',
    move(p, context) {
      if (Math.hypot(p.x - start.x, p.y - start.y) < 2 * DRAG_PIXELS) return pressed;
      return scrolling(start, idle).move(p, context);
    },
    up(p, context) {
      tap(p, context);
      return idle;
    },
    cancel: () => idle,
  };
  return pressed;
}

function tap(p: Pointer, context: GestureContext) {
  const { part, select } = context.bench();
  const stem = context.stemAt(p);
  if (!stem) {
    const ground = context.groundAt(p);
    if (ground) place(ground, context);
    return;
  }
  const hit = part.hits[stem.index] as Hit;
  select([hit.id]);
  context.auditionHit(hit);
}

function scrolling(start: Pointer, idle: Gesture): Gesture {
  let last = start;
  const state: Gesture = {
    name: 'scroll',
    move(p, context) {
      context.scroll(p.x - last.x, p.y - last.y);
      last = p;
      return state;
    },
    up: () => idle,
    cancel: () => idle,
  };
  return state;
}
