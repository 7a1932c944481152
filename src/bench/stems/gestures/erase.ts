import { removeHits } from '@/core/commands/hits';
import { labelOfRow } from '@/core/part/rows';
import { withoutLocked } from '@/core/part/locks';
import type { HitId } from '@/core/model/part';
import { dragState } from './drag-state';
import type { Gesture, GestureContext, Pointer } from './types';

/** Paints nothing along one row: every hit whose column the pointer crossed goes, however fast it moved. */
export function erase(start: Pointer, context: GestureContext, idle: Gesture): Gesture {
  const voice = context.voiceAt(start);
  if (!voice) return idle;
  const { part, open } = context.bench();
  // The columns as they are before anything is erased: later they are no longer drawn.
  const columns = context.columnsOf(voice).map((c) => ({ id: c.id, tick: context.tickAt(c.x) }));
  const held = context.stemAt(start);
  const touched = new Set<HitId>();
  if (held) touched.add((part.hits[held.index] as { id: HitId }).id);
  const edit = open(`Erase along the ${labelOfRow(part, voice).toLowerCase()}`, 'drag');
  let at = context.tickAt(start.x);
  const preview = (p: Pointer, h: GestureContext) => {
    const now = h.tickAt(p.x);
    const [left, right] = at < now ? [at, now] : [now, at];
    for (const c of columns) if (c.tick >= left && c.tick <= right) touched.add(c.id);
    at = now;
    const { ids, locked } = withoutLocked(part, touched);
    edit.preview((base) => removeHits(base, ids));
    h.bench().showSelection([...h.bench().selection].filter((id) => !ids.has(id)));
    h.showReadout(`${ids.size} erased${locked > 0 ? `, ${locked} locked left` : ''}`, p);
  };
  preview(start, context);
  return dragState('erase', idle, edit, preview, undefined, true);
}
