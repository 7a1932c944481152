import type { Hit, HitId, Part } from '../model/part';
import { rowsWith } from '../commands/hits';
import { compareHits } from '../model/part';
import { replaceHits } from '../part/diff';
import { stepOf } from '../time/grid';
import { ticks } from '../units';
import { playedByKey } from '../breaks/rows';
import type { Take } from '../model/take';
import type { VoiceName } from '../row-names';
import type { FoldedStroke } from './fold';

/** The id of a hit tells which raw event it came from: the link lasts as long as the hit. */
export const hitIdOfEvent = (takeId: string, event: number): HitId => `take:${takeId}:${event}`;

/** @example eventOfHit('take:ab12:7') // { take: 'ab12', event: 7 }; null for hits that were never played */
export function eventOfHit(id: HitId): { take: string; event: number } | null {
  const found = /^take:(.+):(\d+)$/.exec(id);
  return found ? { take: found[1] as string, event: Number(found[2]) } : null;
}

/** Strokes as hits of a part, by its key map; on the chosen rows alone where some are given. */
export function hitsOfStrokes(part: Pick<Part, 'kitMap' | 'breaks'>, { id: takeId, pieces }: Pick<Take, 'id' | 'pieces'>, strokes: readonly FoldedStroke[], rows?: ReadonlySet<VoiceName>): Hit[] {
  return strokes
    .map((s): Hit => ({ id: hitIdOfEvent(takeId, s.event), ...playedByKey(part, s.key, pieces), tick: s.tick, length: ticks(stepOf('1/16') / 2), velocity: s.velocity, ...(s.companions ? { companions: s.companions } : {}) }))
    .filter((h) => !rows || rows.has(h.voice))
    .sort(compareHits);
}

const NONE: ReadonlySet<HitId> = new Set();

/** A part with more hits in it, and rows for them; the rows that are there keep their order. */
export function withHits(part: Part, more: readonly Hit[], keep: (hit: Hit) => boolean = () => true): Part {
  if (more.length === 0 && part.hits.every(keep)) return part;
  const hits = replaceHits(part.hits.filter(keep), NONE, more);
  const rows = rowsWith(part.rows, new Set(more.map((h) => h.voice)));
  return { ...part, hits, rows };
}
