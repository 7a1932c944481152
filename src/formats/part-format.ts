import Joi from 'joi';
import { NamedError } from '@/core/errors';
import { LONGEST_NAME, MAX_BARS, MOST_ROWS } from '@/core/limits';
import { rowsWith } from '@/core/commands/hits';
import { compareHits, type Part } from '@/core/model/part';
import { BACKING, type Backing } from '@/core/model/backing';
import { KIT_NAMES, PART_MIX, ROW_SOUND } from '@/core/model/sound';
import { ENTRY, EVERY_PASS, LEAVINGS, MOST_CYCLE_STEPS, MOST_ENTRIES_OF_ORDER, MOST_SECTIONS } from '@/core/model/song';
import { GRIDS } from '@/core/time/grid';
import { LONGEST_QUARTER, SHORTEST_QUARTER } from '@/core/time/tempo-map';
import { endOfPart } from '@/core/part/part-time';
import { LONGEST_VOICE } from '@/core/row-names';
import { firstHitProblem, LAST_TICK } from './hit-rules';
import { feelSchema } from './feel-format';
import { meterSchema } from './meter-rules';
import { inTimeOrder } from './time-order';
import { kitMapSchema } from './kit-format';
import { breakProblem, breaksSchema, heardSchema } from './break-rules';
import { migrated } from './migrate';
import { outputMapSchema } from './output-map-format';
import { validate } from './validate';

/** part@6 as it comes from files and the store; older ones are migrated. Whatever an import accepts, it accepts. */

const tick = Joi.number().integer().min(-LAST_TICK).max(LAST_TICK);
const voice = Joi.string().min(1).max(LONGEST_VOICE);

/** Numbers with their ranges, each of them optional. */
const settings = (ranges: Readonly<Record<string, { min: number; max: number }>>) =>
  Joi.object(Object.fromEntries(Object.entries(ranges).map(([name, { min, max }]) => [name, Joi.number().min(min).max(max)])));

const ownId = Joi.string().min(1).max(60);
const ownName = Joi.string().min(1).max(LONGEST_NAME);
const plays = Joi.alternatives(
  Joi.object({
    kit: Joi.string()
      .valid(...KIT_NAMES)
      .required(),
  }),
  Joi.object({ own: ownId.required(), name: ownName.required() }),
  Joi.object({ break: ownId.required() }),
);

const within = ({ min, max }: { min: number; max: number }) => Joi.number().min(min).max(max);

const BACKING_RULES: Readonly<Record<keyof Backing, Joi.Schema>> = {
  sample: ownId.required(),
  name: ownName.required(),
  seconds: Joi.number().greater(0).max(3600).required(),
  firstDownbeat: within(BACKING.firstDownbeat).required(),
  level: within(BACKING.level).required(),
  offsetMs: within(BACKING.offsetMs).required(),
  muted: Joi.boolean(),
};

const orderEntry = Joi.object({
  section: ownId.required(),
  times: Joi.number().integer().min(ENTRY.times.min).max(ENTRY.times.max),
  rests: Joi.array().items(voice).max(MOST_ROWS).unique(),
  level: Joi.number().min(ENTRY.level.min).max(ENTRY.level.max),
  sway: Joi.number().min(ENTRY.sway.min).max(ENTRY.sway.max),
});

const tempoChanges = Joi.array()
  .items(
    Joi.object({
      tick: tick.min(0).required(),
      microsecondsPerQuarter: Joi.number().min(SHORTEST_QUARTER).max(LONGEST_QUARTER).required(),
    }),
  )
  .min(1)
  .custom(inTimeOrder);

