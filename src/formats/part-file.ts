import Joi from 'joi';
import { NamedError } from '@/core/errors';
import { LONGEST_NAME, MOST_HITS, MOST_METERS, MOST_ROWS, MOST_TEMPOS } from '@/core/limits';
import type { Part } from '@/core/model/part';
import { readSmf } from '@/core/smf/read';
import { parsePart } from './part-format';
import { readTakes, type FileTake } from './take-rules';
import { parseJson, validate } from './validate';
import { withOrigins, type WithOrigin } from './version-origin';

/** A kept version in a part file. */
export interface FileVersion extends WithOrigin {
  /** Milliseconds since 1970. */
  at: number;
  part: Part;
}

/** An idea of the part: some of its bars, edited by themselves. */
export interface FileIdea {
  /** A to P. */
  letter: string;
  /** How many bars it was copied from. */
  bars: number;
  part: Part;
}

/** A part file: the part, its kept versions, its takes, its ideas, and the imported song's bytes (Base64) where there are any. */
export interface PartFile {
  part: Part;
  song?: Uint8Array;
  versions?: readonly FileVersion[];
  takes?: readonly FileTake[];
  ideas?: readonly FileIdea[];
}

export const PART_FILE_ENDING = '.nodsway.json';

export function writePartFile({ part: whole, song, versions = [], takes = [], ideas = [] }: PartFile): string {
  // What was deleted stays behind.
  const { deletedTakes: _, ...part } = whole;
  const kept = versions.map(({ name, at, part: was, origin }) => ({ name, at, ...(origin ? { origin } : {}), part: was }));
  const beside = ideas.map(({ letter, bars, part: idea }) => ({ letter, bars, part: idea }));
  return JSON.stringify({
    ...part,
    ...(kept.length > 0 ? { versions: kept } : {}),
    ...(takes.length > 0 ? { takes } : {}),
    ...(beside.length > 0 ? { ideas: beside } : {}),
    ...(song ? { song: toBase64(song) } : {}),
  });
}

/** The last moment that a date can tell, in milliseconds since 1970. */
const LAST_DATE = 8.64e15;
const MOST_VERSIONS = 1000;

const versionsSchema = Joi.array()
  .items(
    Joi.object({
      name: Joi.string().min(1).max(LONGEST_NAME).required(),
      at: Joi.number().integer().min(0).max(LAST_DATE).required(),
      origin: Joi.string().valid('import'),
      part: Joi.object().unknown(true).required(),
    }),
  )
  .max(MOST_VERSIONS);

const ideasSchema = Joi.array()
  .items(
    Joi.object({
      letter: Joi.string()
        .pattern(/^[A-P]$/)
        .required(),
      bars: Joi.number().integer().min(1).max(1_000_000).required(),
      part: Joi.object().unknown(true).required(),
    }),
  )
  .max(16)
  .unique('letter');

/** @throws NamedError bad-part */
export function readPartFile(text: string): PartFile {
  const data = parseJson(text, 'bad-part');
  if (typeof data !== 'object' || data === null || Array.isArray(data)) throw new NamedError('bad-part');
  const { song, versions, takes, ideas, ...rest } = data as Record<string, unknown>;
  checkLengths(rest);
  const kept = versions === undefined ? [] : withOrigins(validate<FileVersion[]>(versionsSchema, versions, 'bad-part'));
  const part: PartFile = {
    part: parsePart(rest),
    ...(kept.length > 0 ? { versions: kept.map((v) => (checkLengths(v.part), { ...v, part: parsePart(v.part) })) } : {}),
  };
  if (takes !== undefined) {
    const played = readTakes(takes);
    if (played.length > 0) part.takes = played;
  }
  if (ideas !== undefined) {
    const beside = validate<FileIdea[]>(ideasSchema, ideas, 'bad-part');
    if (beside.length > 0) part.ideas = beside.map((i) => (checkLengths(i.part), { ...i, part: parsePart(i.part) }));
  }
  if (song === undefined) return part;
  if (typeof song !== 'string' || !/^[A-Za-z0-9+/]*={0,2}$/.test(song))
    throw new NamedError('bad-part', [{ field: 'song', problem: 'not Base64' }]);
  const bytes = fromBase64(song);
  checkSong(bytes, part.part);
  return { ...part, song: bytes };
}

/** The song has to be one, and to have the tracks that the part came from: otherwise it could never be exported. */
function checkSong(bytes: Uint8Array, { source }: Part) {
  const wrong = (problem: string): NamedError =>
    new NamedError('bad-part', [{ field: 'song', problem }], `The part file is not valid: its song ${problem}.`);
  if (!source) throw wrong('belongs to no part: the part names no source');
  let tracks: number;
  try {
    tracks = readSmf(bytes).tracks.length;
  } catch {
    throw wrong('is not a standard MIDI file');
  }
  if (source.lanes.some((l) => l.track >= tracks)) throw wrong('lacks a track that the part came from');
}

function toBase64(bytes: Uint8Array): string {
  let text = '';
  for (let i = 0; i < bytes.length; i += 0x8000) text += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
  return btoa(text);
}

function fromBase64(text: string): Uint8Array {
  const letters = atob(text);
  const bytes = new Uint8Array(letters.length);
  for (let i = 0; i < letters.length; i++) bytes[i] = letters.charCodeAt(i);
  return bytes;
}

const tooLong = (field: string, n: number, most: number): NamedError =>
  new NamedError(
    'bad-part',
    [{ field, problem: `${n} are too many, ${most} are allowed` }],
    `The part file is not valid: ${field}: ${n} are too many, ${most} are allowed.`,
  );

/** Lists are counted before anything looks at their entries: a check of a million would hold the page. */
const MOST_OF: Readonly<Record<string, number>> = { hits: MOST_HITS, tempo: MOST_TEMPOS, meter: MOST_METERS, rows: MOST_ROWS };

/** @throws NamedError bad-part, naming the list */
function checkLengths(data: unknown) {
  if (typeof data !== 'object' || data === null) return;
  for (const [field, most] of Object.entries(MOST_OF)) {
    const list = (data as Record<string, unknown>)[field];
    if (Array.isArray(list) && list.length > most) throw tooLong(field, list.length, most);
  }
}
