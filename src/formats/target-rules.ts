import Joi from 'joi';
import { LONGEST_NAME } from '@/core/limits';
import { TARGET, type Target } from '@/core/model/target';
import { LONGEST_VOICE } from '@/core/row-names';
import { kitMapSchema } from './kit-format';

const voice = Joi.string().min(1).max(LONGEST_VOICE);
const whole = ({ min, max }: { min: number; max: number }) => Joi.number().integer().min(min).max(max);

/** Each field of a target with its rule. */
const TARGET_RULES: Readonly<Record<keyof Target, Joi.Schema>> = {
  name: Joi.string().min(1).max(LONGEST_NAME).required(),
  keys: Joi.alternatives(
    Joi.object({ kind: Joi.string().valid('hits').required() }),
    Joi.object({ kind: Joi.string().valid('map').required(), voices: kitMapSchema.extract('voices').required() }),
    Joi.object({ kind: Joi.string().valid('chromatic').required(), from: whole(TARGET.from).required() }),
  ).required(),
  channel: whole(TARGET.channel).required(),
  channels: Joi.object().pattern(voice, whole(TARGET.channel)),
  curve: Joi.object({ power: Joi.number().min(0.25).max(4).required(), floor: whole({ min: 1, max: 126 }).required(), ceiling: whole({ min: 2, max: 127 }).required() }).required(),
  offsetMs: Joi.number().min(TARGET.offsetMs.min).max(TARGET.offsetMs.max).required(),
  noteMs: Joi.number().min(TARGET.noteMs.min).max(TARGET.noteMs.max).allow(null).required(),
  tracks: Joi.string().valid('one', 'rows').required(),
};

export const targetSchema = Joi.object(TARGET_RULES);
