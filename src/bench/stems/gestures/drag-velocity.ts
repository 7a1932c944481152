import { addVelocity } from '@/core/commands/hits';
import { withoutLocked } from '@/core/part/locks';
import type { Hit } from '@/core/model/part';
import { clampVelocity } from '@/core/units';
import type { Stem } from '../geometry/stems';
import { describeHits } from '../../words/describe';
import { dragState } from './drag-state';
import type { Gesture, GestureContext, Pointer } from './types';

/** Velocities a pixel, however low the row is. */
const FASTEST = 1.5;

/**
 * Heads dragged up and down: the selection's velocities move together. A row that is too low for that opens tall while the drag lasts,
 * so that the head stays under the pointer.
 */
export function dragVelocity(start: Pointer, stem: Stem, context: GestureContext, idle: Gesture): Gesture {
  const { part, selection, open } = context.bench();
  const held = part.hits[stem.index] as Hit;
  const { ids } = withoutLocked(part, selection);
  // Opened first: an undo leads back to the rows as they were.
  const edit = open(`Change the velocity of ${describeHits(part, ids)}`, 'drag');
  const own = context.velocityPerPixel(stem);
  const tall = own > FASTEST ? context.openTall(held.voice, held.velocity, start.y) : null;
  const perPixel = tall?.velocityPerPixel ?? own;
  let y = start.y;
  let delta = 0;
  const preview = (p: Pointer, h: GestureContext) => {
    delta += (y - p.y) * (p.shift ? 1 : perPixel);
    y = p.y;
    edit.preview((base) => addVelocity(base, ids, delta));
    h.showReadout(String(clampVelocity(held.velocity + delta)), p);
  };
  return dragState(
    'drag-velocity',
    idle,
    edit,
    preview,
    (h) => h.audition(held.voice, clampVelocity(held.velocity + delta)),
    false,
    tall?.close,
  );
}
