import Joi from 'joi';
import { LONGEST_NAME, MAX_BARS, MOST_SECONDS } from '@/core/limits';
import { BREAK_CUTS, BREAK_GAPS, isOfBreak, MOST_BREAKS, MOST_HEARD, MOST_PIECES, PIECE, STROKE_KINDS } from '@/core/model/break';
import type { Part } from '@/core/model/part';
import { PRINT_PATTERN } from '@/core/onsets/print';

/** The rules of breaks within a part. */

const id = Joi.string().min(1).max(60);
const moment = Joi.number()
  .min(0)
  .max(2 * MOST_SECONDS);
const kind = Joi.string().valid(...STROKE_KINDS);
const meter = Joi.array().ordered(Joi.number().integer().min(1).max(64).required(), Joi.number().valid(1, 2, 4, 8, 16, 32, 64).required());
const rising = (values: number[], helpers: Joi.CustomHelpers): unknown =>
  values.every((v, i) => i === 0 || v > (values[i - 1] as number))
    ? values
    : helpers.message({ custom: `${String(helpers.state.path?.join('.'))}: must rise` });

const mark = Joi.object({
  n: Joi.number().integer().min(0).max(MOST_HEARD),
  at: moment,
  gone: Joi.boolean().valid(true),
  as: kind,
  also: kind,
});

const piece = Joi.object({
  id: id.required(),
  from: moment.required(),
  until: moment.greater(Joi.ref('from')).required(),
  kind: kind.required(),
  also: kind,
  velocity: Joi.number().integer().min(1).max(127).required(),
  level: Joi.number().min(PIECE.level.min).max(PIECE.level.max),
  tune: Joi.number().min(PIECE.tune.min).max(PIECE.tune.max),
  backwards: Joi.boolean().valid(true),
});

export const breaksSchema = Joi.array()
  .items(
    Joi.object({
      id: id
        .pattern(/^[\w-]+$/)
        .max(40)
        .required(),
      name: Joi.string().min(1).max(LONGEST_NAME).required(),
      sample: Joi.string().hex().length(64).required(),
      seconds: Joi.number()
        .greater(0)
        .max(MOST_SECONDS + 1)
        .required(),
      sensitivity: Joi.number().min(0).max(1).required(),
      hand: Joi.array().items(mark).max(MOST_HEARD).required(),
      meter: meter.required(),
      // The first round of an early count may begin before the recording does.
      lines: Joi.array()
        .items(
          Joi.number()
            .min(-MOST_SECONDS)
            .max(2 * MOST_SECONDS),
        )
        .min(2)
        .max(1000)
        .custom(rising)
        .required(),
      bar: Joi.number().integer().min(-MAX_BARS).max(MAX_BARS).required(),
      cut: Joi.string()
        .valid(...BREAK_CUTS)
        .required(),
      gap: Joi.string()
        .valid(...BREAK_GAPS)
        .required(),
      repitch: Joi.boolean().valid(true),
      pieces: Joi.array().items(piece).max(MOST_PIECES).unique('id').required(),
    }),
  )
  .min(1)
  .max(MOST_BREAKS)
  .unique('id');

const column = (of: Joi.Schema) => Joi.array().items(of).max(MOST_HEARD).required();

export const heardSchema = Joi.array()
  .items(
    Joi.object({
      break: id.required(),
      at: column(moment),
      strength: column(Joi.number().min(0).max(1)),
      over: column(Joi.number().min(0)),
      level: column(Joi.number().min(0)),
      kinds: column(kind),
      sure: column(Joi.number().min(0).max(1)),
      also: column(kind.allow(null)),
      prints: column(Joi.string().pattern(PRINT_PATTERN)).optional(),
      readings: Joi.array()
        .items(
          Joi.object({
            bars: Joi.number().integer().min(1).max(MAX_BARS).required(),
            meter: meter.required(),
            bpm: Joi.number().greater(0).max(1000).required(),
            firstDownbeat: moment.required(),
          }),
        )
        .max(3)
        .required(),
    }).custom((h: { at: unknown[] } & Record<string, unknown[]>, helpers: Joi.CustomHelpers) =>
      ['strength', 'over', 'level', 'kinds', 'sure', 'also', ...(h.prints ? ['prints'] : [])].every(
        (name) => h[name]?.length === h.at.length,
      )
        ? h
        : helpers.message({ custom: 'heard: its columns differ in length' }),
    ),
  )
  .max(MOST_BREAKS)
  .unique('break');

/** Rows, and what was heard, name breaks that there are. */
export function breakProblem({
  rows,
  breaks = [],
  heard = [],
}: Pick<Part, 'rows' | 'breaks' | 'heard'>): { field: string; problem: string } | null {
  const known = new Set(breaks.map((b) => b.id));
  const row = rows.findIndex((r) => isOfBreak(r.plays) && !known.has(r.plays.break));
  if (row >= 0) return { field: `rows[${row}].plays`, problem: 'names no break' };
  const stray = heard.findIndex((h) => !known.has(h.break));
  return stray < 0 ? null : { field: `heard[${stray}].break`, problem: 'names no break' };
}
