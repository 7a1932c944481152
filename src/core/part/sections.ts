import type { Part } from '../model/part';
import type { Section } from '../model/song';
import { meterMapOf } from './part-time';

/** What follows from a part's sections alone. */

type Sectioned = Pick<Part, 'sections' | 'order' | 'bars'>;

/** A section's bars from 0, `to` not included. */
export const barsOf = ({ from, bars }: Pick<Section, 'from' | 'bars'>): { from: number; to: number } => ({
  from: from - 1,
  to: from - 1 + bars,
});

/** The section that a bar (from 0) lies in. */
export const sectionAt = (part: Pick<Part, 'sections'>, bar: number): Section | undefined =>
  part.sections?.find((s) => bar >= s.from - 1 && bar < s.from - 1 + s.bars);

export const sectionOf = (part: Pick<Part, 'sections'>, id: string): Section | undefined => part.sections?.find((s) => s.id === id);

/** A section's stretch in ticks. */
export function stretchOf(part: Pick<Part, 'meter' | 'origin'>, section: Pick<Section, 'from' | 'bars'>): { start: number; end: number } {
  const map = meterMapOf(part);
  const { from, to } = barsOf(section);
  return { start: map.barOf(from).start, end: map.barOf(to).start };
}

/** The part with sections and order that fit each other and its bars: what lies behind the end goes, and lines of the order with it. */
export function withSections<P extends Sectioned>(part: P, sections: readonly Section[] | undefined, order = part.order): P {
  const { sections: _sections, order: _order, ...rest } = part;
  const kept = (sections ?? []).flatMap((s): Section[] => {
    const bars = Math.min(s.bars, part.bars - s.from + 1);
    return bars < 1 ? [] : [bars === s.bars ? s : { ...s, bars }];
  });
  const known = new Set(kept.map((s) => s.id));
  const lines = (order ?? []).filter((e) => known.has(e.section));
  return { ...rest, ...(kept.length > 0 ? { sections: kept } : {}), ...(lines.length > 0 ? { order: lines } : {}) } as unknown as P;
}

/**
 * Sections after bars were put together anew: each is where its bars stand together for the first time; bars that were put into it belong
 * to it.
 * @param bars for each bar of the new part which bar of the old it is (from 0), null for an empty one
 */
export function sectionsAfter(sections: readonly Section[] | undefined, bars: readonly (number | null)[]): Section[] | undefined {
  if (!sections) return undefined;
  const labels = bars.map((bar) =>
    bar === null ? null : (sections.find((s) => bar >= s.from - 1 && bar < s.from - 1 + s.bars)?.id ?? null),
  );
  bars.forEach((bar, i) => {
    if (bar !== null) return;
    let next = i;
    while (next < bars.length && bars[next] === null) next++;
    const before = i > 0 ? labels[i - 1] : null;
    if (before && before === labels[next]) labels[i] = before;
  });
  const found = sections.flatMap((s): Section[] => {
    const first = labels.indexOf(s.id);
    if (first < 0) return [];
    let end = first;
    while (end < labels.length && labels[end] === s.id) end++;
    return [{ ...s, from: first + 1, bars: end - first }];
  });
  return found.sort((a, b) => a.from - b.from);
}
