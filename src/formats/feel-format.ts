import Joi from 'joi';
import type { Member, MoveSpec } from '@/core/feel/move-spec';
import { MOST_MOVES, type Feel, type Move } from '@/core/model/feel';
import { MOVES } from '@/core/moves/all';
import { grooveSchema } from './groove-format';
import { migrated } from './migrate';
import { between, moveOf, movesOf, seed } from './scope-schema';
import { parseJson, validate } from './validate';
import { FEEL_SIZE } from './feel-size';

/**
 * feel@3 as it comes from files, the store and the HTTP API; older ones are migrated. Unknown members and kinds are errors that name them.
 */

function schemaOfMember(member: Member): Joi.Schema {
  switch (member.is) {
    case 'number':
      return member.whole ? between(member.min, member.max).integer() : between(member.min, member.max);
    case 'choice':
      return Joi.string().valid(...member.of);
    case 'flag':
      return Joi.boolean();
    case 'levels':
      return Joi.array().items(between(member.min, member.max)).min(1).max(member.most);
    case 'order':
      return Joi.array()
        .items(Joi.string().valid(...member.of))
        .min(1)
        .unique();
    case 'groove':
      return grooveSchema;
  }
}

/** What is not given is plain; what has no plain value must be given. */
function schemaOfMove({ kind, members, plain, problem }: MoveSpec): Joi.ObjectSchema {
  const values = plain as Readonly<Record<string, Joi.BasicType>>;
  const own = Object.entries<Member>(members).map(([name, member]) => {
    const schema = schemaOfMember(member);
    return [name, member.optional ? schema : name in values ? schema.default(structuredClone(values[name])) : schema.required()] as const;
  });
  return moveOf(kind, Object.fromEntries(own)).custom((move: Move, helpers) => {
    const wrong = problem?.(move);
    return wrong ? helpers.message({ custom: wrong }) : move;
  });
}

/** The schema of a feel made of moves of these kinds. */
export const feelSchemaOf = (specs: readonly MoveSpec[]): Joi.ObjectSchema =>
  Joi.object({
    format: Joi.string().valid('nod-sway/feel@3').required(),
    seed: seed.default(1),
    sway: between(0, 1).default(1),
    moves: Joi.array()
      .items(movesOf(Object.fromEntries(specs.map((spec) => [spec.kind, schemaOfMove(spec)]))))
      .max(MOST_MOVES)
      .default([]),
  }).required();

export const feelSchema = feelSchemaOf(MOVES);

/** @throws NamedError bad-feel, its details naming each wrong member */
export const parseFeel = (data: unknown, schema: Joi.ObjectSchema = feelSchema): Feel =>
  validate<Feel>(schema, migrated('feel', data), 'bad-feel', FEEL_SIZE);

/** A feel's name is its file's: feel@3 has no member for it. */
export const FEEL_FILE_ENDING = '.nodfeel.json';

export const writeFeelFile = (feel: Feel): string => JSON.stringify(feel, null, 1);

/** @throws NamedError bad-feel */
export const readFeelFile = (text: string): Feel => parseFeel(parseJson(text, 'bad-feel'));
