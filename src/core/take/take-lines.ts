import { withoutReading } from '../homes/homes';
import type { HomeReading } from '../homes/readings';
import { compareHits, type Hit, type HitId, type Part } from '../model/part';
import type { Take } from '../model/take';
import { ticks, type Ticks } from '../units';

/**
 * A part with what was read of a take; a stroke whose line lies behind the loop's end, or before its start, goes with it to the other end.
 */
export function withTakeRead(
  part: Part,
  take: Pick<Take, 'start' | 'end'>,
  readings: ReadonlyMap<HitId, HomeReading & { was: Ticks }>,
): Part {
  const length = take.end - take.start;
  let changed = false;
  const hits = part.hits.map((hit): Hit => {
    const reading = readings.get(hit.id);
    if (!reading || reading.was !== hit.tick || hit.decided || hit.placed) return hit;
    const { was: _was, ...read } = reading;
    const by = read.home >= take.end ? -length : read.home < take.start ? length : 0;
    if (by === 0 && read.home === hit.home && read.sure === hit.sure && read.other === hit.other) return hit;
    changed = true;
    const next = { ...withoutReading(hit), ...read };
    return by === 0
      ? next
      : {
          ...next,
          tick: ticks(hit.tick + by),
          home: ticks(read.home + by),
          ...(read.other === undefined ? {} : { other: ticks(read.other + by) }),
        };
  });
  return changed ? { ...part, hits: hits.sort(compareHits) } : part;
}
