import { changeOrnament } from '@/core/commands/ornaments';
import { lockTest, withoutLocked } from '@/core/part/locks';
import type { Hit } from '@/core/model/part';
import { rollLength } from '@/core/part/roll-strokes';
import { describeHits } from '../../words/describe';
import type { OrnamentGrip } from '../geometry/ornaments';
import { ornamentHandOf } from '../ornaments/all';
import type { Around, HandleDrag } from '../ornaments/ornament-handles';
import { dragState } from './drag-state';
import { refused } from './press-stem';
import { DRAG_PIXELS, type Gesture, type GestureContext, type Pointer } from './types';

/** A grip of an ornament is held: on its bracket a drag up and down gives more or fewer strokes; its end has its slope and its length. */
export function pressOrnament(start: Pointer, grip: OrnamentGrip, idle: Gesture): Gesture {
  const pressed: Gesture = {
    name: 'press-ornament',
    move(p, context) {
      const dx = Math.abs(p.x - start.x);
      const dy = Math.abs(p.y - start.y);
      if (Math.hypot(dx, dy) < DRAG_PIXELS) return pressed;
      const hit = context.bench().part.hits[grip.mark.index] as Hit;
      if (lockTest(context.bench().part)(hit)) return refused(idle).move(p, context);
      return dragOrnament(start, grip, dx > dy, context, idle).move(p, context);
    },
    up: () => idle,
    cancel: () => idle,
  };
  return pressed;
}

function dragOrnament(
  start: Pointer,
  { mark, part: held }: OrnamentGrip,
  sideways: boolean,
  context: GestureContext,
  idle: Gesture,
): Gesture {
  const { part, selection, open, view } = context.bench();
  const hit = part.hits[mark.index] as Hit;
  const { ornament } = hit;
  const { ids } = withoutLocked(part, selection);
  if (!ornament) return idle;
  const hand = ornamentHandOf(ornament.kind);
  const around: Around = { rollLength: rollLength(part, mark.index), pixelsPerTick: context.pixelsPerTick(), grid: view.grid };
  const edit = open(`Change the ${ornament.kind} of ${describeHits(part, ids)}`, 'drag');
  const preview = (p: Pointer, h: GestureContext) => {
    const by = p.shift ? 0.1 : 1;
    const pull: HandleDrag = { x: (p.x - start.x) * by, up: (start.y - p.y) * by, fine: p.shift };
    const { change, text } =
      held === 'bracket'
        ? hand.bracket(ornament, pull, around)
        : sideways
          ? hand.along(ornament, pull, around)
          : hand.slope(ornament, pull);
    edit.preview((base) => changeOrnament(base, ids, ornament.kind, change));
    h.showReadout(text, p);
  };
  return dragState('drag-ornament', idle, edit, preview, (h) => h.auditionHit(hit));
}
