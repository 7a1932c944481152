import Joi from 'joi';
import { NamedError } from '@/core/errors';
import { compareHits, type Hit, type Part } from '@/core/part/part';
import { endOfPart } from '@/core/part/part-time';
import { MAX_NUDGE_MS } from '@/core/part/commands/hits';
import { MAX_QUARTERS } from '@/core/smf/import-part';
import { TICKS_PER_QUARTER } from '@/core/units';
import { QUALITY, type Quality } from '@/core/shaping/qualities';
import { feelSchema } from './feel-format';
import { kitMapSchema } from './kit-format';
import { parseJson, validate } from './validate';

/** part@1 as it comes from files and the store. */

const LAST_TICK = MAX_QUARTERS * TICKS_PER_QUARTER;
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

const isWhole = (n: unknown, low: number, high: number): boolean => Number.isInteger(n) && (n as number) >= low && (n as number) <= high;
const isText = (s: unknown): boolean => typeof s === 'string' && s.length > 0 && s.length <= 120;

const isFlag = (v: unknown): boolean => v === undefined || typeof v === 'boolean';
const isWithin = (v: unknown, q: Quality): boolean => v === undefined || (Number.isFinite(v) && (v as number) >= q.min && (v as number) <= q.max && (q.digits > 0 || Number.isInteger(v)));

/** Each member of a hit with its rule. A plain loop: a schema for each of 12,000 hits would hold up opening a part noticeably. */
const HIT_RULES: Readonly<Record<keyof Hit, (v: unknown) => boolean>> = {
  id: isText,
  voice: isText,
  key: (v) => isWhole(v, 0, 127),
  tick: (v) => isWhole(v, -LAST_TICK, LAST_TICK),
  length: (v) => isWhole(v, 0, LAST_TICK),
  velocity: (v) => isWhole(v, 1, 127),
  ghost: isFlag,
  choke: isFlag,
  locked: isFlag,
  alone: isFlag,
  pan: (v) => isWithin(v, QUALITY.pan),
  pitch: (v) => isWithin(v, QUALITY.pitch),
  brightness: (v) => isWithin(v, QUALITY.brightness),
  nudge: (v) => v === undefined || isNudge(v),
  home: (v) => v === undefined || isWhole(v, -LAST_TICK, LAST_TICK),
  lane: (v) => v === undefined || isWhole(v, 0, 4096),
};

function isNudge(v: unknown): boolean {
  const n = v as { ms?: unknown; velocity?: unknown } | null;
  return typeof n === 'object' && n !== null && Number.isFinite(n.ms) && Math.abs(n.ms as number) <= MAX_NUDGE_MS && isWhole(n.velocity, -126, 126);
}

function firstHitProblem(hits: readonly unknown[]): string | null {
  const ids = new Set<unknown>();
  for (let i = 0; i < hits.length; i++) {
    const hit = hits[i] as Record<string, unknown> | null;
    if (typeof hit !== 'object' || hit === null) return `hits[${i}] is not a hit`;
    for (const [name, rule] of Object.entries(HIT_RULES)) if (!rule(hit[name])) return `hits[${i}].${name} is missing or out of range`;
    for (const name of Object.keys(hit)) if (!(name in HIT_RULES)) return `hits[${i}].${name} is not allowed`;
    if (ids.has(hit.id)) return `hits[${i}].id is used twice`;
    ids.add(hit.id);
  }
  return null;
}

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

/** A part file: the part, and the imported song's bytes (Base64) where there are any. */
export interface PartFile {
  part: Part;
  song?: Uint8Array;
}

export const PART_FILE_ENDING = '.nodsway.json';

export function writePartFile({ part, song }: PartFile): string {
  return JSON.stringify(song ? { ...part, song: toBase64(song) } : part);
}

/** @throws NamedError bad-part */
export function readPartFile(text: string): PartFile {
  const data = parseJson(text, 'bad-part');
  if (typeof data !== 'object' || data === null || Array.isArray(data)) throw new NamedError('bad-part');
  const { song, ...rest } = data as Record<string, unknown>;
  const part = parsePart(rest);
  if (song === undefined) return { part };
  if (typeof song !== 'string' || !/^[A-Za-z0-9+/]*={0,2}$/.test(song)) throw new NamedError('bad-part', [{ field: 'song', problem: 'not Base64' }]);
  return { part, song: fromBase64(song) };
}

function toBase64(bytes: Uint8Array): string {
  let text = '';
  for (let i = 0; i < bytes.length; i += 0x8000) text += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
  return btoa(text);
}

const fromBase64 = (text: string): Uint8Array => Uint8Array.from(atob(text), (c) => c.charCodeAt(0));
