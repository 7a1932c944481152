import { changeOrnament } from '@/core/commands/ornaments';
import { lockTest, withoutLocked } from '@/core/part/locks';
import type { Hit } from '@/core/model/part';
import { rollLength } from '@/core/part/roll-strokes';
import { describeHits } from '../../words/describe';
import type { OrnamentGrip } from '../geometry/ornaments';
import { ornamentHandOf } from '../ornaments/all';
import type { Around, Pull } from '../ornaments/hand';
import { dragState } from './drag-state';
import { refused } from './press-stem';
import { DRAG_PIXELS, type Gesture, type Hands, type Pointer } from './types';

/** A grip of an ornament is held: on its bracket a drag up and down gives more or fewer strokes; its end has its slope and its length. */
export function pressOrnament(start: Pointer, grip: OrnamentGrip, idle: Gesture): Gesture {
  const pressed: Gesture = {
    name: 'press-ornament',
    move(p, hands) {
      const dx = Math.abs(p.x - start.x);
      const dy = Math.abs(p.y - start.y);
      if (Math.hypot(dx, dy) < DRAG_PIXELS) return pressed;
      const hit = hands.bench().part.hits[grip.mark.index] as Hit;
      if (lockTest(hands.bench().part)(hit)) return refused(idle).move(p, hands);
      return dragOrnament(start, grip, dx > dy, hands, idle).move(p, hands);
    },
    up: () => idle,
    cancel: () => idle,
  };
  return pressed;
}

function dragOrnament(start: Pointer, { mark, part: held }: OrnamentGrip, sideways: boolean, hands: Hands, idle: Gesture): Gesture {
  const { part, selection, open, view } = hands.bench();
  const hit = part.hits[mark.index] as Hit;
  const { ornament } = hit;
  const { ids } = withoutLocked(part, selection);
  if (!ornament) return idle;
  const hand = ornamentHandOf(ornament.kind);
  const around: Around = { rollLength: rollLength(part, mark.index), pixelsPerTick: hands.pixelsPerTick(), grid: view.grid };
  const edit = open(`Change the ${ornament.kind} of ${describeHits(part, ids)}`, 'drag');
  const preview = (p: Pointer, h: Hands) => {
    const by = p.shift ? 0.1 : 1;
    const pull: Pull = { x: (p.x - start.x) * by, up: (start.y - p.y) * by, fine: p.shift };
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
