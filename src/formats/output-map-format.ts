import Joi from 'joi';
import { LONGEST_NAME, MOST_ROWS } from '@/core/limits';
import { TARGET, type OutputMap } from '@/core/model/output-map';
import { LONGEST_VOICE } from '@/core/row-names';
import { migrated } from './migrate';
import { parseJson, validate } from './validate';

const voice = Joi.string().min(1).max(LONGEST_VOICE);
const whole = ({ min, max }: { min: number; max: number }) => Joi.number().integer().min(min).max(max);

/** Each field of a target with its rule. */
const TARGET_RULES: Readonly<Record<keyof OutputMap, Joi.Schema>> = {
  name: Joi.string().min(1).max(LONGEST_NAME).required(),
  keys: Joi.alternatives(
    Joi.object({ kind: Joi.string().valid('hits').required() }),
    Joi.object({ kind: Joi.string().valid('general-midi').required() }),
    Joi.object({
      kind: Joi.string().valid('rows').required(),
      rows: Joi.object().pattern(voice, whole(TARGET.from)).max(MOST_ROWS).required(),
    }),
    Joi.object({ kind: Joi.string().valid('chromatic').required(), from: whole(TARGET.from).required() }),
  ).required(),
  channel: whole(TARGET.channel).required(),
  channels: Joi.object().pattern(voice, whole(TARGET.channel)),
  curve: Joi.object({
    power: Joi.number().min(0.25).max(4).required(),
    floor: whole({ min: 1, max: 126 }).required(),
    ceiling: whole({ min: 2, max: 127 }).required(),
  }).required(),
  offsetMs: Joi.number().min(TARGET.offsetMs.min).max(TARGET.offsetMs.max).required(),
  noteMs: Joi.number().min(TARGET.noteMs.min).max(TARGET.noteMs.max).allow(null).required(),
  tracks: Joi.string().valid('one', 'rows').required(),
  articulation: Joi.string().valid('controllers', 'keys'),
};

export const outputMapSchema = Joi.object(TARGET_RULES);

/** @throws NamedError bad-target, naming the field */
export const parseOutputMap = (data: unknown): OutputMap => validate<OutputMap>(outputMapSchema.required(), data, 'bad-target');

const FORMAT = 'nod-sway/target@2';
export const TARGET_FILE_ENDING = '.nodtarget.json';

export const writeOutputMapFile = (target: OutputMap): string => JSON.stringify({ format: FORMAT, ...target }, null, 1);

/** @throws NamedError bad-target, its details naming each wrong member */
export function readOutputMapFile(text: string): OutputMap {
  const { format: _, ...target } = validate<OutputMap & { format: string }>(
    outputMapSchema.append({ format: Joi.string().valid(FORMAT).required() }).required(),
    migrated('target', parseJson(text, 'bad-target')),
    'bad-target',
  );
  return target;
}
