import Joi from 'joi';
import { NamedError } from '@/core/errors';
import { LONGEST_NAME, MOST_METERS, MOST_TEMPOS } from '@/core/limits';
import type { Guards, HatSettings, TakeEvent, Take } from '@/core/model/take';
import { LONGEST_QUARTER, SHORTEST_QUARTER } from '@/core/time/tempo-map';
import type { VelocityCurve } from '@/core/velocity-curve';
import { LAST_TICK } from './hit-rules';
import { meterSchema } from './meter-rules';
import { inTimeOrder } from './time-order';
import { MIDI_KEY } from './midi-key';
import { validate } from './validate';

/** Takes as they come along in part files. */

/** A take with what was played. */
export interface FileTake {
  take: Take;
  events: readonly TakeEvent[];
}

const MOST_TAKES = 500;
/** Of all takes together: some hours of playing. */
const MOST_EVENTS = 400_000;

const tick = Joi.number().integer().min(-LAST_TICK).max(LAST_TICK);
const key = Joi.number().integer().min(0).max(127);

const CURVE_RULES: Readonly<Record<keyof VelocityCurve, Joi.Schema>> = {
  power: Joi.number().min(0.25).max(4).required(),
  floor: Joi.number().min(1).max(512).required(),
  ceiling: Joi.number().min(1).max(512).required(),
};
export const curveSchema = Joi.object(CURVE_RULES);
const GUARD_RULES: Readonly<Record<keyof Guards, Joi.Schema>> = {
  below: Joi.number().min(1).max(127).required(),
  doubleMs: Joi.number().min(0).max(1000).required(),
  crosstalk: Joi.object().pattern(MIDI_KEY, Joi.number().min(1).max(127)),
};
export const guardsSchema = Joi.object(GUARD_RULES);
const HAT_RULES: Readonly<Record<keyof HatSettings, Joi.Schema>> = {
  closedFrom: key.required(),
  openBelow: key.required(),
  turned: Joi.boolean(),
};
export const hatSchema = Joi.object(HAT_RULES);

/** Each member of a take with its rule. */
const TAKE_RULES: Readonly<Record<keyof Take, Joi.Schema>> = {
  id: Joi.string().min(1).max(60).required(),
  name: Joi.string().min(1).max(LONGEST_NAME).required(),
  recordedAt: Joi.number().min(0).max(8.64e15).required(),
  input: Joi.string().max(LONGEST_NAME).allow('').required(),
  tempo: Joi.array()
    .items(
      Joi.object({
        tick: tick.min(0).required(),
        microsecondsPerQuarter: Joi.number().min(SHORTEST_QUARTER).max(LONGEST_QUARTER).required(),
      }),
    )
    .min(1)
    .max(MOST_TEMPOS)
    .required()
    .custom(inTimeOrder),
  meter: Joi.array().items(meterSchema).min(1).max(MOST_METERS).required().custom(inTimeOrder),
  origin: tick.required(),
  start: tick.required(),
  end: tick.greater(Joi.ref('start')).required(),
  latencyMs: Joi.number().min(-1000).max(2000).required(),
  curve: curveSchema.required(),
  guards: guardsSchema.required(),
  curves: Joi.object().pattern(MIDI_KEY, curveSchema),
  hat: hatSchema,
  pads: Joi.object().pattern(MIDI_KEY, key),
  pieces: Joi.string().min(1).max(60),
  free: Joi.boolean().valid(true),
  dropped: Joi.array().items(Joi.number().integer().min(0)).max(100_000),
  stalls: Joi.array()
    .items(Joi.object({ from: Joi.number().min(-1e7).max(1e7).required(), to: Joi.number().min(-1e7).max(1e7).required() }))
    .max(1000),
  passes: Joi.number().integer().min(0).max(1_000_000).required(),
  complete: Joi.boolean().required(),
};

const takesSchema = Joi.array()
  .items(
    Joi.object({
      take: Joi.object(TAKE_RULES).required(),
      events: Joi.array()
        .required()
        .custom((events: unknown[], helpers) =>
          events.every(isEvent) ? events : helpers.message({ custom: `events[${events.findIndex((e) => !isEvent(e))}] is no event` }),
        ),
    }),
  )
  .max(MOST_TAKES)
  .unique((a: Partial<FileTake> | null, b: Partial<FileTake> | null) => a?.take?.id !== undefined && a.take.id === b?.take?.id);

const KINDS: readonly unknown[] = ['note', 'off', 'pedal', 'pressure', 'position'] satisfies readonly TakeEvent['kind'][];
const isWhole = (n: unknown, low: number, high: number): boolean => Number.isInteger(n) && (n as number) >= low && (n as number) <= high;

/** A plain check: a schema for each of many thousands would hold the page. */
function isEvent(e: unknown): boolean {
  if (typeof e !== 'object' || e === null || Object.keys(e).length !== 4) return false;
  const { at, kind, key: k, value } = e as Record<string, unknown>;
  return (
    Number.isFinite(at) &&
    Math.abs(at as number) < 1e7 &&
    KINDS.includes(kind) &&
    isWhole(k, 0, 127) &&
    isWhole(value, kind === 'note' ? 1 : 0, 127)
  );
}

/** @throws NamedError bad-part, naming the member */
export function readTakes(data: unknown): FileTake[] {
  const count = Array.isArray(data)
    ? data.reduce(
        (sum: number, t) =>
          sum + (Array.isArray((t as { events?: unknown } | null)?.events) ? (t as { events: unknown[] }).events.length : 0),
        0,
      )
    : 0;
  if (count > MOST_EVENTS)
    throw new NamedError(
      'bad-part',
      [{ field: 'takes', problem: `${count} events are too many, ${MOST_EVENTS} are allowed` }],
      'The part file is not valid: its takes are too long.',
    );
  return validate<FileTake[]>(takesSchema, data, 'bad-part');
}
