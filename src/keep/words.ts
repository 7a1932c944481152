import { listed } from '@/core/plurals';
import type { EntryKind } from '@/formats/library-file';

/** What things of a library are called: one, several. */
const NAMES: Readonly<Record<EntryKind, [string, string]>> = {
  part: ['part', 'parts'],
  groove: ['groove', 'grooves'],
  feel: ['feel', 'feels'],
  'key map': ['drum map', 'drum maps'],
  pattern: ['pattern', 'patterns'],
  target: ['output map', 'output maps'],
  sound: ['kit or sound', 'kits and sounds'],
  break: ['recorded break', 'recorded breaks'],
  setting: ['the settings', 'the settings'],
};

/** @example countWords([['part', 24], ['groove', 1], ['feel', 0]]) // '24 parts and 1 groove' */
export function countWords(counts: readonly (readonly [EntryKind, number])[]): string {
  const words = counts
    .filter(([, n]) => n > 0)
    .map(([kind, n]) => (kind === 'setting' ? NAMES[kind][0] : `${n} ${NAMES[kind][n === 1 ? 0 : 1]}`));
  if (words.length === 0) return 'nothing';
  return listed(words);
}

/** What one of a kind is called. */
export const nameOfKind = (kind: EntryKind): string => NAMES[kind][0];

/** @example megabytes(12_345_678) // '12.3 MB' */
export function megabytes(bytes: number): string {
  if (bytes < 1e6) return `${Math.max(1, Math.round(bytes / 1e3))} kB`;
  return bytes < 1e9 ? `${(bytes / 1e6).toFixed(1)} MB` : `${(bytes / 1e9).toFixed(1)} GB`;
}