/** Each field of a part with its rule. */
const PART_RULES: Readonly<Record<keyof Part, Joi.Schema>> = {
  format: Joi.string().valid('nod-sway/part@6').required(),
  name: Joi.string().min(1).max(LONGEST_NAME).required(),
  tempo: tempoChanges.required(),
  playerTempo: tempoChanges,
  meter: Joi.array().items(meterSchema).min(1).required().custom(inTimeOrder),
  origin: tick.required(),
  bars: Joi.number().integer().min(1).max(MAX_BARS).required(),
  kitMap: kitMapSchema.required(),
  rows: Joi.array()
    .items(
      Joi.object({
        voice: voice.required(),
        name: Joi.string().min(1).max(40),
        like: voice,
        held: Joi.boolean(),
        sound: settings(ROW_SOUND),
        plays,
        cycle: Joi.object({
          grid: Joi.string()
            .valid(...GRIDS)
            .required(),
          steps: Joi.number().integer().min(1).max(MOST_CYCLE_STEPS).required(),
        }),
        machine: Joi.boolean(),
        muted: Joi.boolean(),
        soloed: Joi.boolean(),
        locked: Joi.boolean(),
      }),
    )
    .unique((a: { voice: string }, b: { voice: string }) => a.voice === b.voice)
    .required(),
  hits: Joi.array()
    .required()
    .custom((hits: unknown[], helpers) => {
      const problem = firstHitProblem(hits);
      return problem ? helpers.message({ custom: problem }) : hits;
    }),
  feel: feelSchema,
  kit: Joi.string().valid(...KIT_NAMES),
  ownKit: Joi.object({ id: ownId.required(), name: ownName.required() }),
  mix: settings(PART_MIX),
  sections: Joi.array()
    .items(
      Joi.object({
        id: ownId.required(),
        name: ownName.required(),
        from: Joi.number().integer().min(1).max(MAX_BARS).required(),
        bars: Joi.number().integer().min(1).max(MAX_BARS).required(),
        leave: Joi.string().valid(...LEAVINGS),
      }),
    )
    .max(MOST_SECTIONS)
    .unique('id'),
  order: Joi.array().items(orderEntry).max(MOST_ENTRIES_OF_ORDER),
  everyPass: Joi.string().valid(...EVERY_PASS),
  breaks: breaksSchema,
  heard: heardSchema,
  target: outputMapSchema,
  backing: Joi.object(BACKING_RULES),
  deletedTakes: Joi.array().items(ownId).max(10_000).unique(),
  source: Joi.object({
    fileName: Joi.string().max(LONGEST_NAME).allow('').required(),
    ppq: Joi.number().integer().min(1).max(32767).allow(null).required(),
    lanes: Joi.array()
      .items(Joi.object({ track: Joi.number().integer().min(0).required(), channel: Joi.number().integer().min(1).max(16).required() }))
      .min(1)
      .required(),
  }),
};

const partSchema = Joi.object(PART_RULES);

/**
 * A part from the store, or from a file whose lists were counted: what is in the store already opens, however long it is.
 * @throws NamedError bad-part, naming the field
 */
export function parsePart(data: unknown): Part {
  const part = validate<Part>(partSchema, migrated('part', data), 'bad-part');
  const end = endOfPart(part);
  const outside = part.hits.findIndex((h) => h.tick >= end);
  if (outside >= 0)
    throw new NamedError(
      'bad-part',
      [{ field: `hits[${outside}].tick`, problem: 'outside the part' }],
      `The part file is not valid: hits[${outside}] lies outside the part.`,
    );
  const wrongSection = sectionProblem(part);
  if (wrongSection)
    throw new NamedError('bad-part', [wrongSection], `The part file is not valid: ${wrongSection.field} ${wrongSection.problem}.`);
  const wrongBreak = breakProblem(part);
  if (wrongBreak) throw new NamedError('bad-part', [wrongBreak], `The part file is not valid: ${wrongBreak.field} ${wrongBreak.problem}.`);
  const lanes = part.source?.lanes.length ?? 1;
  const stray = part.hits.findIndex((h) => (h.lane ?? 0) >= lanes);
  if (stray >= 0)
    throw new NamedError(
      'bad-part',
      [{ field: `hits[${stray}].lane`, problem: 'names no lane of the source' }],
      `The part file is not valid: hits[${stray}].lane names no lane of the source.`,
    );
  const rows = rowsWith(part.rows, new Set(part.hits.map((h) => h.voice)));
  return { ...part, rows, hits: [...part.hits].sort(compareHits) };
}

/** Sections stand in order, apart from each other, within the part; lines of the order name them. */
function sectionProblem({ sections = [], order = [], bars }: Part): { field: string; problem: string } | null {
  let next = 1;
  for (const [i, s] of sections.entries()) {
    if (s.from < next) return { field: `sections[${i}].from`, problem: 'lies within the section before, or ahead of it' };
    next = s.from + s.bars;
    if (next - 1 > bars) return { field: `sections[${i}].bars`, problem: 'reaches beyond the part' };
  }
  const stray = order.findIndex((e) => !sections.some((s) => s.id === e.section));
  return stray < 0 ? null : { field: `order[${stray}].section`, problem: 'names no section' };
}
