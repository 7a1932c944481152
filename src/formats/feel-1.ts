import Joi from 'joi';
import { MOST_MOVES, type AccentsMove, type Move, type Scope } from '@/core/model/feel';
import { isTriplet, type GridName } from '@/core/time/grid';
import { allRowsOf } from '@/core/row-names';
import { grooveSchema } from './groove-format';
import { between, grid, LONGEST_CYCLE, moveOf, movesOf, seed } from './scope-schema';

/** feel@1 as it was: checked with its own names and first values, then told in those of feel@2. Nothing here changes any more. */

const GROUPS = ['ride-and-hats', 'kick', 'snare', 'clap', 'toms', 'crash', 'others'] as const;

const MOVES: Readonly<Record<string, Joi.ObjectSchema>> = {
  tighten: moveOf('tighten', {
    grid: grid.default('1/16'),
    strength: between(0, 1).default(0.65),
    window: between(0, 1).default(0.6),
    keepMs: between(0, 50).default(0),
    swingPercent: between(25, 80).default(50),
  }).custom((m: { grid: GridName; swingPercent: number }, helpers) =>
    isTriplet(m.grid) && m.swingPercent !== 50 ? helpers.message({ custom: 'swingPercent: triplet grids are straight, 50 only' }) : m,
  ),
  swing: moveOf('swing', {
    division: Joi.string().valid('1/8', '1/16', '1/32').default('1/16'),
    percent: between(25, 80).default(56),
    inverse: Joi.boolean(),
  }),
  template: moveOf('template', { groove: grooveSchema.required(), lean: between(0, 1.5).default(1), level: between(0, 1.5).default(1) }),
  lay: moveOf('lay', { ms: between(-80, 80).default(0) }),
  drift: moveOf('drift', {
    timingMs: between(0, 40).default(5),
    velocityPercent: between(0, 40).default(5),
    color: between(0, 1).default(0.7),
    anchor: between(0, 1).default(0.5),
  }),
  spread: moveOf('spread', {
    ms: between(0, 30).default(5),
    order: Joi.array()
      .items(Joi.string().valid(...GROUPS))
      .min(1)
      .unique()
      .default([...GROUPS]),
  }),
  accents: moveOf('accents', {
    grid: grid.default('1/16'),
    levels: Joi.array().items(between(0, 2)).min(1).max(LONGEST_CYCLE).default([1]),
    depth: between(0, 1).default(1),
    pivot: between(1, 127),
    contrast: between(0, 3).default(1),
    scale: between(0, 2).default(1),
    add: between(-127, 127).default(0),
    jitter: between(0, 40).default(0),
    floor: between(1, 127).default(1),
    ceiling: between(1, 127).default(127),
  }).custom((m: AccentsMove, helpers) => (m.floor > m.ceiling ? helpers.message({ custom: 'floor: is over ceiling' }) : m)),
};

export const feel1Schema = Joi.object({
  format: Joi.string().valid('nod-sway/feel@1').required(),
  seed: seed.default(1),
  sway: between(0, 1).default(1),
  moves: Joi.array().items(movesOf(MOVES)).max(MOST_MOVES).default([]),
}).required();

export interface Feel1 {
  seed: number;
  sway: number;
  moves: readonly Record<string, unknown>[];
}

const KINDS: Readonly<Record<string, string>> = { tighten: 'quantize', template: 'groove', drift: 'humanize', spread: 'apart' };
const MEMBERS: Readonly<Record<string, string>> = { window: 'outer', keepMs: 'innerMs', color: 'memory' };
/** What feel@1 had no member for. */
const ADDED: Readonly<Record<string, Record<string, unknown>>> = { humanize: { span: 4 } };

/** A voice was one row: what named it means all of its rows. */
const scopeOf1 = (scope: unknown): { scope?: Scope } => {
  const { voices, ...rest } = (scope ?? {}) as Scope;
  return voices ? { scope: { ...rest, voices: voices.map(allRowsOf) } } : {};
};

/** A valid feel@1 in the words of feel@2: it means and sounds the same. */
export function feelOf1({ seed: seeded, sway, moves }: Feel1): Record<string, unknown> {
  return {
    format: 'nod-sway/feel@2',
    seed: seeded,
    sway,
    moves: moves.map((move): Move => {
      const kind = KINDS[String(move.kind)] ?? String(move.kind);
      const members = Object.entries(move).map(([name, value]) => [MEMBERS[name] ?? name, value] as const);
      return { ...Object.fromEntries(members), kind, ...ADDED[kind], ...scopeOf1(move.scope) } as unknown as Move;
    }),
  };
}
