import { leanOf, type Performance } from '../feel/perform';
import { meterMapOf } from '../part/part-time';
import type { Hit, Part } from '../part/part';
import { ticks } from '../units';

/** One bar of the phrase strip. */
export interface PhraseBar {
  /** 0 for the first distinct bar, 1 for the next ...; equal numbers are equal bars. -1: empty. */
  shape: number;
  hits: number;
  /** Mean lean of its performed hits in ms. */
  lean: number;
  doubtful: number;
}

/** Distances in a bar under this share of a quarter count as the same place when bars are compared. */
const SAME_PLACE = 80640 / 24;

/**
 * The part bar by bar: which bars are written alike (same voices at the same places to a 24th of a quarter, velocities to about a
 * tenth), how dense they are, where they lean. Hits before the first bar count to it.
 */
export function phraseOf(part: Pick<Part, 'hits' | 'tempo' | 'meter' | 'origin' | 'bars'>, performance: Performance): PhraseBar[] {
  const map = meterMapOf(part);
  const bars = Array.from({ length: part.bars }, (): PhraseBar => ({ shape: -1, hits: 0, lean: 0, doubtful: 0 }));
  const signatures = bars.map((): string[] => []);
  const { homes } = performance;
  part.hits.forEach((hit: Hit, i) => {
    const home = ticks(homes.ticks[i] as number);
    const found = map.barAt(home);
    const index = Math.min(Math.max(found.index, 0), part.bars - 1);
    const bar = bars[index] as PhraseBar;
    bar.hits++;
    bar.lean += leanOf(part, performance, i);
    bar.doubtful += homes.doubtful[i] as number;
    (signatures[index] as string[]).push(`${hit.voice}:${Math.round((hit.tick - found.start) / SAME_PLACE)}:${Math.round(hit.velocity / 12)}`);
  });
  const shapes = new Map<string, number>();
  bars.forEach((bar, i) => {
    if (bar.hits === 0) return;
    bar.lean /= bar.hits;
    const signature = (signatures[i] as string[]).sort().join(' ');
    if (!shapes.has(signature)) shapes.set(signature, shapes.size);
    bar.shape = shapes.get(signature) as number;
  });
  return bars;
}

/** A letter for a shape: A to Z, then A2, B2 ... */
export const letterOf = (shape: number): string => (shape < 0 ? '' : String.fromCharCode(65 + (shape % 26)) + (shape >= 26 ? String(Math.floor(shape / 26) + 1) : ''));
