import { tempoMapOf } from '../part/part-time';
import type { HitId, Part } from '../model/part';
import type { Milliseconds } from '../units';
import { ticks } from '../units';

/**
 * Two strokes of one voice closer than this were one stroke that bounced, unless they make a flam on purpose: the softer must be much
 * softer.
 */
export const DOUBLE_MS = 55 as Milliseconds;
/** A bounce has at most this part of the stroke's velocity. */
const BOUNCE = 0.72;

/**
 * Accidental doubles among some hits: of two strokes of one voice within {@link DOUBLE_MS} the softer one, where it is softer by more
 * than a quarter.
 * @returns ids of the hits that would go
 */
export function findDoubles(part: Part, ids: ReadonlySet<HitId>, withinMs: Milliseconds = DOUBLE_MS): HitId[] {
  const tempo = tempoMapOf(part);
  const last = new Map<string, number>();
  const found = new Set<HitId>();
  part.hits.forEach((hit, i) => {
    if (!ids.has(hit.id) || hit.choke || hit.ornament) return;
    const before = last.get(hit.voice);
    last.set(hit.voice, i);
    if (before === undefined) return;
    const other = part.hits[before];
    if (!other || found.has(other.id) || tempo.between(ticks(other.tick), hit.tick) >= withinMs) return;
    const [soft, loud] = hit.velocity <= other.velocity ? [hit, other] : [other, hit];
    if (soft.velocity > loud.velocity * BOUNCE) return;
    found.add(soft.id);
    if (soft === hit) last.set(hit.voice, before);
  });
  return [...found];
}
