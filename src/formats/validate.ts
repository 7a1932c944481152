import type { Schema } from 'joi';
import { NamedError, type ErrorCode } from '@/core/errors';

/** One thing that is wrong with data from outside: where, and what. */
export interface FieldProblem {
  field: string;
  problem: string;
}

/**
 * Checks data from outside against a schema and gives it back with defaults filled in.
 * @throws NamedError of the given code; its details name every wrong field
 */
export function validate<T>(schema: Schema, data: unknown, code: ErrorCode): T {
  const { error, value } = schema.validate(data, { abortEarly: false, convert: false });
  if (!error) return value as T;
  const problems = error.details.map((d): FieldProblem => ({ field: pathOf(d.path), problem: d.message.replace(/"/g, '') }));
  throw new NamedError(code, problems, describe(problems, code));
}

const pathOf = (path: readonly (string | number)[]): string => path.reduce<string>((text, p) => (typeof p === 'number' ? `${text}[${p}]` : text ? `${text}.${p}` : p), '') || '(whole)';

function describe(problems: readonly FieldProblem[], code: ErrorCode): string {
  const what = new NamedError(code).message.replace(/\.$/, '');
  const first = problems[0];
  const more = problems.length > 1 ? ` (and ${problems.length - 1} more)` : '';
  return first ? `${what}: ${first.problem}${more}.` : `${what}.`;
}

/** @throws NamedError of the given code where the text is not JSON */
export function parseJson(text: string, code: ErrorCode): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw new NamedError(code, [{ field: '(whole)', problem: 'not JSON' }], `${new NamedError(code).message.replace(/\.$/, '')}: it is not JSON.`);
  }
}
