import Joi from 'joi';
import { NamedError } from '@/core/errors';
import { LONGEST_NAME } from '@/core/limits';
import { migrated } from './migrate';
import { validate } from './validate';

/**
 * The whole library, or some parts with what they need, as one zip: a list and files of our own kinds, which can also be opened one by one.
 */

export const LIBRARY_ENDING = '.nodlibrary.zip';
/** The list in it. */
export const LIBRARY_LIST = 'library.json';

/** Bytes of all its files, and how many there are: more cannot be counted in such a zip. */
export const LIBRARY_LIMITS = { bytes: 2 ** 32 - 1, files: 65_000 } as const;

/** What it holds. */
export const ENTRY_KINDS = ['part', 'groove', 'feel', 'key map', 'pattern', 'target', 'sound', 'break', 'setting'] as const;
export type EntryKind = (typeof ENTRY_KINDS)[number];

/** One thing in it. Moments are milliseconds since 1970. */
export interface LibraryEntry {
  kind: EntryKind;
  /** What it is known by among its kind. */
  key: string;
  name: string;
  /** Its path in the zip. */
  file: string;
  createdAt?: number;
  updatedAt?: number;
  /** Of a demo part. */
  about?: string;
  tags?: readonly string[];
  /** Of a recording. */
  seconds?: number;
  /** A sound that belongs to no kit. */
  loose?: true;
}

export interface LibraryList {
  format: 'nod-sway/library@1';
  madeAt: number;
  entries: readonly LibraryEntry[];
}

const moment = Joi.number().min(0).max(8.64e15);

const ENTRY_RULES: Readonly<Record<keyof LibraryEntry, Joi.Schema>> = {
  kind: Joi.string()
    .valid(...ENTRY_KINDS)
    .required(),
  key: Joi.string().min(1).max(LONGEST_NAME).required(),
  name: Joi.string().min(1).max(LONGEST_NAME).required(),
  file: Joi.string().min(1).max(600).required(),
  createdAt: moment,
  updatedAt: moment,
  about: Joi.string().max(LONGEST_NAME),
  tags: Joi.array().items(Joi.string().min(1).max(LONGEST_NAME)).max(200),
  seconds: Joi.number().min(0).max(1e6),
  loose: Joi.boolean().valid(true),
};

const listSchema = Joi.object({
  format: Joi.string().valid('nod-sway/library@1').required(),
  madeAt: moment.required(),
  entries: Joi.array().items(Joi.object(ENTRY_RULES)).required(),
});

const wrong = (problem: string): NamedError => new NamedError('bad-library', { problem }, `The library file is not valid: ${problem}.`);

/**
 * Checks the list of a library against the files that came with it.
 * @throws NamedError bad-library, newer-format, library-too-large
 */
export function readLibraryList(data: unknown, files: ReadonlySet<string>): LibraryList {
  const entries = (data as { entries?: unknown } | null)?.entries;
  if (Array.isArray(entries) && entries.length > LIBRARY_LIMITS.files)
    throw new NamedError('library-too-large', { entries: entries.length });
  const list = validate<LibraryList>(listSchema, migrated('library', data), 'bad-library');
  const seen = new Set<string>();
  for (const { kind, key, file } of list.entries) {
    const id = `${kind} ${key}`;
    if (seen.has(id)) throw wrong(`${id.slice(0, 80)} is in it twice`);
    seen.add(id);
    if (!files.has(file)) throw wrong(`it names ${file.slice(0, 80)}, which is not in it`);
  }
  return list;
}
