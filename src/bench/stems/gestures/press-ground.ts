import { newHitId } from '@/editing/ids';
import { addHit } from '@/core/commands/hits';
import { labelOfRow } from '@/core/part/rows';
import { DRAG_PIXELS, type Gesture, type GroundPoint, type GestureContext, type Pointer, type Rectangle } from './types';

/** Empty ground is pressed: letting go places a hit, dragging draws a marquee and can never place. */
export function pressGround(start: Pointer, ground: GroundPoint | undefined, idle: Gesture): Gesture {
  const pressed: Gesture = {
    name: 'press-ground',
    move(p, context) {
      if (Math.hypot(p.x - start.x, p.y - start.y) < DRAG_PIXELS) return pressed;
      return marquee(start, context, idle).move(p, context);
    },
    up(p, context) {
      if (p.shift || p.toggle || p.alt || !ground) context.bench().select([]);
      else place(ground, context);
      return idle;
    },
    cancel: () => idle,
  };
  return pressed;
}

/** Places one plain hit and selects it; accents and ghosts are for painting alone. */
export function place(ground: GroundPoint, context: Pick<GestureContext, 'bench' | 'audition'>) {
  const id = newHitId();
  const { run, part, ui } = context.bench();
  const { velocity } = ui;
  run(
    `Add a ${labelOfRow(part, ground.voice).toLowerCase()} hit`,
    (base) => addHit(base, { id, voice: ground.voice, tick: ground.tick, velocity }),
    () => [id],
  );
  context.audition(ground.voice, velocity);
}

/** A rectangle that selects; with Shift it adds to what was selected, with Ctrl it takes away. */
export function marquee(start: Pointer, context: GestureContext, idle: Gesture): Gesture {
  context.bench().settle();
  const before = context.bench().selection;
  const startTick = context.tickAt(start.x);
  const dragging: Gesture = {
    name: 'marquee',
    scrolls: true,
    move(p, h) {
      const r = rectangle({ ...start, x: h.xAt(startTick) }, p);
      h.showMarquee(r);
      const inside = h.hitsIn(r);
      const taken = p.toggle ? new Set(inside) : null;
      h.bench().showSelection(taken ? [...before].filter((id) => !taken.has(id)) : p.shift ? [...before, ...inside] : inside);
      return dragging;
    },
    up(_p, h) {
      h.showMarquee(null);
      return idle;
    },
    cancel(h) {
      h.showMarquee(null);
      h.bench().showSelection(before);
      return idle;
    },
  };
  return dragging;
}

const rectangle = (a: Pointer, b: Pointer): Rectangle => ({
  left: Math.min(a.x, b.x),
  right: Math.max(a.x, b.x),
  top: Math.min(a.y, b.y),
  bottom: Math.max(a.y, b.y),
});
