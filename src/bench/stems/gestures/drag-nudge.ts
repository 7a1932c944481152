import { addNudge } from '@/core/commands/hits';
import { withoutLocked } from '@/core/part/locks';
import type { Hit } from '@/core/model/part';
import { clamp, milliseconds } from '@/core/units';
import type { Stem } from '../geometry/stems';
import { describeHits, leanText } from '../../words/describe';
import { dragState } from './drag-state';
import type { Gesture, Hands, Pointer } from './types';

/** With Shift a pixel is this many ms. */
const FINE_MS = 0.5;

/** Heads dragged sideways: the selection's nudges move together, as far as the lens shows the held hit's lean. */
export function dragNudge(start: Pointer, stem: Stem, hands: Hands, idle: Gesture): Gesture {
  const { part, selection, open } = hands.bench();
  const held = part.hits[stem.index] as Hit;
  const { ids } = withoutLocked(part, selection);
  const perPixel = hands.msPerPixel();
  const earliest = -stem.room.early * perPixel;
  const latest = stem.room.late * perPixel;
  // A hit that leans further than the lens shows starts from where its head is drawn.
  const shown = clamp(stem.lean, earliest, latest);
  let x = start.x;
  let delta = 0;
  const edit = open(`Nudge ${describeHits(part, ids)}`, 'drag');
  const preview = (p: Pointer, h: Hands) => {
    delta += (p.x - x) * (p.shift ? FINE_MS : perPixel);
    x = p.x;
    const wanted = shown + delta;
    const lean = wanted >= latest ? Math.max(latest, stem.lean) : wanted <= earliest ? Math.min(earliest, stem.lean) : wanted;
    edit.preview((base) => addNudge(base, ids, milliseconds(lean - stem.lean)));
    const full = wanted !== lean ? ', full lean: widen the lens for more' : '';
    h.showReadout(`${held.velocity} · ${leanText(lean)}${full}`, p);
  };
  return dragState('drag-nudge', idle, edit, preview);
}
