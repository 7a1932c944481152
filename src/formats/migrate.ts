import Joi from 'joi';
import { NamedError } from '@/core/errors';
import { fieldsAfter, HIT_FIELDS, PART_FIELDS } from '@/core/model/fields';
import type { PartDiff } from '@/core/part/diff';
import { feel1Schema, feelOf1, type Feel1 } from './feel-1';
import { FEEL_SIZE } from './feel-size';
import type { FileKind } from './kind-of-file';
import { feelOf2, partOf2, patternOf1 } from './part-2';
import { validate } from './validate';

/** One step from a format to the next: checks what the old one alone can say, and tells it in the words of the new one. */
interface Step {
  /** Version that it starts from; it leads to the next. */
  from: number;
  migrate: (data: Record<string, unknown>) => Record<string, unknown>;
}

const feel1 = (data: unknown): Record<string, unknown> => ({ ...feelOf1(validate<Feel1>(feel1Schema, data, 'bad-feel', FEEL_SIZE)) });
const partWithFeel1 = Joi.object({ feel: feel1Schema });

/** Of what part@1 can say only its feel is said otherwise in part@2. */
function part1(data: Record<string, unknown>): Record<string, unknown> {
  const later = fieldsAfter(PART_FIELDS, 1).find((name) => name in data);
  if (later)
    throw new NamedError(
      'bad-part',
      [{ field: later, problem: 'no member of part@1' }],
      `The part file is not valid: ${later} is no member of part@1.`,
    );
  return {
    ...data,
    format: 'nod-sway/part@2',
    feel: feelOf1(validate<{ feel: Feel1 }>(partWithFeel1, { feel: data.feel }, 'bad-part').feel),
  };
}

/** A step to a format that only adds members to parts or hits. */
const partWithMore = (from: 3 | 4 | 5): Step => ({
  from,
  migrate: (data) => {
    const later = fieldsAfter(PART_FIELDS, from).find((name) => name in data) ?? laterOfHits(data.hits, from);
    if (later)
      throw new NamedError(
        'bad-part',
        [{ field: later, problem: `no member of part@${from}` }],
        `The part file is not valid: ${later} is no member of part@${from}.`,
      );
    return { ...data, format: `nod-sway/part@${from + 1}` };
  },
});

/** The first hit member that is newer than a format, with its path. */
function laterOfHits(hits: unknown, format: number): string | undefined {
  if (!Array.isArray(hits)) return undefined;
  const later = new Set<string>(fieldsAfter(HIT_FIELDS, format));
  for (let i = 0; i < hits.length; i++) {
    const hit: unknown = hits[i];
    if (typeof hit !== 'object' || hit === null) continue;
    for (const name in hit) if (later.has(name)) return `hits[${i}].${name}`;
  }
  return undefined;
}

/** target@2 adds `articulation`. */
function target1(data: Record<string, unknown>): Record<string, unknown> {
  if ('articulation' in data)
    throw new NamedError(
      'bad-target',
      [{ field: 'articulation', problem: 'no member of target@1' }],
      'The output map file is not valid: articulation is no member of target@1.',
    );
  return { ...data, format: 'nod-sway/target@2' };
}

/** Every kind of stored or exported data, its newest version and the steps that lead there. A new format gets a step and a fixture. */
const FORMATS: Readonly<Record<FileKind | 'library', { newest: number; steps: readonly Step[] }>> = {
  feel: {
    newest: 3,
    steps: [
      { from: 1, migrate: feel1 },
      { from: 2, migrate: feelOf2 },
    ],
  },
  part: {
    newest: 6,
    steps: [{ from: 1, migrate: part1 }, { from: 2, migrate: partOf2 }, partWithMore(3), partWithMore(4), partWithMore(5)],
  },
  groove: { newest: 1, steps: [] },
  kit: { newest: 1, steps: [] },
  pattern: { newest: 2, steps: [{ from: 1, migrate: patternOf1 }] },
  target: { newest: 2, steps: [{ from: 1, migrate: target1 }] },
  library: { newest: 1, steps: [] },
};

/**
 * The version of a kind that data names; null where it names none of ours.
 * @example versionOf('feel', { format: 'nod-sway/feel@2' }) // 2
 */
export function versionOf(kind: FileKind | 'library', data: unknown): number | null {
  if (typeof data !== 'object' || data === null) return null;
  const format = (data as { format?: unknown }).format;
  const found = typeof format === 'string' ? new RegExp(`^nod-sway/${kind}@(\\d{1,6})$`).exec(format) : null;
  return found ? Number(found[1]) : null;
}

/**
 * Data of a kind in its newest format; what names no format of ours is left for the check that follows.
 * @param to an older format to stop at
 * @throws NamedError newer-format where a later version of the product made it; bad-feel, bad-part where the old format was broken
 */
export function migrated(kind: FileKind | 'library', data: unknown, to = FORMATS[kind].newest): unknown {
  const version = versionOf(kind, data);
  if (version === null) return data;
  const { newest, steps } = FORMATS[kind];
  let now = data as Record<string, unknown>;
  if (version > newest)
    throw new NamedError('newer-format', { format: String(now.format).slice(0, 40), newest: `nod-sway/${kind}@${newest}` });
  for (const step of steps) if (step.from >= version && step.from < to) now = step.migrate(now);
  return now;
}

/** An edit with its whole feels in another format: of all that an edit of part@1 can hold only these are said otherwise in part@2. */
export function withFeels(diff: PartDiff, to: number): PartDiff {
  const { feel } = diff.fields;
  if (!feel) return diff;
  const told = (f: typeof feel.before) => f && (migrated('feel', f, to) as typeof f);
  return { ...diff, fields: { ...diff.fields, feel: { before: told(feel.before), after: told(feel.after) } } };
}
