import Joi from 'joi';
import { NamedError } from '@/core/errors';
import { compareHits, type Part } from '@/core/part/part';
import { endOfPart } from '@/core/part/part-time';
import { MAX_QUARTERS } from '@/core/smf/import-part';
import { firstHitProblem, LAST_TICK } from './hit-rules';
import { feelSchema } from './feel-format';
import { kitMapSchema } from './kit-format';
import { parseJson, validate } from './validate';

/** part@1 as it comes from files and the store. */

const tick = Joi.number().integer().min(-LAST_TICK).max(LAST_TICK);
const voice = Joi.string().min(1).max(60);

const meter = Joi.object({
  tick: tick.required(),
  numerator: Joi.number().integer().min(1).max(64).required(),
  denominator: Joi.number().valid(1, 2, 4, 8, 16, 32, 64).required(),
  groups: Joi.array().items(Joi.number().integer().min(1)).min(1),
}).custom((value: { numerator: number; groups?: number[] }, helpers) =>
  value.groups && value.groups.reduce((a, b) => a + b, 0) !== value.numerator ? helpers.message({ custom: 'meter: groups do not add up to the numerator' }) : value,
);

const partSchema = Joi.object({
  format: Joi.string().valid('nod-sway/part@1').required(),
  name: Joi.string().min(1).max(200).required(),
  tempo: Joi.array().items(Joi.object({ tick: tick.min(0).required(), microsecondsPerQuarter: Joi.number().greater(0).max(0xffffff).required() })).min(1).required(),
  meter: Joi.array().items(meter).min(1).required(),
  origin: tick.required(),
  bars: Joi.number().integer().min(1).max(MAX_QUARTERS * 16).required(),
  kitMap: kitMapSchema.required(),
  rows: Joi.array().items(Joi.object({ voice: voice.required(), name: Joi.string().min(1).max(40), muted: Joi.boolean(), soloed: Joi.boolean(), locked: Joi.boolean() })).unique('voice').required(),
  hits: Joi.array().required().custom((hits: unknown[], helpers) => {
    const problem = firstHitProblem(hits);
    return problem ? helpers.message({ custom: problem }) : hits;
  }),
  feel: feelSchema,
  source: Joi.object({
    fileName: Joi.string().max(300).allow('').required(),
    ppq: Joi.number().integer().min(1).max(32767).allow(null).required(),
    lanes: Joi.array().items(Joi.object({ track: Joi.number().integer().min(0).required(), channel: Joi.number().integer().min(1).max(16).required() })).min(1).required(),
  }),
});

/** @throws NamedError bad-part, naming the field */
export function parsePart(data: unknown): Part {
  const part = validate<Part>(partSchema, data, 'bad-part');
  const end = endOfPart(part);
  const outside = part.hits.findIndex((h) => h.tick >= end);
  if (outside >= 0) throw new NamedError('bad-part', [{ field: `hits[${outside}].tick`, problem: 'outside the part' }], `The part file is not valid: hits[${outside}] lies outside the part.`);
  const lanes = part.source?.lanes.length ?? 1;
  const stray = part.hits.findIndex((h) => (h.lane ?? 0) >= lanes);
  if (stray >= 0) throw new NamedError('bad-part', [{ field: `hits[${stray}].lane`, problem: 'names no lane of the source' }], `The part file is not valid: hits[${stray}].lane names no lane of the source.`);
  return { ...part, hits: [...part.hits].sort(compareHits) };
}

/** A kept version in a part file. */
export interface FileVersion {
  name: string;
  /** Milliseconds since 1970. */
  at: number;
  part: Part;
}

/** A part file: the part, its kept versions, and the imported song's bytes (Base64) where there are any. */
export interface PartFile {
  part: Part;
  song?: Uint8Array;
  versions?: readonly FileVersion[];
}

export const PART_FILE_ENDING = '.nodsway.json';

export function writePartFile({ part, song, versions = [] }: PartFile): string {
  const kept = versions.map(({ name, at, part: was }) => ({ name, at, part: was }));
  return JSON.stringify({ ...part, ...(kept.length > 0 ? { versions: kept } : {}), ...(song ? { song: toBase64(song) } : {}) });
}

const versionsSchema = Joi.array().items(Joi.object({ name: Joi.string().min(1).max(200).required(), at: Joi.number().integer().min(0).required(), part: Joi.object().required() }));

/** @throws NamedError bad-part */
export function readPartFile(text: string): PartFile {
  const data = parseJson(text, 'bad-part');
  if (typeof data !== 'object' || data === null || Array.isArray(data)) throw new NamedError('bad-part');
  const { song, versions, ...rest } = data as Record<string, unknown>;
  const kept = versions === undefined ? [] : validate<FileVersion[]>(versionsSchema, versions, 'bad-part');
  const part: PartFile = { part: parsePart(rest), ...(kept.length > 0 ? { versions: kept.map((v) => ({ ...v, part: parsePart(v.part) })) } : {}) };
  if (song === undefined) return part;
  if (typeof song !== 'string' || !/^[A-Za-z0-9+/]*={0,2}$/.test(song)) throw new NamedError('bad-part', [{ field: 'song', problem: 'not Base64' }]);
  return { ...part, song: fromBase64(song) };
}

function toBase64(bytes: Uint8Array): string {
  let text = '';
  for (let i = 0; i < bytes.length; i += 0x8000) text += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
  return btoa(text);
}

const fromBase64 = (text: string): Uint8Array => Uint8Array.from(atob(text), (c) => c.charCodeAt(0));
