import { partOfFile } from '@/batch/perform-file';
import { isNamedError, type ErrorCode } from '@/core/errors';
import { LARGEST_SOUND } from '@/core/limits';
import { findOrigin } from '@/core/homes/origin';
import { setOrigin } from '@/core/commands/settings';
import type { Part } from '@/core/model/part';
import { MAX_FILE_BYTES, readSmf, type SmfFile } from '@/core/smf/read';
import { ticks, TICKS_PER_QUARTER } from '@/core/units';
import { readPartFile } from '@/formats/part-file';
import { checkAmount } from './amount';
import { HttpError } from './http-error';

/** Fields of a multipart request, and the answers they lead to. Stateless: nothing of a request is kept. */

const MAX_JSON_BYTES = 256 * 1024;
/** So much of what was sent is repeated in an error. */
const LONGEST_ECHO = 100;
/** Room for the parts around the file. */
const ROOM_BYTES = 2 * MAX_JSON_BYTES;
/** Part files may be so large. */
const MAX_PART_BYTES = 16 * 2 ** 20;
/** Sound may be so large. */
const MAX_SOUND_BYTES = LARGEST_SOUND;

/** More parts than any request has. */
const MOST_FORM_PARTS = 32;

export const wrongField = (field: string, problem: string): HttpError =>
  new HttpError(400, 'bad-field', `${field}: ${problem}`, { [field]: problem });

export type Fields = ReadonlyMap<string, string | File>;

/** The content type of a request. @throws HttpError 415 where it is not multipart */
export function formType(request: Request): string {
  const type = request.headers.get('content-type') ?? '';
  if (!/^multipart\/form-data\b/i.test(type)) throw new HttpError(415, 'not-multipart', 'Send the fields as multipart/form-data.');
  return type;
}

/** @throws HttpError 415 not multipart, 413 too large, 400 unreadable or an unknown field */
export async function readForm(request: Request, known: readonly string[]): Promise<Fields> {
  const type = formType(request);
  const form = await formOf((await bodyOf(request, known)).bytes, type);
  const fields = new Map<string, string | File>();
  for (const [name, value] of form.entries()) {
    if (!known.includes(name)) throw wrongField(name.slice(0, LONGEST_ECHO), `unknown field; known are ${known.join(', ')}`);
    if (fields.has(name)) throw wrongField(name, 'given twice');
    fields.set(name, value);
  }
  return fields;
}

const tooLarge = (most: number): HttpError =>
  new HttpError(413, 'file-too-large', `The request is larger than ${Math.floor(most / 2 ** 20)} MiB.`);
const unreadable = (): HttpError => new HttpError(400, 'bad-form', 'The multipart body cannot be read.');

/** Who counts what all requests hold together. */
export interface Held {
  /** @throws HttpError 503 where so much more is too much */
  check(place: 'bodies', more: number): void;
  hold(place: 'bodies', bytes: number): () => void;
}

/**
 * The body, counted while it comes: one that passes its limit is left at once, whatever it said of its length.
 * @param known the fields of the call, which say how large it may be
 * @param waiting counts what all requests hold together, until `release`
 */
export async function bodyOf(request: Request, known: readonly string[], waiting?: Held): Promise<{ bytes: Buffer; release: () => void }> {
  const most = (known.includes('audio') ? MAX_SOUND_BYTES : known.includes('part') ? MAX_PART_BYTES : MAX_FILE_BYTES) + ROOM_BYTES;
  if (Number(request.headers.get('content-length') ?? 0) > most) throw tooLarge(most);
  const chunks: Uint8Array[] = [];
  let length = 0;
  const reader = request.body?.getReader();
  if (!reader) throw unreadable();
  const releases: (() => void)[] = [];
  const release = () => releases.splice(0).forEach((r) => r());
  try {
    for (let next = await reader.read(); !next.done; next = await reader.read()) {
      length += next.value.length;
      if (length > most) throw tooLarge(most);
      waiting?.check('bodies', next.value.length);
      if (waiting) releases.push(waiting.hold('bodies', next.value.length));
      chunks.push(next.value);
    }
  } catch (e) {
    // The rest is not wanted; that it cannot be called off changes nothing.
    void reader.cancel().catch(() => undefined);
    release();
    throw e instanceof HttpError ? e : unreadable();
  }
  return { bytes: Buffer.concat(chunks, length), release };
}

async function formOf(body: Buffer, contentType: string): Promise<FormData> {
  const boundary = /boundary="?([^";,]{1,70})"?/i.exec(contentType)?.[1];
  if (boundary === undefined) throw unreadable();
  let parts = 0;
  for (let at = body.indexOf(`--${boundary}`); at >= 0; at = body.indexOf(`--${boundary}`, at + 2 + boundary.length))
    if (++parts > MOST_FORM_PARTS) throw unreadable();
  try {
    return await new Response(body as Uint8Array<ArrayBuffer>, { headers: { 'content-type': contentType } }).formData();
  } catch {
    throw unreadable();
  }
}

export async function midiField(fields: Fields): Promise<SmfFile> {
  const value = fields.get('midi');
  if (value === undefined) throw wrongField('midi', 'a MIDI file is required');
  if (typeof value === 'string') throw wrongField('midi', 'must be a file');
  if (value.size > MAX_FILE_BYTES) throw new HttpError(413, 'file-too-large', 'The MIDI file is larger than 8 MiB.', { bytes: value.size });
  return readSmf(new Uint8Array(await value.arrayBuffer()));
}

