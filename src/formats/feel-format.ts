import Joi from 'joi';
import { APART_GROUPS, DEFAULT_MOVES, MAX_SWING, MIN_SWING, MOST_MOVES, STRAIGHT, SWING_DIVISIONS, type AccentsMove, type Feel, type MoveKind, type QuantizeMove } from '@/core/feel/feel';
import { isTriplet } from '@/core/time/grid';
import { grooveSchema } from './groove-format';
import { migrated } from './migrate';
import { between, grid, LONGEST_CYCLE, moveOf, movesOf, seed } from './scope-schema';
import { parseJson, validate } from './validate';
import { FEEL_SIZE } from './feel-size';

/** feel@2 as it comes from files, the store and the HTTP API; older ones are migrated. Unknown members and kinds are errors that name them. */

const { quantize, swing, lay, humanize, apart, accents, timbre } = DEFAULT_MOVES;

/** Each kind of move with its schema. */
const MOVES: Readonly<Record<MoveKind, Joi.ObjectSchema>> = {
  quantize: moveOf('quantize', {
    grid: grid.default(quantize.grid),
    strength: between(0, 1).default(quantize.strength),
    outer: between(0, 1).default(quantize.outer),
    innerMs: between(0, 50).default(quantize.innerMs),
    swingPercent: between(MIN_SWING, MAX_SWING).default(quantize.swingPercent),
  }).custom((m: QuantizeMove, helpers) => (isTriplet(m.grid) && m.swingPercent !== STRAIGHT ? helpers.message({ custom: 'swingPercent: triplet grids are straight, 50 only' }) : m)),
  swing: moveOf('swing', {
    division: Joi.string().valid(...SWING_DIVISIONS).default(swing.division),
    percent: between(MIN_SWING, MAX_SWING).default(swing.percent),
    inverse: Joi.boolean(),
  }),
  groove: moveOf('groove', { groove: grooveSchema.required(), lean: between(0, 1.5).default(1), level: between(0, 1.5).default(1) }),
  lay: moveOf('lay', { ms: between(-80, 80).default(lay.ms) }),
  humanize: moveOf('humanize', {
    timingMs: between(0, 80).default(humanize.timingMs),
    velocityPercent: between(0, 40).default(humanize.velocityPercent),
    memory: between(0, 1).default(humanize.memory),
    anchor: between(0, 1).default(humanize.anchor),
    span: Joi.number().integer().min(1).max(32).default(humanize.span),
  }),
  apart: moveOf('apart', {
    ms: between(0, 30).default(apart.ms),
    order: Joi.array().items(Joi.string().valid(...APART_GROUPS)).min(1).unique().default([...APART_GROUPS]),
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
  timbre: moveOf('timbre', {
    pan: between(0, 100).default(timbre.pan),
    pitch: between(0, 12).default(timbre.pitch),
    brightness: between(0, 100).default(timbre.brightness),
    velocityBrightness: between(-100, 100).default(timbre.velocityBrightness),
    pitchPan: between(-100, 100).default(timbre.pitchPan),
  }),
};

export const feelSchema = Joi.object({
  format: Joi.string().valid('nod-sway/feel@2').required(),
  seed: seed.default(1),
  sway: between(0, 1).default(1),
  moves: Joi.array().items(movesOf(MOVES)).max(MOST_MOVES).default([]),
}).required();

/** @throws NamedError bad-feel, its details naming each wrong member */
export const parseFeel = (data: unknown): Feel => validate<Feel>(feelSchema, migrated('feel', data), 'bad-feel', FEEL_SIZE);

/** A feel's name is its file's: feel@2 has no member for it. */
export const FEEL_FILE_ENDING = '.nodfeel.json';

export const writeFeelFile = (feel: Feel): string => JSON.stringify(feel, null, 1);

/** @throws NamedError bad-feel */
export const readFeelFile = (text: string): Feel => parseFeel(parseJson(text, 'bad-feel'));
