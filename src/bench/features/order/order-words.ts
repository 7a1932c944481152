import { listed } from '@/core/plurals';
import type { Part } from '@/core/model/part';
import type { OrderEntry, Section } from '@/core/model/song';
import { labelOfRow } from '@/core/part/rows';

const COUNTS = ['', 'once', 'twice', 'three times', 'four times'];

/** @example timesWords(2) // 'twice'; timesWords(6) // '6 times' */
export const timesWords = (times: number): string => COUNTS[times] ?? `${times} times`;

/** @example barsWords({ from: 3, bars: 2 }) // 'bars 3 and 4' */
export const barsWords = ({ from, bars }: Pick<Section, 'from' | 'bars'>): string =>
  bars === 1 ? `bar ${from}` : bars === 2 ? `bars ${from} and ${from + 1}` : `bars ${from} to ${from + bars - 1}`;

/** A line of the order beside its section's name. @example 'twice, without ride and tambourine, at 90 %' */
export function entryWords(part: Pick<Part, 'rows'>, { times = 1, rests = [], level = 100, sway = 100 }: OrderEntry): string {
  const names = rests.map((r) => labelOfRow(part, r).toLowerCase());
  const without = names.length === 0 ? '' : `without ${listed(names)}`;
  return [timesWords(times), without, level === 100 ? '' : `at ${level} %`, sway === 100 ? '' : `feel ${sway} %`]
    .filter(Boolean)
    .join(', ');
}
