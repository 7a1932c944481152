/** The hands of written hits, ornaments left aside: what the move of hands goes by. */
import type { Hit, Part } from '../model/part';
import { meterMapOf, tempoMapOf } from '../part/part-time';
import { stepOf } from '../time/grid';
import type { MeterMap } from '../time/meter-map';
import type { Ticks } from '../units';
import { stickingOf, type HandStroke } from './sticking';

/** So near to an eighth a stroke is on it, as a share of one. */
const ON_EIGHTH = 0.2;

/** Whether a stroke stands on an eighth of its bar. */
export function isOnEighth(map: MeterMap, tick: Ticks): boolean {
  const place = (tick - map.barAt(tick).start) / stepOf('1/8');
  return Math.abs(place - Math.round(place)) < ON_EIGHTH;
}

/** By hit: 1 for the leading hand, 2 for the other, 0 for feet and what no hand plays; and 1 for the first of two by one hand. */
export interface HandsOfHits {
  hands: Uint8Array;
  firstOfTwo: Uint8Array;
}

/** Two strokes of one hand are a double within so many ms. */
const DOUBLE_MS = 250;

const cache = new WeakMap<readonly Hit[], { tempo: unknown; meter: unknown; origin: Ticks; found: HandsOfHits }>();

/** Who plays each written hit, by least effort; found once for a list of hits. Chokes and pieces of a break are nobody's. */
export function handsOfHits(part: Pick<Part, 'hits' | 'tempo' | 'meter' | 'origin'>): HandsOfHits {
  const { hits, tempo, meter, origin } = part;
  const known = cache.get(hits);
  if (known && known.tempo === tempo && known.meter === meter && known.origin === origin) return known.found;
  const times = tempoMapOf(part);
  const map = meterMapOf(part);
  const strokes = hits
    .flatMap((hit, index): (HandStroke & { index: number })[] =>
      hit.choke || hit.piece !== undefined
        ? []
        : [{ ms: times.toSeconds(hit.tick) * 1000, voice: hit.voice, strong: isOnEighth(map, hit.tick), index }],
    )
    .sort((a, b) => a.ms - b.ms || a.index - b.index);
  const { limbs } = stickingOf(strokes);
  const found: HandsOfHits = { hands: new Uint8Array(hits.length), firstOfTwo: new Uint8Array(hits.length) };
  const byHand = strokes.filter((s) => limbs.get(s) === 'R' || limbs.get(s) === 'L');
  byHand.forEach((stroke, i) => {
    const hand = limbs.get(stroke);
    found.hands[stroke.index] = hand === 'R' ? 1 : 2;
    const [before, next] = [byHand[i - 1], byHand[i + 1]];
    const isDouble = (a: typeof stroke | undefined, b: typeof stroke | undefined): boolean =>
      a !== undefined && b !== undefined && limbs.get(a) === limbs.get(b) && b.ms - a.ms <= DOUBLE_MS;
    if (isDouble(stroke, next) && !isDouble(before, stroke)) found.firstOfTwo[stroke.index] = 1;
  });
  cache.set(hits, { tempo, meter, origin, found });
  return found;
}
