import { removeHits } from '@/core/commands/hits';
import { labelOfRow } from '@/core/commands/rows';
import { withoutLocked } from '@/core/part/locks';
import type { HitId } from '@/core/model/part';
import { dragState } from './drag-state';
import type { Gesture, Hands, Pointer } from './types';

/** Wipes along one row: every hit whose column the pointer crossed goes, however fast it moved. */
export function wipe(start: Pointer, hands: Hands, idle: Gesture): Gesture {
  const voice = hands.voiceAt(start);
  if (!voice) return idle;
  const { part, open } = hands.bench();
  // The columns as they are before anything is wiped: later they are no longer drawn.
  const columns = hands.columnsOf(voice);
  const held = hands.stemAt(start);
  const touched = new Set<HitId>();
  if (held) touched.add((part.hits[held.index] as { id: HitId }).id);
  const edit = open(`Wipe the ${labelOfRow(part, voice).toLowerCase()}`, 'drag');
  let x = start.x;
  const preview = (p: Pointer, h: Hands) => {
    const [left, right] = x < p.x ? [x, p.x] : [p.x, x];
    for (const c of columns) if (c.x >= left && c.x <= right) touched.add(c.id);
    x = p.x;
    const { ids, locked } = withoutLocked(part, touched);
    edit.preview((base) => removeHits(base, ids));
    h.bench().showSelection([...h.bench().selection].filter((id) => !ids.has(id)));
    h.showReadout(`${ids.size} wiped${locked > 0 ? `, ${locked} locked left` : ''}`, p);
  };
  preview(start, hands);
  return dragState('wipe', idle, edit, preview);
}
