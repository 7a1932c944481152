import { hitsInRange } from '../homes/ticks-range';
import type { Hit, HitId, Part } from '../model/part';
import { compareHits } from '../model/part';
import type { VoiceName } from '../row-names';
import type { TakeEvent, Take } from '../model/take';
import { foldTake, recordedStrokes } from './fold';
import { eventOfHit, hitIdOfEvent, hitsOfStrokes, withHits } from './hits-of-take';

/** The hits of a take in a part, by the part's key map. */
export const hitsOfTake = (part: Pick<Part, 'kitMap' | 'breaks'>, take: Take, events: readonly TakeEvent[]): Hit[] =>
  hitsOfStrokes(part, take, recordedStrokes(foldTake(take, events), take.passes, take.dropped));

/**
 * Makes a take the written hits of its loop: on the voices that it plays what was there goes, other voices stay. The hits keep the link
 * to their raw events.
 */
export function putTake(part: Part, take: Take, events: readonly TakeEvent[]): Part {
  const hits = hitsOfTake(part, take, events);
  const voices = new Set(hits.map((h) => h.voice));
  const inLoop = hitsInRange(part, take);
  const gone = new Set(part.hits.flatMap((h) => (voices.has(h.voice) && inLoop.has(h.id) ? [h.id] : [])));
  return withHits(part, hits, (h) => !gone.has(h.id) && eventOfHit(h.id)?.take !== take.id);
}

/**
 * Takes a take's hits out of a part again, whatever else was done since. What its recording took the place of comes back; rows that it
 * added go where they are empty.
 * @param some these hits of it alone
 */
export function withoutTake(
  part: Part,
  takeId: string,
  replaced: readonly Hit[],
  rowsBefore: ReadonlySet<VoiceName>,
  some?: ReadonlySet<HitId>,
): Part {
  const all = hitsFromTake(part, takeId);
  const gone = some ? new Set([...all].filter((id) => some.has(id))) : all;
  if (gone.size === 0) return part;
  const present = new Set(part.hits.map((h) => h.id));
  const next = withHits(
    part,
    replaced.filter((h) => !present.has(h.id)),
    (h) => !gone.has(h.id),
  );
  const played = new Set(next.hits.map((h) => h.voice));
  return { ...next, rows: next.rows.filter((row) => rowsBefore.has(row.voice) || played.has(row.voice)) };
}

/** The part's hits that came from a take. */
export const hitsFromTake = (part: Pick<Part, 'hits'>, takeId: string): Set<string> =>
  new Set(part.hits.flatMap((h) => (eventOfHit(h.id)?.take === takeId ? [h.id] : [])));

/**
 * Places the hits of a take anew, after its latency was changed: those that are still in the part move, whatever else was done to them
 * stays.
 */
export function placeTakeAnew(part: Part, take: Take, events: readonly TakeEvent[]): Part {
  const ticks = new Map(hitsOfTake(part, take, events).map((h) => [h.id, h.tick]));
  let moved = false;
  const hits = part.hits.map((h) => {
    const tick = ticks.get(h.id);
    if (tick === undefined || tick === h.tick) return h;
    moved = true;
    return { ...h, tick };
  });
  return moved ? { ...part, hits: hits.sort(compareHits) } : part;
}

/** Deletes a take: it is no longer among the part's. Its hits stay. */
export const deleteTake = (part: Part, takeId: string): Part => ({ ...part, deletedTakes: [...(part.deletedTakes ?? []), takeId] });

/** Of some takes those that were not deleted. */
export const takesOf = <T>(part: Pick<Part, 'deletedTakes'>, takes: readonly T[], idOf: (take: T) => string): T[] =>
  part.deletedTakes ? takes.filter((t) => !part.deletedTakes?.includes(idOf(t))) : [...takes];

/** A part whose hits come from takes under other names: where a copy of it has takes of its own. */
export function withTakeIds(part: Part, ids: ReadonlyMap<string, string>): Part {
  if (ids.size === 0) return part;
  const hits = part.hits.map((h): Hit => {
    const from = eventOfHit(h.id);
    const id = from && ids.get(from.take);
    return id ? { ...h, id: hitIdOfEvent(id, from.event) } : h;
  });
  return { ...part, hits: hits.sort(compareHits) };
}
