import type { Hit, HitId, Part } from '../model/part';
import type { Ticks } from '../units';
import { shapedHit } from '../model/hit-shape';

/** What was read of a hit: its line, how likely that is (certain without it), and the next likely one. */
export interface HomeReading {
  home: Ticks;
  sure?: number;
  other?: Ticks;
}

const isRead = (hit: Hit, { home, sure, other }: HomeReading): boolean => hit.home === home && hit.sure === sure && hit.other === other;

/** A part with readings of hits; those that moved since, at `was`, keep theirs. */
export function withReadings(part: Part, readings: ReadonlyMap<HitId, HomeReading & { was: Ticks }>): Part {
  let changed = false;
  const hits = part.hits.map((hit): Hit => {
    const reading = readings.get(hit.id);
    if (!reading || reading.was !== hit.tick || isRead(hit, reading)) return hit;
    changed = true;
    const { home, sure, other } = reading;
    return shapedHit(hit, { home, sure, other, decided: undefined, placed: undefined });
  });
  return changed ? { ...part, hits } : part;
}
