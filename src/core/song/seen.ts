import type { HitRange } from '../feel/work';
import { performPart, type Performance } from '../perform/perform';
import type { Part } from '../model/part';
import { isPlain, soundingPart } from './sounding';

/**
 * The performance of all written hits as a screen shows it: those that sound in pass 1 just as they do then, the others as they would.
 * @param range see {@link performPart}
 */
export function performanceSeen(part: Part, range?: HitRange): Performance {
  if (isPlain(part)) return performPart(part, range);
  const all = performPart(part);
  const sounding = soundingPart(part);
  const heard = performPart(sounding);
  const places = new Map(sounding.hits.map((h, i) => [h.id, i]));
  const seen: Performance = {
    ...all,
    ticks: all.ticks.slice(),
    velocities: all.velocities.slice(),
    lengths: all.lengths.slice(),
    placedHomes: all.placedHomes.slice(),
  };
  part.hits.forEach((hit, i) => {
    const at = places.get(hit.id);
    if (at === undefined) return;
    for (const column of ['ticks', 'velocities', 'lengths', 'placedHomes'] as const) seen[column][i] = heard[column][at] as number;
  });
  return seen;
}
