import { nanoid } from 'nanoid';
import { addHit } from '@/core/part/commands/hits';
import { labelOfVoice } from '@/core/voices';
import { DRAG_PIXELS, type Gesture, type Ground, type Hands, type Pointer, type Rectangle } from './types';

/** Velocity of a hit placed by one click. */
const PLACED_VELOCITY = 96;

/** Empty ground is pressed: letting go places a hit, dragging draws a marquee and can never place. */
export function pressGround(start: Pointer, ground: Ground | undefined, idle: Gesture): Gesture {
  const pressed: Gesture = {
    name: 'press-ground',
    move(p, hands) {
      if (Math.hypot(p.x - start.x, p.y - start.y) < DRAG_PIXELS) return pressed;
      return marquee(start, hands, idle).move(p, hands);
    },
    up(p, hands) {
      if (p.shift || p.toggle || !ground) hands.bench().select([]);
      else place(ground, hands);
      return idle;
    },
    cancel: () => idle,
  };
  return pressed;
}

function place(ground: Ground, hands: Hands) {
  const id = nanoid(10);
  const { run, select } = hands.bench();
  run(`Add a ${labelOfVoice(ground.voice).toLowerCase()} hit`, (part) => addHit(part, { id, voice: ground.voice, tick: ground.tick, velocity: PLACED_VELOCITY }));
  select([id]);
  hands.audition(ground.voice, PLACED_VELOCITY);
}

/** A rectangle that selects; with Shift it adds to what was selected. */
function marquee(start: Pointer, hands: Hands, idle: Gesture): Gesture {
  const before = hands.bench().selection;
  const dragging: Gesture = {
    name: 'marquee',
    move(p, h) {
      const r = rectangle(start, p);
      h.showMarquee(r);
      h.bench().select(p.shift ? [...before, ...h.hitsIn(r)] : h.hitsIn(r));
      return dragging;
    },
    up(_p, h) {
      h.showMarquee(null);
      return idle;
    },
    cancel(h) {
      h.showMarquee(null);
      h.bench().select(before);
      return idle;
    },
  };
  return dragging;
}

const rectangle = (a: Pointer, b: Pointer): Rectangle => ({ left: Math.min(a.x, b.x), right: Math.max(a.x, b.x), top: Math.min(a.y, b.y), bottom: Math.max(a.y, b.y) });
