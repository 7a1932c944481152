import { addNudge } from '@/core/commands/hits';
import { withoutLocked } from '@/core/part/locks';
import type { Hit } from '@/core/model/part';
import { clamp, milliseconds } from '@/core/units';
import { REACHES } from '../../store/view';
import type { Stem } from '../geometry/stems';
import { describeHits, leanText } from '../../words/describe';
import { dragState } from './drag-state';
import type { Gesture, GestureContext, Pointer } from './types';

/** With Shift a pixel is this many ms. */
const FINE_MS = 0.5;

/** Heads dragged sideways: the selection's nudges move together. Where the held head would leave the lens, a wider one is taken. */
export function dragNudge(start: Pointer, stem: Stem, context: GestureContext, idle: Gesture): Gesture {
  const { part, selection, open } = context.bench();
  const held = part.hits[stem.index] as Hit;
  const { ids } = withoutLocked(part, selection);
  // How far the lens that is looked through shows the lean.
  const lens = () => {
    const perPixel = context.msPerPixel();
    return { perPixel, earliest: -stem.room.early * perPixel, latest: stem.room.late * perPixel };
  };
  const first = lens();
  // A hit that leans further than the lens shows starts from where its head is drawn.
  const shown = clamp(stem.lean, first.earliest, first.latest);
  let x = start.x;
  let delta = 0;
  const edit = open(`Nudge ${describeHits(part, ids)}`, 'drag');
  const preview = (p: Pointer, h: GestureContext) => {
    delta += (p.x - x) * (p.shift ? FINE_MS : lens().perPixel);
    x = p.x;
    const outside = (lean: number) => (lean > lens().latest && lean > stem.lean) || (lean < lens().earliest && lean < stem.lean);
    // Looked at through a wider lens, the same place under the pointer is a larger lean.
    while (outside(shown + delta)) {
      const ratio = widen(h);
      if (ratio === null) break;
      delta = (shown + delta) * ratio - shown;
    }
    const wanted = shown + delta;
    const { earliest, latest } = lens();
    const lean = wanted >= latest ? Math.max(latest, stem.lean) : wanted <= earliest ? Math.min(earliest, stem.lean) : wanted;
    edit.preview((base) => addNudge(base, ids, milliseconds(lean - stem.lean)));
    const full = wanted !== lean ? ', as far as it goes' : '';
    h.showReadout(`${held.velocity} · ${leanText(lean)}${full}`, p);
  };
  return dragState('drag-nudge', idle, edit, preview);
}

/** Takes the next wider lens. @returns how much wider it is; null where there is none */
function widen(context: GestureContext): number | null {
  const { view, setView } = context.bench();
  const next = REACHES.find((reach) => reach > view.reach);
  if (!next) return null;
  setView({ reach: next });
  return next / view.reach;
}
