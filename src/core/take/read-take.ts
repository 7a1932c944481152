import { withoutReading } from '../homes/homes';
import { hitsInRange } from '../homes/ticks-range';
import type { HomeReading } from '../homes/readings';
import { compareHits, type Hit, type HitId, type Part } from '../model/part';
import type { TakeEvent, Take } from '../model/take';
import { meterMapOf } from '../part/part-time';
import { readingsOf } from '../reading/read-into';
import type { MeterChange } from '../time/meter-map';
import { ticks, type Ticks } from '../units';
import { foldTake, recordedStrokes } from './fold';
import { hitIdOfEvent } from './hits-of-take';

/** What else is in the loop goes along in each pass while it is no more than this: it says which grid the take was played to. */
const MOST_BESIDE = 4000;
/** Mark between a hit's id and the pass that its copy is in. */
const IN_PASS = '\u0004';

/** Bars of a loop one after another, so many times. */
function metersOfPasses(take: Pick<Take, 'meter' | 'origin' | 'start' | 'end'>, passes: number): MeterChange[] {
  const map = meterMapOf(take);
  const meter: MeterChange[] = [];
  for (let pass = 0; pass < passes; pass++) {
    for (let bar = map.barAt(take.start); bar.start < take.end; bar = map.barOf(bar.index + 1))
      meter.push({ ...bar.meter, tick: ticks(bar.start - take.start + pass * (take.end - take.start)) });
  }
  return meter;
}

/**
 * Reads which lines the strokes of a take were meant for: its passes one after another, as they were played, beside what else is in the
 * loop,
 * whose lines stand.
 * @returns what was read of the take's hits that are still in the part, at their places in the loop
 */
export function readingsOfTake(part: Part, take: Take, events: readonly TakeEvent[]): Map<HitId, HomeReading & { was: Ticks }> {
  const length = take.end - take.start;
  const passOf = new Map(
    recordedStrokes(foldTake(take, events), take.passes, take.dropped).map((s) => [hitIdOfEvent(take.id, s.event), s.pass]),
  );
  const passes = [...passOf.values()].reduce((most, pass) => Math.max(most, pass + 1), 1);
  const at = (hit: Hit, pass: number): Hit => {
    const by = pass * length - take.start;
    return { ...hit, tick: ticks(hit.tick + by), home: ticks(hit.home + by) };
  };
  const inLoop = hitsInRange(part, take);
  const beside = part.hits.filter((h) => inLoop.has(h.id) && !passOf.has(h.id));
  const own = part.hits.flatMap((h): Hit[] => (passOf.has(h.id) ? [at(h, passOf.get(h.id) as number)] : []));
  if (own.length === 0) return new Map();
  const copies =
    beside.length * passes > MOST_BESIDE
      ? []
      : Array.from({ length: passes }, (_, pass) =>
          beside.map((h): Hit => ({ ...at(withoutReading(h) as Hit, pass), id: `${h.id}${IN_PASS}${pass}`, decided: true })),
        ).flat();
  const map = meterMapOf(take);
  const bars = map.barAt(ticks(take.end - 1)).index + 1 - map.barAt(take.start).index;
  const { source: _source, ...rest } = part;
  const played: Part = {
    ...rest,
    origin: ticks(0),
    meter: metersOfPasses(take, passes),
    bars: bars * passes,
    hits: [...own, ...copies].sort(compareHits),
  };
  const found = readingsOf(played, (hit) => passOf.has(hit.id));
  return new Map(
    [...found].map(([id, { was, home, sure, other }]) => {
      const by = take.start - (passOf.get(id) as number) * length;
      return [
        id,
        {
          was: ticks(was + by),
          home: ticks(home + by),
          ...(sure === undefined ? {} : { sure }),
          ...(other === undefined ? {} : { other: ticks(other + by) }),
        },
      ];
    }),
  );
}
