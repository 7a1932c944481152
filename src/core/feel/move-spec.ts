import type { Groove } from '../model/groove';
import type { Feel, Move, MoveBase } from '../model/feel';
import type { SlowReading } from './random-values';
import type { ScopeTest } from './scope';
import type { Performable, MoveContext } from './work';

/**
 * What a member of a move may be: files, fields and random tests go by it. One that is not optional and has no plain value must be given.
 */
export type Member = { optional?: true } & (
  | { is: 'number'; min: number; max: number; whole?: true }
  | { is: 'choice'; of: readonly string[] }
  | { is: 'flag' }
  /** A list of numbers, 1 to `most` of them. */
  | { is: 'levels'; min: number; max: number; most: number }
  /** Some or all of these, each once, in an order. */
  | { is: 'order'; of: readonly string[] }
  | { is: 'groove' }
);

export const number = (min: number, max: number): Member => ({ is: 'number', min, max });
export const whole = (min: number, max: number): Member => ({ is: 'number', min, max, whole: true });
export const choice = (of: readonly string[]): Member => ({ is: 'choice', of });
export const optional = (member: Member): Member => ({ ...member, optional: true });

/** What a new move can go by. */
export interface Surrounding {
  /** Bars of the loop. */
  loopBars: number;
  /** What a groove move plays like. */
  groove: Groove;
}

/** Applies one move to the hits in its scope. The seed is that of the pass; slow curves go on from pass to pass. */
export type ApplyMove<M> = (move: M, work: MoveContext, inScope: ScopeTest, seed: number, slow: SlowReading) => void;

/** Everything that the core knows of a kind of move. The list of them all is moves/all.ts. */
export interface MoveSpec<M extends MoveBase & { kind: string } = Move> {
  kind: M['kind'];
  /** The members of its own, `kind` apart: what each may be. */
  members: { readonly [K in Exclude<keyof M, keyof MoveBase | 'kind'>]-?: Member };
  /** What members are where they are not given: a move that changes nothing, or what most want. */
  plain: Partial<M> & { kind: M['kind'] };
  /** What it starts with where it is added, beside the plain values: something that is heard and fits the part. */
  first?(part: Performable, surrounding: Surrounding): Partial<M>;
  /** What is wrong with members that are each valid: 'member: what'. */
  problem?(move: M): string | null;
  /** The word that seeds of its dice are salted with. */
  salt: string;
  /** How many times as long as for a plain move a hit takes; 1 without it. */
  weight?: number;
  /** It draws at random: it can be rolled again. */
  draws: boolean;
  apply: ApplyMove<M>;
}

/** The spec of a move's kind. @throws Error where the list has none: moves are checked where they come in */
export function specOf(specs: readonly MoveSpec[], kind: string): MoveSpec {
  const spec = specs.find((s) => s.kind === kind);
  if (!spec) throw new Error(`no move is called ${kind}`);
  return spec;
}

/**
 * What a move starts with where it is added: something that is heard, and that fits the part.
 * @example firstMove(humanizeMove, part, { loopBars: 2, groove: hold }) // span 2
 */
export const firstMove = <M extends Move>(spec: MoveSpec<M>, part: Performable, surrounding: Surrounding): M =>
  ({ ...spec.plain, ...spec.first?.(part, surrounding) }) as unknown as M;

/** True where the feel cannot change anything: performing gives the written part, plus nudges. */
export const isIdle = (feel: Feel): boolean => feel.sway === 0 || feel.moves.every((m) => m.on === false);
