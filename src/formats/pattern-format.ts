import Joi from 'joi';
import { NamedError } from '@/core/errors';
import { LONGEST_NAME } from '@/core/limits';
import type { HitPattern } from '@/core/model/pattern';
import { LONGEST_VOICE } from '@/core/row-names';
import { firstHitProblem, LAST_TICK } from './hit-rules';
import { migrated } from './migrate';
import { parseJson, validate } from './validate';

/** pattern@2 as it comes from files and the store. */

export const PATTERN_FILE_ENDING = '.nodpattern.json';
const MOST_PATTERN_HITS = 20_000;

const patternSchema = Joi.object({
  format: Joi.string().valid('nod-sway/pattern@2').required(),
  name: Joi.string().min(1).max(LONGEST_NAME).required(),
  meter: Joi.array()
    .ordered(Joi.number().integer().min(1).max(64).required(), Joi.number().valid(1, 2, 4, 8, 16, 32, 64).required())
    .required(),
  length: Joi.number().integer().min(1).max(LAST_TICK).required(),
  rows: Joi.object().pattern(Joi.string().max(LONGEST_VOICE), Joi.string().min(1).max(LONGEST_NAME)).max(512).required(),
  hits: Joi.array().min(1).required(),
});

/** @throws NamedError bad-pattern, newer-format */
export function parsePattern(data: unknown): HitPattern {
  const list = (data as { hits?: unknown } | null)?.hits;
  if (Array.isArray(list) && list.length > MOST_PATTERN_HITS)
    throw new NamedError('bad-pattern', [{ field: 'hits', problem: `more than ${MOST_PATTERN_HITS}` }]);
  const pattern = validate<HitPattern>(patternSchema, migrated('pattern', data), 'bad-pattern');
  const problem = firstHitProblem(pattern.hits.map((hit, i) => ({ ...hit, id: `p${i}` })));
  if (problem) throw new NamedError('bad-pattern', [{ field: 'hits', problem }], `The pattern file is not valid: ${problem}.`);
  return pattern;
}

export const writePatternFile = (pattern: HitPattern): string => JSON.stringify(pattern, null, 1);

/** @throws NamedError bad-pattern */
export const readPatternFile = (text: string): HitPattern => parsePattern(parseJson(text, 'bad-pattern'));
