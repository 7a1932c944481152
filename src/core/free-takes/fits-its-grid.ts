import { findOrigin } from '../homes/origin';
import type { Part } from '../model/part';
import { meterMapOf, tempoMapOf } from '../part/part-time';
import { TICKS_PER_QUARTER } from '../units';

/** Fewer hits tell nothing of how they were played. */
const ENOUGH_HITS = 24;
/** A whole part that is this concentrated on sixteenths or triplets was played to them, wherever they lie. */
const CONCENTRATED = 0.5;
/** Hits that lines explain better than this, in nats a hit, were played to those lines. */
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
/** Share of hits that lie on no line. */
const STRAY = 0.08;
/** So many hits spread over a part tell as much as all of them. */
const MOST_LOOKED_AT = 2000;

/**
 * How much better the lines of its own quarters explain the hits of a part than places spread evenly would: nats a hit, on the best of
 * straight, in threes and swung, and of three spreads. 0 and less for hits that were played to other lines.
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

/** Whether a part was played without regard to its own lines, as far as that can be told. Breaks have lines of their own. */
export function fitsNoGrid(part: Part): boolean {
  if (part.hits.length < ENOUGH_HITS || part.playerTempo || part.breaks) return false;
  return findOrigin(part).concentration < CONCENTRATED && explainedByGrid(part) < EXPLAINED;
}
