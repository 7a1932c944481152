import Joi from 'joi';
import { MOST_LEVEL, MOST_OFFSET, type Groove, type GrooveStep, MOST_BEATS, MOST_STEPS_A_BEAT } from '@/core/model/groove';
import { stepCount } from '@/core/groove/steps';
import { MOST_ENTRIES } from '@/core/limits';
import { parseJson, validate } from './validate';

/** groove@1 as it comes from files and inside template moves. */

const step = Joi.object({
  offset: Joi.number().min(-MOST_OFFSET).max(MOST_OFFSET).required(),
  level: Joi.number().min(0).max(MOST_LEVEL).required(),
  n: Joi.number().integer().min(0).default(0),
  spreadMs: Joi.number().min(0),
});

const steps = Joi.array()
  .items(step)
  .min(1)
  .max(MOST_BEATS * MOST_STEPS_A_BEAT);

export const grooveSchema = Joi.object({
  format: Joi.string().valid('nod-sway/groove@1').required(),
  name: Joi.string().min(1).max(120).required(),
  meter: Joi.array()
    .ordered(Joi.number().integer().min(1).max(64).required(), Joi.number().valid(1, 2, 4, 8, 16, 32, 64).required())
    .required(),
  beats: Joi.number().greater(0).max(MOST_BEATS).required(),
  stepsPerBeat: Joi.number().integer().min(1).max(MOST_STEPS_A_BEAT).required(),
  steps: steps.required(),
  voices: Joi.object().pattern(Joi.string().max(60), steps),
  fit: Joi.number().max(1).allow(null),
}).custom((groove: Groove, helpers) => {
  const wanted = stepCount(groove.beats, groove.stepsPerBeat);
  const wrong = [
    ['steps', groove.steps] as const,
    ...Object.entries(groove.voices ?? {}).map(([voice, own]): [string, readonly GrooveStep[]] => [`voices.${voice}`, own]),
  ].find(([, list]) => list.length !== wanted);
  return wrong ? helpers.message({ custom: `${wrong[0]}: ${wrong[1].length} steps, but beats x stepsPerBeat is ${wanted}` }) : groove;
});

/** @throws NamedError bad-groove, its details naming each wrong member */
export const parseGroove = (data: unknown): Groove =>
  validate<Groove>(grooveSchema.required(), data, 'bad-groove', { list: MOST_ENTRIES, members: 256, depth: 5 });

export const GROOVE_FILE_ENDING = '.nodgroove.json';

export const writeGrooveFile = (groove: Groove): string => JSON.stringify(groove, null, 1);

/** @throws NamedError bad-groove */
export const readGrooveFile = (text: string): Groove => parseGroove(parseJson(text, 'bad-groove'));
