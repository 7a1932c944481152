import Joi from 'joi';
import type { KitMap } from '@/core/key-map';
import { MIDI_KEY } from './midi-key';
import { parseJson, validate } from './validate';

/** Kit maps as they come from part files and from files of their own (kit@1): which voice each MIDI key plays. */

export const kitMapSchema = Joi.object({
  name: Joi.string().min(1).max(120).required(),
  voices: Joi.object().pattern(MIDI_KEY, Joi.string().min(1).max(60)).required(),
});

const FORMAT = 'nod-sway/kit@1';
export const KIT_FILE_ENDING = '.nodkit.json';

const fileSchema = kitMapSchema.append({ format: Joi.string().valid(FORMAT).required() }).required();

export const writeKitFile = (kit: KitMap): string => JSON.stringify({ format: FORMAT, name: kit.name, voices: kit.voices }, null, 1);

/** @throws NamedError bad-kit, its details naming each wrong member */
export function readKitFile(text: string): KitMap {
  const { name, voices } = validate<KitMap>(fileSchema, parseJson(text, 'bad-kit'), 'bad-kit');
  return { name, voices };
}
