import type { Hit } from '@/core/model/part';
import { place } from './press-ground';
import { DRAG_PIXELS, type Gesture, type Hands, type Pointer } from './types';

/** A finger is too broad to hold a head: a tap takes the column (the large pad then moves it) or places a hit, a drag scrolls. */
export function pressTouch(start: Pointer, idle: Gesture): Gesture {
  const pressed: Gesture = {
    name: 'press-touch',
    move(p, hands) {
      if (Math.hypot(p.x - start.x, p.y - start.y) < 2 * DRAG_PIXELS) return pressed;
      return scrolling(start, idle).move(p, hands);
    },
    up(p, hands) {
      tap(p, hands);
      return idle;
    },
    cancel: () => idle,
  };
  return pressed;
}

function tap(p: Pointer, hands: Hands) {
  const { part, select } = hands.bench();
  const stem = hands.stemAt(p);
  if (!stem) {
    const ground = hands.groundAt(p);
    if (ground) place(ground, hands);
    return;
  }
  const hit = part.hits[stem.index] as Hit;
  select([hit.id]);
  hands.auditionHit(hit);
}

function scrolling(start: Pointer, idle: Gesture): Gesture {
  let last = start;
  const state: Gesture = {
    name: 'scroll',
    move(p, hands) {
      hands.scroll(p.x - last.x, p.y - last.y);
      last = p;
      return state;
    },
    up: () => idle,
    cancel: () => idle,
  };
  return state;
}
