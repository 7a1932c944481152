import { newHitId } from '@/editing/ids';
import { withHits } from '@/core/commands/copy';
import { moveHits, setVoice } from '@/core/commands/place';
import { labelOfRow } from '@/core/part/rows';
import { homesOf } from '@/core/homes/homes';
import { withoutLocked } from '@/core/part/locks';
import type { Hit, HitId, Part } from '@/core/model/part';
import { describeHits, placeText } from '../../words/describe';
import type { Stem } from '../geometry/stems';
import { dragState } from './drag-state';
import { refused, selectByClick, takeHold } from './press-stem';
import { DRAG_PIXELS, type Gesture, type GestureContext, type Pointer } from './types';

/** A foot is held: a drag moves the hit to another line or row, a click is one on the stem. */
export function pressFoot(start: Pointer, stem: Stem, idle: Gesture): Gesture {
  const pressed: Gesture = {
    name: 'press-foot',
    move(p, context) {
      if (Math.hypot(p.x - start.x, p.y - start.y) < DRAG_PIXELS) return pressed;
      if (!takeHold(context, stem, p)) return refused(idle);
      return dragFoot(stem, p.alt, context, idle).move(p, context);
    },
    up(p, context) {
      selectByClick(context, stem, p);
      return idle;
    },
    cancel: () => idle,
  };
  return pressed;
}

/** Feet go from line to line of the grid and from row to row, the selection together; each hit keeps its distance to its line. */
function dragFoot(stem: Stem, copies: boolean, context: GestureContext, idle: Gesture): Gesture {
  const { part, selection, open } = context.bench();
  const held = part.hits[stem.index] as Hit;
  const { ids } = withoutLocked(part, selection);
  // Where the foot stands, whatever the grid for placing is: it lands on the line under the pointer, with its lean.
  const line = homesOf(part).ticks[stem.index] as number;
  const rows = part.rows.map((r) => r.voice);
  const fresh = new Map([...ids].map((id) => [id, newHitId()]));
  const edit = open(`${copies ? 'Copy' : 'Move'} ${describeHits(part, ids)}`, 'drag');
  const preview = (p: Pointer, h: GestureContext) => {
    const ground = h.groundAt({ ...p, y: p.y });
    if (!ground) return;
    const by = ground.tick - line;
    const down = rows.indexOf(ground.voice) - rows.indexOf(held.voice);
    const voiceOf = (hit: Hit) => rows[Math.max(0, Math.min(rows.length - 1, rows.indexOf(hit.voice) + down))] ?? hit.voice;
    edit.preview((base) => {
      const { part: from, moving } = copies ? copied(base, ids, fresh) : { part: base, moving: ids };
      return moveHits(down === 0 ? from : setVoice(from, moving, voiceOf), moving, by);
    });
    if (copies) h.bench().showSelection(fresh.values());
    h.showReadout(`${copies ? 'copy: ' : ''}${placeText(part, ground.tick)}${down === 0 ? '' : ` · ${labelOfRow(part, ground.voice)}`}`, p);
  };
  return dragState(copies ? 'copy-foot' : 'drag-foot', idle, edit, preview, undefined, true);
}

function copied(base: Part, ids: ReadonlySet<HitId>, fresh: ReadonlyMap<HitId, string>): { part: Part; moving: ReadonlySet<HitId> } {
  const twins = base.hits.filter((h) => ids.has(h.id)).map((h) => ({ ...h, id: fresh.get(h.id) as string }));
  return { part: withHits(base, twins).part, moving: new Set(fresh.values()) };
}
