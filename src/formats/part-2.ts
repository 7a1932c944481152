import Joi from 'joi';
import { NamedError } from '@/core/errors';
import { MAX_QUARTERS } from '@/core/limits';
import { withoutReading } from '@/core/homes/homes';
import { compareHits, type Hit } from '@/core/model/part';
import type { MeterChange } from '@/core/time/meter-map';
import { ticks, TICKS_PER_QUARTER, type Ticks } from '@/core/units';
import { firstHitProblem2 } from './hit-rules';
import { homes2, type Hit2 } from './homes-2';
import { meterSchema } from './meter-rules';
import { inTimeOrder } from './time-order';
import { validate } from './validate';

/** Migrates part@2, feel@2 and pattern@1 to the next formats. Exports must stay the same. */

const isObject = (v: unknown): v is Record<string, unknown> => typeof v === 'object' && v !== null && !Array.isArray(v);

/** What moves did in feel@2 where they have a choice since. */
const WAS: Readonly<Record<string, readonly [member: string, value: string]>> = {
  swing: ['lines', 'all'],
  groove: ['at', 'written'],
  humanize: ['limit', 'clip'],
  apart: ['by', 'home'],
};

/** @throws NamedError bad-feel where a move has what feel@2 had no member for */
export function feelOf2(feel: Record<string, unknown>): Record<string, unknown> {
  const { moves } = feel;
  if (!Array.isArray(moves)) return { ...feel, format: 'nod-sway/feel@3' };
  return {
    ...feel,
    format: 'nod-sway/feel@3',
    moves: moves.map((move: unknown, i): unknown => {
      const was = isObject(move) && typeof move.kind === 'string' && Object.hasOwn(WAS, move.kind) ? WAS[move.kind] : undefined;
      if (!was || !isObject(move)) return move;
      const [member, value] = was;
      if (member in move) throw new NamedError('bad-feel', [{ field: `moves[${i}].${member}`, problem: 'is not allowed in feel@2' }]);
      return { ...move, [member]: value };
    }),
  };
}

const placesSchema = Joi.object({
  meter: Joi.array().items(meterSchema).min(1).required().custom(inTimeOrder),
  origin: Joi.number()
    .integer()
    .min(-MAX_QUARTERS * TICKS_PER_QUARTER)
    .max(MAX_QUARTERS * TICKS_PER_QUARTER)
    .required(),
});

/** @throws NamedError bad-part where part@2 had no such hits, meter or origin */
export function partOf2(data: Record<string, unknown>): Record<string, unknown> {
  const { meter, origin } = validate<{ meter: MeterChange[]; origin: Ticks }>(
    placesSchema,
    { meter: data.meter, origin: data.origin },
    'bad-part',
  );
  const feel = isObject(data.feel) && data.feel.format === 'nod-sway/feel@2' ? feelOf2(data.feel) : data.feel;
  return {
    ...data,
    format: 'nod-sway/part@3',
    feel,
    ...(Array.isArray(data.hits) ? { hits: withHomes(checked(data.hits, 'bad-part'), meter, origin) } : {}),
  };
}

/** A pattern is in one meter, and starts on a bar line. @throws NamedError bad-pattern */
export function patternOf1(data: Record<string, unknown>): Record<string, unknown> {
  const [numerator, denominator] = (Array.isArray(data.meter) ? data.meter : []) as number[];
  const { meter } = validate<{ meter: MeterChange[] }>(
    placesSchema,
    { meter: [{ tick: 0, numerator, denominator }], origin: 0 },
    'bad-pattern',
  );
  if (!Array.isArray(data.hits)) return { ...data, format: 'nod-sway/pattern@2' };
  const hits = checked(
    data.hits.map((hit: unknown, i) => (isObject(hit) ? { ...hit, id: `p${i}` } : hit)),
    'bad-pattern',
  );
  return { ...data, format: 'nod-sway/pattern@2', hits: withHomes(hits, meter, ticks(0)).map(({ id: _id, ...hit }) => hit) };
}

function checked(hits: readonly unknown[], code: 'bad-part' | 'bad-pattern'): Hit2[] {
  const problem = firstHitProblem2(hits);
  if (problem)
    throw new NamedError(
      code,
      [{ field: 'hits', problem }],
      `The ${code === 'bad-part' ? 'part' : 'pattern'} file is not valid: ${problem}.`,
    );
  return hits as Hit2[];
}

/** What was doubtful by the old rule is so by the new one. */
const DOUBTFUL = 0.5;

function withHomes(unsorted: readonly Hit2[], meter: readonly MeterChange[], origin: Ticks): Hit[] {
  const hits = [...unsorted].sort((a, b) => compareHits(a as Hit, b as Hit));
  const homes = homes2({ hits, meter, origin });
  return hits.map((hit, i): Hit => {
    const reading =
      hit.home !== undefined
        ? { decided: true }
        : homes.doubtful[i] === 1
          ? { sure: DOUBTFUL, other: ticks(homes.others[i] as number) }
          : {};
    return { ...withStraightOrnament(hit), home: ticks(homes.ticks[i] as number), ...reading };
  });
}

/** Rolls and echoes kept their distances whatever swung. */
function withStraightOrnament(hit: Hit2): Hit2 {
  const { ornament } = hit;
  return ornament && (ornament.kind === 'roll' || ornament.kind === 'echo')
    ? { ...hit, ornament: { ...ornament, followsSwing: false } }
    : hit;
}

/** Gives hits the homes that part@2 would have fitted; API calls with a feel@2 or older need them. Hits must be sorted. */
export function withHomesOf2<P extends { hits: readonly Hit[]; meter: readonly MeterChange[]; origin: Ticks }>(part: P): P {
  const homes = homes2({ hits: part.hits, meter: part.meter, origin: part.origin }, false);
  const hits = part.hits.map((hit, i): Hit => {
    const home = ticks(homes.ticks[i] as number);
    const reading = homes.doubtful[i] === 1 ? { sure: DOUBTFUL, other: ticks(homes.others[i] as number) } : {};
    return { ...withoutReading(hit), home, ...reading };
  });
  return { ...part, hits };
}
