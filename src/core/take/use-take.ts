import { homesOf } from '../homes/homes';
import type { Hit, Part } from '../part/part';
import { compareHits } from '../part/part';
import { foldTake, recordedStrokes } from './fold';
import { eventOfHit, hitsOfStrokes, withHits } from './hits-of-take';
import type { RawEvent, Take } from './take';

/** The hits of a take in a part, by the part's kit map. */
export const hitsOfTake = (part: Pick<Part, 'kitMap'>, take: Take, events: readonly RawEvent[]): Hit[] => hitsOfStrokes(part, take.id, recordedStrokes(foldTake(take, events), take.passes));

/**
 * Makes a take the written hits of its loop: on the voices that it plays what was there goes, other voices stay. The hits keep the link
 * to their raw events.
 */
export function putTake(part: Part, take: Take, events: readonly RawEvent[]): Part {
  const hits = hitsOfTake(part, take, events);
  const voices = new Set(hits.map((h) => h.voice));
  const homes = homesOf(part);
  const gone = new Set(part.hits.flatMap((h, i) => (voices.has(h.voice) && (homes.ticks[i] as number) >= take.start && (homes.ticks[i] as number) < take.end ? [h.id] : [])));
  return withHits(part, hits, (h) => !gone.has(h.id) && eventOfHit(h.id)?.take !== take.id);
}

/** The part's hits that came from a take. */
export const hitsFromTake = (part: Pick<Part, 'hits'>, takeId: string): Set<string> => new Set(part.hits.flatMap((h) => (eventOfHit(h.id)?.take === takeId ? [h.id] : [])));

/**
 * Places the hits of a take anew, after its latency was changed: those that are still in the part move, whatever else was done to them
 * stays.
 */
export function placeTakeAnew(part: Part, take: Take, events: readonly RawEvent[]): Part {
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
