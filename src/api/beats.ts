import Joi from 'joi';
import { findBeats, MOST_STROKES, type BeatReading } from '@/core/beats/find-beats';
import type { FreeStroke } from '@/core/beats/strokes';
import { NamedError } from '@/core/errors';
import { strokesOfPart } from '@/core/free-takes/strokes-of-part';
import { FIELDS } from './fields';
import { answer, partOfFields, readForm, textField, wrongField, type Fields } from './form';

/** So many events take about a megabyte. */
const MAX_EVENTS_BYTES = 4 * 2 ** 20;
const MOST_TAPS = 64;
/** A moment may lie so far from 0, in seconds. */
const FURTHEST = 1e6;

const moment = Joi.number().min(-FURTHEST).max(FURTHEST).required();
const EVENT = Joi.object({
  t: moment,
  key: Joi.number().integer().min(0).max(127).required(),
  velocity: Joi.number().integer().min(1).max(127).required(),
});
const TAPS = Joi.array().items(moment).min(1).max(MOST_TAPS);

function json(text: string, field: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw wrongField(field, 'is not JSON');
  }
}

/** What was played, from `midi` or `events`. */
async function strokesOf(fields: Fields): Promise<FreeStroke[]> {
  const text = await textField(fields, 'events', MAX_EVENTS_BYTES);
  if (text === undefined) return strokesOfPart((await partOfFields(fields)).part);
  if (fields.has('midi')) throw wrongField('events', 'give either midi or events');
  if (fields.has('channels')) throw wrongField('channels', 'is only for midi');
  const events = json(text, 'events');
  if (!Array.isArray(events)) throw wrongField('events', 'must be a list of {t, key, velocity}');
  if (events.length > MOST_STROKES) throw new NamedError('too-many-strokes', { strokes: events.length });
  return events.map((event: unknown, i) => {
    const { error, value } = EVENT.validate(event, { convert: false });
    if (error) throw wrongField('events', `entry ${i}: ${error.message.replace(/"/g, '')}`);
    const { t, key, velocity } = value as { t: number; key: number; velocity: number };
    return { at: t, key, velocity };
  });
}

async function tapsOf(fields: Fields): Promise<number[]> {
  const text = (await textField(fields, 'taps'))?.trim();
  if (text === undefined || text === '') return [];
  const { error, value } = TAPS.validate(json(text, 'taps'), { convert: false });
  if (error) throw wrongField('taps', `must be a list of seconds: ${error.message.replace(/"/g, '')}`);
  const taps = value as number[];
  if (taps.some((tap, i) => i > 0 && tap <= (taps[i - 1] as number))) throw wrongField('taps', 'must rise');
  return taps;
}

const micro = (seconds: number): number => Math.round(seconds * 1e6) / 1e6;
const hundredth = (bpm: number): number => Math.round(bpm * 100) / 100;
const plainly = ({ likelihood, meter, beats, downbeat, bpm }: BeatReading) => ({
  // Rounded down: together they are never over 1.
  likelihood: Math.floor(likelihood * 1e4) / 1e4,
  meter,
  beats: beats.map(micro),
  downbeat,
  bpm: { mean: hundredth(bpm.mean), min: hundredth(bpm.min), max: hundredth(bpm.max) },
});

/** POST /api/beats: what was played without a click, counted in up to three ways. */
export const beats = (request: Request): Promise<Response> =>
  answer(async () => {
    const fields = await readForm(request, FIELDS.beats);
    const readings = findBeats(await strokesOf(fields), { taps: await tapsOf(fields) }) ?? [];
    return Response.json({ readings: readings.map(plainly) });
  });
