import type { Hit } from '@/core/part/part';
import type { Stem } from '../geometry/stems';
import { dragNudge } from './drag-nudge';
import { dragVelocity } from './drag-velocity';
import { DRAG_PIXELS, type Gesture, type Hands, type Pointer } from './types';

/** A stem is held and nothing has moved: letting go selects it, the first few pixels decide what a drag does. */
export function pressStem(start: Pointer, stem: Stem, idle: Gesture): Gesture {
  const pressed: Gesture = {
    name: 'press-stem',
    move(p, hands) {
      const dx = Math.abs(p.x - start.x);
      const dy = Math.abs(p.y - start.y);
      if (Math.hypot(dx, dy) < DRAG_PIXELS) return pressed;
      const hit = hands.bench().part.hits[stem.index] as Hit;
      if (!hands.bench().selection.has(hit.id)) hands.bench().select([hit.id]);
      const next = dy >= dx ? dragVelocity(start, stem, hands, idle) : dragNudge(start, stem, hands, idle);
      return next.move(p, hands);
    },
    up(p, hands) {
      selectByClick(hands, stem, p);
      return idle;
    },
    cancel: () => idle,
  };
  return pressed;
}

function selectByClick(hands: Hands, stem: Stem, p: Pointer) {
  const { part, selection, select, setFocus } = hands.bench();
  const hit = part.hits[stem.index] as Hit;
  if (p.shift || p.toggle) {
    const next = new Set(selection);
    if (p.toggle && next.has(hit.id)) next.delete(hit.id);
    else next.add(hit.id);
    select(next);
  } else select([hit.id]);
  setFocus(hit.voice);
  hands.audition(hit.voice, hit.velocity);
}
