import type { Ticks } from '../units';
import type { Hit } from './part';

/** A stroke of a pattern: all of a hit that goes along, its tick counted from the pattern's start. */
export type PatternHit = Omit<Hit, 'id' | 'lane' | 'locked' | 'alone'>;

/** Hits that are carried from part to part. */
export interface HitPattern {
  format: 'nod-sway/pattern@2';
  name: string;
  /** Of the bars that it comes from. */
  meter: readonly [numerator: number, denominator: number];
  /** How long it is, in ticks; it starts at a bar line. */
  length: Ticks;
  /** What its rows are called, by row. */
  rows: Readonly<Record<string, string>>;
  hits: readonly PatternHit[];
}
