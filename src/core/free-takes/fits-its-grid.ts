import { findOrigin } from '../homes/origin';
import type { Part } from '../model/part';
import { meterMapOf, tempoMapOf } from '../part/part-time';
import { TICKS_PER_QUARTER } from '../units';

/** With fewer hits no decision is made. */
const ENOUGH_HITS = 24;
/** Above this concentration on sixteenths or triplets a part was played to a grid, even if that grid is offset. */
const CONCENTRATED = 0.5;
/** Above this gain over evenly spread hits, in nats per hit, a part was played to its grid. */
const EXPLAINED = 0.2;

/** Places in a quarter note, each with its share of the hits. */
type Lines = readonly (readonly [place: number, share: number])[];

const SWINGS = [0.54, 0.57, 0.6, 0.63, 0.667, 0.7] as const;
const HYPOTHESES: readonly Lines[] = [
  [
    [0, 0.42],
    [0.5, 0.32],
    [0.25, 0.13],
    [0.75, 0.13],
  ],
  [
    [0, 0.5],
    [1 / 3, 0.25],
    [2 / 3, 0.25],
  ],
  ...SWINGS.map((swing): Lines => [
    [0, 0.6],
    [swing, 0.4],
  ]),
  ...SWINGS.map((swing): Lines => [
    [0, 0.42],
    [0.5, 0.32],
    [swing / 2, 0.13],
    [0.5 + swing / 2, 0.13],
  ]),
];
const SPREADS_MS = [6, 12, 24] as const;
/** Share of hits that may be off every line. */
const STRAY = 0.08;
/** Long parts are sampled down to this many hits. */
const MOST_LOOKED_AT = 2000;

/**
 * How much better the part's own grid explains its hits than an even spread would, in nats per hit: the best of straight, triplet and
 * swung grids at three spreads. 0 or less for hits that follow another grid.
 */
export function explainedByGrid(part: Pick<Part, 'hits' | 'meter' | 'origin' | 'tempo'>): number {
  const map = meterMapOf(part);
  const tempo = tempoMapOf(part);
  const every = Math.ceil(part.hits.length / MOST_LOOKED_AT);
  const hits = part.hits.filter((_, i) => i % every === 0);
  const places = hits.map((h) => ((h.tick - map.barAt(h.tick).start) / TICKS_PER_QUARTER) % 1);
  const quarters = hits.map((h) => 60_000 / tempo.bpmAt(h.tick));
  let best = -Infinity;
  for (const lines of HYPOTHESES)
    for (const spread of SPREADS_MS) {
      let sum = 0;
      places.forEach((place, i) => {
        const width = spread / (quarters[i] as number);
        let density = 0;
        for (const [line, share] of lines) {
          const off = Math.abs(place - line);
          const d = Math.min(off, 1 - off) / width;
          density += (share / (width * Math.sqrt(2 * Math.PI))) * Math.exp((-d * d) / 2);
        }
        sum += Math.log(STRAY + (1 - STRAY) * density);
      });
      best = Math.max(best, sum / places.length);
    }
  return best;
}

/** Whether the hits of a part do not follow its grid. Parts with breaks, few hits or a known player's tempo are never reported. */
export function fitsNoGrid(part: Part): boolean {
  if (part.hits.length < ENOUGH_HITS || part.playerTempo || part.breaks) return false;
  return findOrigin(part).concentration < CONCENTRATED && explainedByGrid(part) < EXPLAINED;
}
