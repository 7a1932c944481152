import Joi from 'joi';
import { LAST_TICK } from './hit-rules';

/** A change of meter: groups have to add up. */
export const meterSchema = Joi.object({
  tick: Joi.number().integer().min(-LAST_TICK).max(LAST_TICK).required(),
  numerator: Joi.number().integer().min(1).max(64).required(),
  denominator: Joi.number().valid(1, 2, 4, 8, 16, 32, 64).required(),
  groups: Joi.array().items(Joi.number().integer().min(1)).min(1).max(64),
}).custom((value: { numerator: number; groups?: number[] }, helpers) =>
  value.groups && value.groups.reduce((a, b) => a + b, 0) !== value.numerator
    ? helpers.message({ custom: 'meter: groups do not add up to the numerator' })
    : value,
);
