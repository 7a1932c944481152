import type { Part } from '../model/part';
import type { Ornament } from '../model/ornament';
import type { Swung } from '../perform/perform';
import { GRIDS, type GridName } from '../time/grid';
import { clampVelocity } from '../units';
import type { VoiceName } from '../row-names';

/** What expanding needs to know of a part. */
export type Ornamented = Pick<Part, 'hits' | 'tempo' | 'meter' | 'origin' | 'kitMap'>;

/** One stroke of a hit that carries an ornament. */
export interface OrnamentStroke {
  /** Performed ticks, may be fractional or negative. */
  tick: number;
  /** 1 to 127. */
  velocity: number;
  /** Ticks. */
  length: number;
  voice: VoiceName;
  key: number;
}

/** Where a stroke sounds that is written so many ticks after its hit, as the swing moves place it. */
export type { Swung } from '../perform/perform';

/** Everything that the core knows of a kind of ornament. The list of them all is all.ts. */
export interface OrnamentSpec<O extends { kind: string } = Ornament> {
  kind: O['kind'];
  /** What each member of its own may be; one that is left out is asked as undefined. */
  members: { readonly [K in Exclude<keyof O, 'kind'>]-?: (value: unknown) => boolean };
  /** What is offered, by its words; the first is what it starts with. */
  ready: readonly { word: string; ornament: O }[];
  /** @example word of a flam of two grace strokes: 'drag' */
  word(ornament: O): string;
  /** How many strokes it has at most, its own among them: counted without making them. */
  count(part: Ornamented, index: number, ornament: O): number;
  /**
   * The hit's strokes, its own first. `main` is its own, as performed; `swung` says where others sound that follow the swing, null without
   * any.
   */
  strokes(part: Ornamented, index: number, ornament: O, main: OrnamentStroke, swung: Swung | null): OrnamentStroke[];
}

/** A stroke like the hit's own, at another place; it ends where the next one starts. */
export const strokeOf = (
  main: OrnamentStroke,
  tick: number,
  velocity: number,
  room: number,
  voice = main.voice,
  key = main.key,
): OrnamentStroke => ({
  tick,
  velocity: clampVelocity(velocity),
  length: Math.max(1, Math.min(main.length, room)),
  voice,
  key,
});

/** Rules of members. */
export const within =
  ([low, high]: readonly [number, number]) =>
  (v: unknown): boolean =>
    Number.isFinite(v) && (v as number) >= low && (v as number) <= high;
export const wholeWithin =
  ([low, high]: readonly [number, number]) =>
  (v: unknown): boolean =>
    Number.isInteger(v) && (v as number) >= low && (v as number) <= high;
export const isFlag = (v: unknown): boolean => typeof v === 'boolean';
export const isGrid = (v: unknown): boolean => GRIDS.includes(v as GridName);
export const optional =
  (rule: (v: unknown) => boolean) =>
  (v: unknown): boolean =>
    v === undefined || rule(v);
