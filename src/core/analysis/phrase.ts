import { leanOf, type Performance } from '../perform/perform';
import { meterMapOf } from '../part/part-time';
import type { Hit, Part } from '../model/part';
import { ticks, TICKS_PER_QUARTER } from '../units';

/** One bar of the phrase strip. */
export interface PhraseBar {
  /** 0 for the first distinct bar, 1 for the next ...; equal numbers are equal bars. -1: empty. */
  shape: number;
  hits: number;
  /** Mean lean of its performed hits in ms. */
  lean: number;
  doubtful: number;
}

/** Places in a bar are compared to a 24th of a quarter, velocities may differ by this much. */
const SAME_PLACE = TICKS_PER_QUARTER / 24;
const SAME_VELOCITY = 14;

/**
 * The part bar by bar: which bars are written alike (same voices at the same places to a 24th of a quarter, the same ornaments, velocities
 * to about a
 * ninth), how dense they are, where they lean. Hits before the first bar count to it.
 */
export function phraseOf(
  part: Pick<Part, 'hits' | 'tempo' | 'meter' | 'origin' | 'bars'>,
  performance: Performance,
  doubtful: Uint8Array = performance.homes.doubtful,
): PhraseBar[] {
  const map = meterMapOf(part);
  const bars = Array.from({ length: part.bars }, (): PhraseBar => ({ shape: -1, hits: 0, lean: 0, doubtful: 0 }));
  const strokes = bars.map((): Stroke[] => []);
  const { homes } = performance;
  part.hits.forEach((hit: Hit, i) => {
    const home = ticks(homes.ticks[i] as number);
    const found = map.barAt(home);
    const index = Math.min(Math.max(found.index, 0), part.bars - 1);
    const bar = bars[index] as PhraseBar;
    bar.hits++;
    bar.lean += leanOf(part, performance, i);
    bar.doubtful += doubtful[i] as number;
    const ornament = hit.ornament ? `:${JSON.stringify(hit.ornament)}` : '';
    (strokes[index] as Stroke[]).push({
      place: `${hit.voice}:${Math.round((hit.tick - found.start) / SAME_PLACE)}${ornament}`,
      velocity: hit.velocity,
    });
  });
  const findShape = shapeFinder();
  bars.forEach((bar, i) => {
    if (bar.hits === 0) return;
    bar.lean /= bar.hits;
    bar.shape = findShape(strokes[i] as Stroke[]);
  });
  return bars;
}

interface Stroke {
  place: string;
  velocity: number;
}

/** Numbers bars by shape: a bar has the shape of the first one with the same places and similar velocities. */
function shapeFinder(): (strokes: Stroke[]) => number {
  const byPlaces = new Map<string, { shape: number; velocities: number[] }[]>();
  let shapes = 0;
  return (strokes) => {
    strokes.sort((a, b) => (a.place < b.place ? -1 : a.place > b.place ? 1 : a.velocity - b.velocity));
    const places = strokes.map((s) => s.place).join(' ');
    const velocities = strokes.map((s) => s.velocity);
    let alike = byPlaces.get(places);
    if (!alike) byPlaces.set(places, (alike = []));
    let found = alike.find((other) => other.velocities.every((v, i) => Math.abs(v - (velocities[i] as number)) <= SAME_VELOCITY));
    if (!found) alike.push((found = { shape: shapes++, velocities }));
    return found.shape;
  };
}

/** A letter for a shape: A to Z, then A2, B2 ... */
export const letterOf = (shape: number): string =>
  shape < 0 ? '' : String.fromCharCode(65 + (shape % 26)) + (shape >= 26 ? String(Math.floor(shape / 26) + 1) : '');
