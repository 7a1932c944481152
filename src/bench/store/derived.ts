/** What follows from a part: computed when first asked for, kept as long as the part, never stored. */
import { phraseOf, type PhraseBar } from '@/core/analysis/phrase';
import { performPart, writtenPerformance, type Performance } from '@/core/feel/perform';
import { findOrigin, type OriginFinding } from '@/core/homes/origin';
import type { Hit, Part } from '@/core/part/part';

function memo<V>(compute: (part: Part) => V): (part: Part) => V {
  const cache = new WeakMap<Part, V>();
  return (part) => {
    let value = cache.get(part);
    if (value === undefined) cache.set(part, (value = compute(part)));
    return value;
  };
}

export const performanceOf: (part: Part) => Performance = memo(performPart);
export const writtenOf: (part: Part) => Performance = memo(writtenPerformance);
export const phraseBarsOf: (part: Part) => PhraseBar[] = memo((part) => phraseOf(part, performanceOf(part)));
export const originFindingOf: (part: Part) => OriginFinding = memo(findOrigin);
export const hitsById: (part: Part) => Map<string, Hit> = memo((part) => new Map(part.hits.map((h) => [h.id, h])));