/** The WAV file in `audio`. */
export async function soundField(fields: Fields): Promise<Uint8Array> {
  const value = fields.get('audio');
  if (value === undefined) throw wrongField('audio', 'a WAV file is required');
  if (typeof value === 'string') throw wrongField('audio', 'must be a file');
  if (value.size > MAX_SOUND_BYTES) throw new HttpError(413, 'sound-too-large', 'The sound is larger than 64 MiB.', { bytes: value.size });
  return new Uint8Array(await value.arrayBuffer());
}

/** A text field, sent as text or as a small file. @param most bytes */
export async function textField(fields: Fields, name: string, most = MAX_JSON_BYTES): Promise<string | undefined> {
  const value = fields.get(name);
  if (value === undefined) return undefined;
  const size = typeof value === 'string' ? Buffer.byteLength(value) : value.size;
  if (size > most)
    throw new HttpError(413, 'json-too-large', `${name} is larger than ${Math.floor(most / 1024)} KiB.`, { field: name, bytes: size });
  return typeof value === 'string' ? value : value.text();
}

export async function choiceField<T extends string>(fields: Fields, name: string, choices: readonly T[]): Promise<T | undefined> {
  const text = (await textField(fields, name))?.trim();
  if (text === undefined || text === '') return undefined;
  if (!(choices as readonly string[]).includes(text)) throw wrongField(name, `must be one of ${choices.join(', ')}`);
  return text as T;
}

export async function wholeField(fields: Fields, name: string): Promise<number | undefined> {
  const text = (await textField(fields, name))?.trim();
  if (text === undefined || text === '') return undefined;
  if (!/^[+-]?\d{1,12}$/.test(text)) throw wrongField(name, 'must be a whole number');
  return Number(text);
}

/** A plain decimal number. */
export async function numberField(fields: Fields, name: string): Promise<number | undefined> {
  const text = (await textField(fields, name))?.trim();
  if (text === undefined || text === '') return undefined;
  if (!/^[+-]?(\d{1,12}(\.\d{0,12})?|\.\d{1,12})$/.test(text)) throw wrongField(name, 'must be a number');
  return Number(text);
}

async function channelsField(fields: Fields): Promise<number[] | undefined> {
  const text = (await textField(fields, 'channels'))?.trim();
  if (text === undefined || text === '') return undefined;
  const channels = text.split(',').map((c) => c.trim());
  if (!channels.every((c) => /^\d{1,2}$/.test(c) && Number(c) >= 1 && Number(c) <= 16))
    throw wrongField('channels', 'must be a comma list of channels from 1 to 16');
  return channels.map(Number);
}

/** The part file in `part`, with the song that came along. */
async function partField(fields: Fields): Promise<{ part: Part; file: SmfFile | null } | undefined> {
  const value = fields.get('part');
  if (value === undefined) return undefined;
  if (fields.has('midi')) throw wrongField('part', 'give either midi or part');
  if (fields.has('channels')) throw wrongField('channels', 'is only for midi');
  const size = typeof value === 'string' ? Buffer.byteLength(value) : value.size;
  if (size > MAX_PART_BYTES) throw new HttpError(413, 'part-too-large', 'The part file is larger than 16 MiB.', { bytes: size });
  const { part, song } = readPartFile(typeof value === 'string' ? value : await value.text());
  return { part, file: song ? readSmf(song) : null };
}

/**
 * The part that `midi`, `channels` and `origin` describe, or the one in `part`; and the file that it came from.
 * @param read gives the hits of a MIDI file their homes, once the origin is settled
 */
export async function partOfFields(fields: Fields, read: (part: Part) => Part = (p) => p): Promise<{ part: Part; file: SmfFile | null }> {
  const channels = await channelsField(fields);
  const given = (await textField(fields, 'origin'))?.trim();
  const origin = given || '0';
  if (origin !== 'auto' && !/^[+-]?\d{1,12}$/.test(origin)) throw wrongField('origin', 'must be a whole number of ticks, or auto');
  const whole = await partField(fields);
  if (whole) {
    const part = given ? withOrigin(whole.part, origin) : whole.part;
    checkAmount(part);
    return { ...whole, part };
  }
  const file = await midiField(fields);
  return { file, part: read(withOrigin(partOfFile(file, 'part', channels), origin)) };
}

/** @throws HttpError 400 */
function withOrigin(part: Part, origin: string): Part {
  if (origin === 'auto') return setOrigin(part, findOrigin(part).offset);
  const perTick = TICKS_PER_QUARTER / (part.source?.ppq ?? TICKS_PER_QUARTER);
  const moved = Math.round(Number(origin) * perTick);
  if (Math.abs(moved) > 1e6 * TICKS_PER_QUARTER) throw wrongField('origin', 'is too far away');
  return setOrigin(part, ticks(moved));
}

/** What of the core's errors the request itself is to blame for; the rest are files that cannot be worked on. */
const STATUS: Partial<Record<ErrorCode, number>> = {
  'bad-feel': 400,
  'bad-part': 400,
  'newer-format': 400,
  'bad-field': 400,
  'bad-resolution': 400,
  'file-too-large': 413,
};

/** Runs a handler and turns every error into an answer: 4xx with code and message. */
export async function answer(run: () => Promise<Response>): Promise<Response> {
  try {
    return await run();
  } catch (e) {
    if (e instanceof HttpError) return errorResponse(e.status, e.code, e.message, e.details, e.headers);
    if (isNamedError(e)) return errorResponse(STATUS[e.code] ?? 422, e.code, e.message, e.details);
    // Nothing that a request holds should lead here; if it does, the file is named as the cause, since the rest was checked.
    console.error(e);
    return errorResponse(422, 'unreadable', 'The request could not be processed.');
  }
}

const errorResponse = (
  status: number,
  code: string,
  message: string,
  details?: unknown,
  headers: Readonly<Record<string, string>> = {},
): Response => Response.json({ error: { code, message, ...(details === undefined ? {} : { details }) } }, { status, headers });
