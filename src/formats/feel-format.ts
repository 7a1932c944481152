import Joi from 'joi';
import { MAX_SWING, MIN_SWING, SWING_DIVISIONS, DEFAULT_SWING, type BarScope, type Feel, type StepScope } from '@/core/feel/feel';
import { GRIDS } from '@/core/time/grid';
import { validate } from './validate';

/** feel@1 as it comes from files, the store and the HTTP API. Unknown members and kinds are errors that name them. */

const MOST_MOVES = 64;
const MOST_BARS = 100_000;
const LONGEST_CYCLE = 4096;

const bars = Joi.object({
  from: Joi.number().integer().min(1).max(MOST_BARS),
  to: Joi.number().integer().min(1).max(MOST_BARS),
  every: Joi.number().integer().min(1).max(MOST_BARS),
  at: Joi.array().items(Joi.number().integer().min(1).max(MOST_BARS)).min(1),
})
  .and('every', 'at')
  .custom((value: BarScope, helpers) => {
    if (value.from !== undefined && value.to !== undefined && value.from > value.to) return helpers.message({ custom: 'bars: from is over to' });
    if (value.every !== undefined && value.at?.some((n) => n > (value.every as number))) return helpers.message({ custom: 'bars: at is outside its cycle' });
    return value;
  });

const steps = Joi.object({
  grid: Joi.string().valid(...GRIDS).required(),
  of: Joi.number().integer().min(1).max(LONGEST_CYCLE).required(),
  at: Joi.array().items(Joi.number().integer().min(0)).min(1).required(),
}).custom((value: StepScope, helpers) => (value.at.some((n) => n >= value.of) ? helpers.message({ custom: 'steps: at is outside its cycle' }) : value));

const scope = Joi.object({
  voices: Joi.array().items(Joi.string().max(60)).min(1),
  bars,
  steps,
  ghosts: Joi.string().valid('only', 'none'),
});

const swing = Joi.object({
  kind: Joi.string().valid('swing').required(),
  on: Joi.boolean(),
  scope,
  division: Joi.string().valid(...SWING_DIVISIONS).default('1/16'),
  percent: Joi.number().min(MIN_SWING).max(MAX_SWING).default(DEFAULT_SWING),
  inverse: Joi.boolean(),
});

/** Each kind of move with its schema: a new kind is one more line. */
const MOVES: Readonly<Record<string, Joi.ObjectSchema>> = { swing };

const move = Joi.alternatives().conditional(Joi.ref('.kind'), {
  switch: Object.entries(MOVES).map(([kind, schema]) => ({ is: kind, then: schema })),
  otherwise: Joi.object({ kind: Joi.string().valid(...Object.keys(MOVES)).required() }).unknown(true),
});

export const feelSchema = Joi.object({
  format: Joi.string().valid('nod-sway/feel@1').required(),
  seed: Joi.number().integer().min(0).max(0xffffffff).default(1),
  sway: Joi.number().min(0).max(1).default(1),
  moves: Joi.array().items(move).max(MOST_MOVES).default([]),
}).required();

/** @throws NamedError bad-feel, its details naming each wrong member */
export const parseFeel = (data: unknown): Feel => validate<Feel>(feelSchema, data, 'bad-feel');
