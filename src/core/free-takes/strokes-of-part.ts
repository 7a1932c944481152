import type { FreeStroke } from '../beats/strokes';
import type { Part } from '../model/part';
import { tempoMapOf } from '../part/part-time';

/** When the hits of a part are struck, in seconds from its zero, whatever its tempo means. Chokes strike nothing. */
export function strokesOfPart(part: Part): FreeStroke[] {
  const tempo = tempoMapOf(part);
  return part.hits.filter((h) => !h.choke).map((h) => ({ at: tempo.toSeconds(h.tick), key: h.key, velocity: h.velocity }));
}
