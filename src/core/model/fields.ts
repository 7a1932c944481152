import type { Hit, Part } from './part';

/** The part format that a field came with: files of an earlier one cannot have it, and its migration says what stands for it. */
export type Since = 1 | 2 | 3 | 4 | 5 | 6;

/**
 * Every field of a part, and of a hit: stated here once, and the compiler asks for those that are added. Comparing, diffs, the store,
 * checks of files and migrations all go by these records.
 */
export const PART_FIELDS: Readonly<Record<keyof Part, Since>> = {
  format: 1,
  name: 1,
  tempo: 1,
  playerTempo: 4,
  meter: 1,
  origin: 1,
  bars: 1,
  kitMap: 1,
  rows: 1,
  hits: 1,
  feel: 1,
  kit: 2,
  ownKit: 2,
  mix: 2,
  sections: 2,
  order: 2,
  everyPass: 2,
  breaks: 2,
  heard: 2,
  target: 2,
  backing: 2,
  deletedTakes: 2,
  source: 1,
};

export const HIT_FIELDS: Readonly<Record<keyof Hit, Since>> = {
  id: 1,
  voice: 1,
  key: 1,
  tick: 1,
  length: 1,
  velocity: 1,
  ghost: 1,
  choke: 1,
  pan: 1,
  pitch: 1,
  brightness: 1,
  locked: 1,
  nudge: 1,
  ornament: 1,
  companions: 1,
  home: 1,
  alone: 1,
  lane: 1,
  chance: 2,
  passes: 2,
  piece: 2,
  sure: 3,
  other: 3,
  decided: 3,
  placed: 3,
  muted: 5,
  openness: 5,
  position: 5,
  variation: 6,
};

/** @example namesOf(PART_FIELDS) // ['format', 'name', ...] */
export const namesOf = <K extends string>(fields: Readonly<Record<K, unknown>>): readonly K[] => Object.keys(fields) as K[];

/** Fields of a record that came later than a format. @example fieldsAfter(HIT_FIELDS, 2) // [] */
export const fieldsAfter = <K extends string>(fields: Readonly<Record<K, Since>>, format: number): readonly K[] =>
  namesOf(fields).filter((name) => fields[name] > format);

/** Whether two values of a field are equal: as JSON, since that is how they are kept. */
export const sameValue = (a: unknown, b: unknown): boolean =>
  a === b || (typeof a === 'object' && typeof b === 'object' && a !== null && b !== null && JSON.stringify(a) === JSON.stringify(b));

const HIT_NAMES = namesOf(HIT_FIELDS);

export const sameHit = (a: Hit, b: Hit): boolean => a === b || HIT_NAMES.every((name) => sameValue(a[name], b[name]));
