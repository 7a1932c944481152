import Joi from 'joi';
import { DEFAULT_MOVES, MAX_SWING, MIN_SWING, MOST_MOVES, SPREAD_GROUPS, STRAIGHT, SWING_DIVISIONS, type AccentsMove, type BarScope, type Feel, type MoveKind, type StepScope, type TightenMove } from '@/core/feel/feel';
import { MAX_BARS, MOST_ENTRIES, MOST_ROWS } from '@/core/limits';
import { GRIDS, isTriplet } from '@/core/time/grid';
import { grooveSchema } from './groove-format';
import { parseJson, validate, type Size } from './validate';

/** feel@1 as it comes from files, the store and the HTTP API. Unknown members and kinds are errors that name them. */

const LONGEST_CYCLE = MOST_ENTRIES;
/** Of a feel, its grooves included. */
export const FEEL_SIZE: Size = { list: MOST_ENTRIES, members: 256, depth: 12 };
const LARGEST_SEED = 0xffffffff;

const bars = Joi.object({
  from: Joi.number().integer().min(1).max(MAX_BARS),
  to: Joi.number().integer().min(1).max(MAX_BARS),
  every: Joi.number().integer().min(1).max(MAX_BARS),
  at: Joi.array().items(Joi.number().integer().min(1).max(MAX_BARS)).min(1).max(LONGEST_CYCLE),
})
  .and('every', 'at')
  .custom((value: BarScope, helpers) => {
    if (value.from !== undefined && value.to !== undefined && value.from > value.to) return helpers.message({ custom: 'bars: from is over to' });
    if (value.every !== undefined && value.at?.some((n) => n > (value.every as number))) return helpers.message({ custom: 'bars: at is outside its cycle' });
    return value;
  });

const steps = Joi.object({
  grid: Joi.string().valid(...GRIDS).required(),
  of: Joi.number().integer().min(1).max(LONGEST_CYCLE).required(),
  at: Joi.array().items(Joi.number().integer().min(0)).min(1).max(LONGEST_CYCLE).required(),
}).custom((value: StepScope, helpers) => (value.at.some((n) => n >= value.of) ? helpers.message({ custom: 'steps: at is outside its cycle' }) : value));

const scope = Joi.object({
  voices: Joi.array().items(Joi.string().max(60)).min(1).max(MOST_ROWS),
  bars,
  steps,
  ghosts: Joi.string().valid('only', 'none'),
});

const seed = Joi.number().integer().min(0).max(LARGEST_SEED);
const grid = Joi.string().valid(...GRIDS);
const between = (low: number, high: number): Joi.NumberSchema => Joi.number().min(low).max(high);

/** What every move has, and its own members. */
const moveOf = (kind: MoveKind, members: Joi.PartialSchemaMap): Joi.ObjectSchema => Joi.object({ kind: Joi.string().valid(kind).required(), on: Joi.boolean(), scope, seed, ...members });

const { tighten, swing, lay, drift, spread, accents } = DEFAULT_MOVES;

/** Each kind of move with its schema. */
const MOVES: Readonly<Record<MoveKind, Joi.ObjectSchema>> = {
  tighten: moveOf('tighten', {
    grid: grid.default(tighten.grid),
    strength: between(0, 1).default(tighten.strength),
    window: between(0, 1).default(tighten.window),
    keepMs: between(0, 50).default(tighten.keepMs),
    swingPercent: between(MIN_SWING, MAX_SWING).default(tighten.swingPercent),
  }).custom((m: TightenMove, helpers) => (isTriplet(m.grid) && m.swingPercent !== STRAIGHT ? helpers.message({ custom: 'swingPercent: triplet grids are straight, 50 only' }) : m)),
  swing: moveOf('swing', {
    division: Joi.string().valid(...SWING_DIVISIONS).default(swing.division),
    percent: between(MIN_SWING, MAX_SWING).default(swing.percent),
    inverse: Joi.boolean(),
  }),
  template: moveOf('template', { groove: grooveSchema.required(), lean: between(0, 1.5).default(1), level: between(0, 1.5).default(1) }),
  lay: moveOf('lay', { ms: between(-80, 80).default(lay.ms) }),
  drift: moveOf('drift', {
    timingMs: between(0, 40).default(drift.timingMs),
    velocityPercent: between(0, 40).default(drift.velocityPercent),
    color: between(0, 1).default(drift.color),
    anchor: between(0, 1).default(drift.anchor),
  }),
  spread: moveOf('spread', {
    ms: between(0, 30).default(spread.ms),
    order: Joi.array().items(Joi.string().valid(...SPREAD_GROUPS)).min(1).unique().default([...SPREAD_GROUPS]),
  }),
  accents: moveOf('accents', {
    grid: grid.default(accents.grid),
    levels: Joi.array().items(between(0, 2)).min(1).max(LONGEST_CYCLE).default([...accents.levels]),
    depth: between(0, 1).default(accents.depth),
    pivot: between(1, 127),
    contrast: between(0, 3).default(accents.contrast),
    scale: between(0, 2).default(accents.scale),
    add: between(-127, 127).default(accents.add),
    jitter: between(0, 40).default(accents.jitter),
    floor: between(1, 127).default(accents.floor),
    ceiling: between(1, 127).default(accents.ceiling),
  }).custom((m: AccentsMove, helpers) => (m.floor > m.ceiling ? helpers.message({ custom: 'floor: is over ceiling' }) : m)),
};

const move = Joi.alternatives().conditional(Joi.ref('.kind'), {
  switch: Object.entries(MOVES).map(([kind, schema]) => ({ is: kind, then: schema })),
  otherwise: Joi.object({ kind: Joi.string().valid(...Object.keys(MOVES)).required() }).unknown(true),
});

export const feelSchema = Joi.object({
  format: Joi.string().valid('nod-sway/feel@1').required(),
  seed: seed.default(1),
  sway: between(0, 1).default(1),
  moves: Joi.array().items(move).max(MOST_MOVES).default([]),
}).required();

/** @throws NamedError bad-feel, its details naming each wrong member */
export const parseFeel = (data: unknown): Feel => validate<Feel>(feelSchema, data, 'bad-feel', FEEL_SIZE);

/** A feel's name is its file's: feel@1 has no member for it. */
export const FEEL_FILE_ENDING = '.nodfeel.json';

export const writeFeelFile = (feel: Feel): string => JSON.stringify(feel, null, 1);

/** @throws NamedError bad-feel */
export const readFeelFile = (text: string): Feel => parseFeel(parseJson(text, 'bad-feel'));
