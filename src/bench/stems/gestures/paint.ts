import { counted } from '@/core/plurals';
import { newHitId } from '@/editing/ids';
import { addHits } from '@/core/commands/hits';
import { labelOfRow } from '@/core/part/rows';
import { lockTest } from '@/core/part/locks';
import type { HitId, Part } from '@/core/model/part';
import { meterMapOf } from '@/core/part/part-time';
import { setQuality } from '@/core/shaping/qualities';
import { nearestLine, stepOf } from '@/core/time/grid';
import type { Ticks } from '@/core/units';
import { paintVelocity, linesOfStroke } from '../../store/tools';
import { dragState } from './drag-state';
import type { Gesture, GestureContext, Pointer } from './types';

/**
 * Hits are painted along one row: every `stride`-th line between the press and the pointer, however far the pointer jumps from
 * event to event. A step that has a hit keeps it and gives it the painted.
 */
export function paintHits(start: Pointer, context: GestureContext, idle: Gesture): Gesture {
  const ground = context.groundAt(start);
  if (!ground) return idle;
  const { part, view, ui, open } = context.bench();
  const { voice, tick: from } = ground;
  const { paint } = ui;
  const label = labelOfRow(part, voice).toLowerCase();
  const ids = new Map<number, HitId>();
  const idOf = (tick: number): HitId => {
    if (!ids.has(tick)) ids.set(tick, newHitId());
    return ids.get(tick) as HitId;
  };
  const present = hitsOnLines(part, voice, view.grid);
  const edit = open(`Paint the ${label}`, 'drag');
  const stroke = (to: Ticks, h: GestureContext) => {
    const lines = linesOfStroke(part, view.grid, paint.stride, from, to);
    const velocityAt = (tick: Ticks): number => paintVelocity(part, paint, view.grid, tick);
    edit.preview((base) => {
      const fresh = lines.filter((t) => !present.has(t));
      const repainted = new Map(lines.flatMap((t) => (present.get(t) ?? []).map((id) => [id, t] as const)));
      const next = setQuality(base, new Set(repainted.keys()), 'velocity', (hit) => velocityAt(repainted.get(hit.id) as Ticks));
      return addHits(
        next,
        fresh.map((tick) => ({ id: idOf(tick), voice, tick, velocity: velocityAt(tick), ghost: paint.ghosts })),
      );
    });
    h.bench().showSelection(lines.flatMap((t) => present.get(t) ?? [idOf(t)]));
    return lines.length;
  };
  const preview = (p: Pointer, h: GestureContext) => {
    const n = stroke(h.lineAt(voice, p.x), h);
    h.showReadout(`${counted(n, 'hit')} · every ${paint.stride === 1 ? '' : `${paint.stride} of `}${view.grid}`, p);
  };
  stroke(from, context);
  context.audition(voice, paintVelocity(part, paint, view.grid, from));
  return dragState('paint', idle, edit, preview, undefined, true);
}

/** Unlocked hits of a voice by the line they are nearest to. */
function hitsOnLines(part: Part, voice: string, grid: Parameters<typeof stepOf>[0]): Map<number, HitId[]> {
  const map = meterMapOf(part);
  const step = stepOf(grid);
  const isLocked = lockTest(part);
  const found = new Map<number, HitId[]>();
  for (const hit of part.hits) {
    if (hit.voice !== voice) continue;
    const line = nearestLine(map, hit.tick, step).tick;
    const ids = isLocked(hit) ? [] : [hit.id];
    found.set(line, [...(found.get(line) ?? []), ...ids]);
  }
  return found;
}
