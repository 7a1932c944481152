import Joi from 'joi';
import type { BarScope, StepScope } from '@/core/model/feel';
import { MAX_BARS, MOST_ENTRIES, MOST_ROWS } from '@/core/limits';
import { GRIDS } from '@/core/time/grid';

/** Which hits a move touches, and the members that moves of every format share. */

export const LONGEST_CYCLE = MOST_ENTRIES;
const LARGEST_SEED = 0xffffffff;

const bars = Joi.object({
  from: Joi.number().integer().min(1).max(MAX_BARS),
  to: Joi.number().integer().min(1).max(MAX_BARS),
  every: Joi.number().integer().min(1).max(MAX_BARS),
  at: Joi.array().items(Joi.number().integer().min(1).max(MAX_BARS)).min(1).max(LONGEST_CYCLE),
})
  .and('every', 'at')
  .custom((value: BarScope, helpers) => {
    if (value.from !== undefined && value.to !== undefined && value.from > value.to)
      return helpers.message({ custom: 'bars: from is over to' });
    if (value.every !== undefined && value.at?.some((n) => n > (value.every as number)))
      return helpers.message({ custom: 'bars: at is outside its cycle' });
    return value;
  });

const steps = Joi.object({
  grid: Joi.string()
    .valid(...GRIDS)
    .required(),
  of: Joi.number().integer().min(1).max(LONGEST_CYCLE).required(),
  at: Joi.array().items(Joi.number().integer().min(0)).min(1).max(LONGEST_CYCLE).required(),
}).custom((value: StepScope, helpers) =>
  value.at.some((n) => n >= value.of) ? helpers.message({ custom: 'steps: at is outside its cycle' }) : value,
);

export const scope = Joi.object({
  voices: Joi.array().items(Joi.string().max(60)).min(1).max(MOST_ROWS),
  bars,
  steps,
  ghosts: Joi.string().valid('only', 'none'),
});

export const seed = Joi.number().integer().min(0).max(LARGEST_SEED);
export const grid = Joi.string().valid(...GRIDS);
export const between = (low: number, high: number): Joi.NumberSchema => Joi.number().min(low).max(high);

/** What every move has, and its own members. */
export const moveOf = (kind: string, members: Joi.PartialSchemaMap): Joi.ObjectSchema =>
  Joi.object({ kind: Joi.string().valid(kind).required(), on: Joi.boolean(), scope, seed, ...members });

/** A list of moves, each checked by the schema of its kind. */
export const movesOf = (schemas: Readonly<Record<string, Joi.ObjectSchema>>): Joi.Schema =>
  Joi.alternatives().conditional(Joi.ref('.kind'), {
    switch: Object.entries(schemas).map(([kind, schema]) => ({ is: kind, then: schema })),
    otherwise: Joi.object({
      kind: Joi.string()
        .valid(...Object.keys(schemas))
        .required(),
    }).unknown(true),
  });
