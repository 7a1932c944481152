import type { Hit } from '@/core/model/part';
import { lockTest, withoutLocked } from '@/core/part/locks';
import { removeHits } from '@/core/commands/hits';
import { describeHits } from '../../words/describe';
import type { Stem } from '../geometry/stems';
import { dragNudge } from './drag-nudge';
import { dragVelocity } from './drag-velocity';
import { DRAG_PIXELS, type Gesture, type GestureContext, type Pointer } from './types';

/** A stem is held and nothing has moved: letting go selects it, the first few pixels decide what a drag does. */
export function pressStem(start: Pointer, stem: Stem, idle: Gesture): Gesture {
  const pressed: Gesture = {
    name: 'press-stem',
    move(p, context) {
      const dx = Math.abs(p.x - start.x);
      const dy = Math.abs(p.y - start.y);
      if (Math.hypot(dx, dy) < DRAG_PIXELS) return pressed;
      if (!takeHold(context, stem, p)) return refused(idle);
      const next = dy >= dx ? dragVelocity(start, stem, context, idle) : dragNudge(start, stem, context, idle);
      return next.move(p, context);
    },
    up(p, context) {
      if (p.alt) removeClicked(context, stem);
      else selectByClick(context, stem, p);
      return idle;
    },
    cancel: () => idle,
  };
  return pressed;
}

/** Makes sure that the held hit is among the selected ones; false where it is locked. */
export function takeHold(context: GestureContext, stem: Stem, p: Pointer): boolean {
  const { part, selection, select } = context.bench();
  const hit = part.hits[stem.index] as Hit;
  if (lockTest(part)(hit)) {
    context.showReadout('locked', p);
    return false;
  }
  if (!selection.has(hit.id)) select([hit.id]);
  return true;
}

/** A locked hit was dragged: it stays, and says so until the pointer lets go. */
export function refused(idle: Gesture): Gesture {
  const end = (context: GestureContext): Gesture => {
    context.showReadout(null);
    return idle;
  };
  const state: Gesture = {
    name: 'refused',
    move(p, context) {
      context.showReadout('locked', p);
      return state;
    },
    up: (_p, context) => end(context),
    cancel: end,
  };
  return state;
}

export function selectByClick(context: GestureContext, stem: Stem, p: Pointer) {
  const { part, selection, select } = context.bench();
  const hit = part.hits[stem.index] as Hit;
  if (p.shift || p.toggle) {
    const next = new Set(selection);
    if (p.toggle && next.has(hit.id)) next.delete(hit.id);
    else next.add(hit.id);
    select(next);
  } else select([hit.id]);
  context.auditionHit(hit);
}

function removeClicked(context: GestureContext, stem: Stem) {
  const { part, run } = context.bench();
  const { ids } = withoutLocked(part, new Set([(part.hits[stem.index] as Hit).id]));
  if (ids.size > 0) run(`Delete ${describeHits(part, ids)}`, (base) => removeHits(base, ids));
}
