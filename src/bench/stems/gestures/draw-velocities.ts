import { labelOfRow } from '@/core/part/rows';
import { withoutLocked } from '@/core/part/locks';
import type { HitId } from '@/core/model/part';
import { shapeHits } from '@/core/shaping/shape-hits';
import type { LinePoint } from '@/core/shaping/shapes';
import { clampVelocity, type Ticks } from '@/core/units';
import { describeHits } from '../../words/describe';
import type { Gesture, GestureContext, Pointer } from './types';

/**
 * Draws velocities over a row: a straight line from the press to the pointer, or the path it takes. It changes the selected hits of
 * the row where several are selected, otherwise all of them, as far as the line reaches: one hit is selected whenever it was placed.
 */
export function drawVelocities(start: Pointer, kind: 'line' | 'free', context: GestureContext, idle: Gesture): Gesture {
  const voice = context.voiceAt(start);
  if (!voice) return idle;
  const { part, selection, open } = context.bench();
  const ofRow = part.hits.filter((h) => h.voice === voice).map((h) => h.id);
  const chosen = ofRow.filter((id) => selection.has(id));
  const several = chosen.length > 1;
  const { ids } = withoutLocked(part, new Set<HitId>(several ? chosen : ofRow));
  const edit = open(`Draw the velocity of ${several ? describeHits(part, ids) : `the ${labelOfRow(part, voice).toLowerCase()}`}`, 'drag');
  // In music, not in pixels: at the edges the page moves on beneath it.
  const first: Drawn = { ...start, tick: context.tickAt(start.x) };
  let path: Drawn[] = [first];
  const show = (p: Pointer, h: GestureContext) => {
    const last: Drawn = { ...p, tick: h.tickAt(p.x) };
    path = kind === 'line' ? [first, last] : withPoint(path, last);
    const sorted = path.map((q) => ({ ...q, x: h.xAt(q.tick) })).sort((a, b) => a.x - b.x);
    const points = sorted.map((q): LinePoint => h.pointOf(voice, q));
    edit.preview((base) => shapeHits(base, ids, 'velocity', { kind: 'line', points }));
    h.showTrace(sorted);
    h.showReadout(String(clampVelocity(h.pointOf(voice, p).value)), p);
  };
  const end = (h: GestureContext, keep: boolean): Gesture => {
    if (keep) edit.commit();
    else edit.cancel();
    h.showTrace(null);
    h.showReadout(null);
    return idle;
  };
  const drawing: Gesture = {
    name: `draw-${kind}`,
    scrolls: true,
    move(p, h) {
      show(p, h);
      return drawing;
    },
    up: (_p, h) => end(h, true),
    cancel: (h) => end(h, false),
  };
  return drawing;
}

/** A place of the path, and when it is in the music. */
interface Drawn extends Pointer {
  tick: Ticks;
}

/** The path as a function of time: drawing back over it replaces what was there. */
function withPoint(path: readonly Drawn[], p: Drawn): Drawn[] {
  const last = path[path.length - 1] as Drawn;
  const [left, right] = last.tick < p.tick ? [last.tick, p.tick] : [p.tick, last.tick];
  return [...path.filter((q) => q === last || q.tick < left || q.tick > right), p];
}
