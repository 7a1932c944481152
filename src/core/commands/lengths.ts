/** Commands on how long hits last. */
import { indicesByVoice } from '../part/by-voice';
import { endOfPart, tempoMapOf } from '../part/part-time';
import type { Hit, HitId, Part } from '../model/part';
import { stepOf, type GridName } from '../time/grid';
import { seconds, ticks, type Ticks } from '../units';
import { changeHits } from './hits';

/** A length: steps of a grid, a time, or all the way to the row's next hit (the part's end after the last). */
export type LengthRule = { kind: 'steps'; grid: GridName; count: number } | { kind: 'ms'; ms: number } | { kind: 'next' };

/** No hit is shorter than a tick. */
const atLeast = (n: number): Ticks => ticks(Math.max(1, Math.round(n)));

/**
 * Gives hits a length. A time counts by the tempo where the hit is written.
 * @example setLengths(part, ids, { kind: 'steps', grid: '1/8', count: 1 })
 */
export function setLengths(part: Part, ids: ReadonlySet<HitId>, rule: LengthRule): Part {
  if (rule.kind === 'steps') return withLength(part, ids, () => atLeast(stepOf(rule.grid) * rule.count));
  if (rule.kind === 'ms') {
    const tempo = tempoMapOf(part);
    return withLength(part, ids, ({ tick }) => atLeast(tempo.toTicks(seconds(tempo.toSeconds(tick) + rule.ms / 1000)) - tick));
  }
  const next = nextOfRows(part);
  return withLength(part, ids, (hit) => atLeast((next.get(hit.id) ?? endOfPart(part)) - hit.tick));
}

const withLength = (part: Part, ids: ReadonlySet<HitId>, lengthOf: (hit: Hit) => Ticks): Part =>
  changeHits(part, ids, (hit) => {
    const length = lengthOf(hit);
    return length === hit.length ? hit : { ...hit, length };
  });

/** Where the next hit of each hit's row is written, later than it. */
function nextOfRows(part: Pick<Part, 'hits'>): Map<HitId, Ticks> {
  const next = new Map<HitId, Ticks>();
  for (const indices of indicesByVoice(part.hits).values()) {
    let later: Ticks | undefined;
    let here: Ticks | undefined;
    for (let k = indices.length - 1; k >= 0; k--) {
      const hit = part.hits[indices[k] as number] as Hit;
      if (here !== undefined && hit.tick < here) later = here;
      here = hit.tick;
      if (later !== undefined) next.set(hit.id, later);
    }
  }
  return next;
}

/** How long a hit lasts in milliseconds, by the tempo where it is written. */
export function lengthMs(part: Pick<Part, 'tempo'>, { tick, length }: Pick<Hit, 'tick' | 'length'>): number {
  const tempo = tempoMapOf(part);
  return (tempo.toSeconds(ticks(tick + length)) - tempo.toSeconds(tick)) * 1000;
}
