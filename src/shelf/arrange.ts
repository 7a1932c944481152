import { createStore } from 'zustand/vanilla';
import { compareNames } from '@/core/natural-order';
import { MAX_BPM, MIN_BPM } from '@/core/units';
import type { PartRow } from '@/storage/database';

/** In which order parts stand on the Shelf. */
export type ShelfOrder = 'changed' | 'name' | 'tempo';

/** What of the parts is seen, and how. */
export interface ShelfView {
  search: string;
  order: ShelfOrder;
  /** As `6/8`; null: every meter. */
  meter: string | null;
  /** BPM, both included. */
  tempo: { from: number; to: number };
  /** A part has all of these. */
  tags: readonly string[];
}

export const EVERY_TEMPO = { from: MIN_BPM, to: MAX_BPM };
export const WHOLE_SHELF: ShelfView = { search: '', order: 'changed', meter: null, tempo: EVERY_TEMPO, tags: [] };

/** While this tab is open, the Shelf is found as it was left. */
export const shelfView = createStore<ShelfView>(() => WHOLE_SHELF);

const meterOf = ({ summary }: PartRow): string => summary.meter.join('/');

/** What of a part is searched. */
const wordsOf = (row: PartRow): string =>
  `${row.name} ${meterOf(row)} ${row.summary.tempo} bpm ${(row.tags ?? []).join(' ')} ${row.about ?? ''}`.toLowerCase();

const COMPARE: Readonly<Record<ShelfOrder, (a: PartRow, b: PartRow) => number>> = {
  changed: (a, b) => b.updatedAt - a.updatedAt,
  name: (a, b) => compareNames(a.name, b.name),
  tempo: (a, b) => a.summary.tempo - b.summary.tempo || compareNames(a.name, b.name),
};

/** The parts that are seen, in their order. */
export function arranged(rows: readonly PartRow[], { search, order, meter, tempo, tags }: ShelfView): PartRow[] {
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  const fits = (row: PartRow): boolean =>
    (meter === null || meterOf(row) === meter) &&
    row.summary.tempo >= tempo.from &&
    row.summary.tempo <= tempo.to &&
    tags.every((t) => row.tags?.includes(t)) &&
    (words.length === 0 || containsAll(wordsOf(row), words));
  return rows.filter(fits).sort(COMPARE[order]);
}

const containsAll = (text: string, words: readonly string[]): boolean => words.every((w) => text.includes(w));

/** @example metersOf(rows) // ['4/4', '6/8'] */
export const metersOf = (rows: readonly PartRow[]): string[] => [...new Set(rows.map(meterOf))].sort(compareNames);

export const tagsOf = (rows: readonly PartRow[]): string[] => [...new Set(rows.flatMap((row) => row.tags ?? []))].sort(compareNames);

export const isWhole = ({ search, meter, tempo, tags }: ShelfView): boolean =>
  search.trim() === '' && meter === null && tempo.from === MIN_BPM && tempo.to === MAX_BPM && tags.length === 0;
