import type { Schema } from 'joi';
import { NamedError, type ErrorCode } from '@/core/errors';

/** One thing that is wrong with data from outside: where, and what. */
export interface FieldProblem {
  field: string;
  problem: string;
}

/** So many problems are told at most; the rest is counted. */
const MOST_PROBLEMS = 12;
/** Letters of what came from outside that an error gives back, in all. */
const MOST_ECHO = 80;
const LONGEST_NAME = 24;
const LONGEST_PROBLEM = 160;

/** No list from outside is longer, no object has more members, nothing lies deeper: checked before anything looks at the entries. */
export interface Size {
  list: number;
  members: number;
  depth: number;
}

/**
 * Checks data from outside against a schema and gives it back with defaults filled in.
 * @throws NamedError of the given code; its details name the wrong fields
 */
export function validate<T>(schema: Schema, data: unknown, code: ErrorCode, size?: Size): T {
  if (size) checkSize(data, size, code);
  refuseStranger(schema, data, code);
  const { error, value } = schema.validate(data, { abortEarly: isLarge(data), convert: false });
  if (!error) return value as T;
  const problems: FieldProblem[] = [];
  let echo = MOST_ECHO;
  for (const d of error.details.slice(0, MOST_PROBLEMS)) {
    const field = pathOf(d.path, (name) => {
      const told = name.length > LONGEST_NAME ? `${name.slice(0, LONGEST_NAME)}…` : name;
      echo -= told.length;
      return echo < 0 ? '…' : told;
    });
    problems.push({ field, problem: problemOf(d.message, d.path) });
  }
  throw new NamedError(code, problems, describe(problems, error.details.length, code));
}

const membersOf = new WeakMap<Schema, ReadonlySet<string> | null>();

/** The members that a schema of an object knows; null where it is of something else, or takes any. */
function knownMembers(schema: Schema): ReadonlySet<string> | null {
  let known = membersOf.get(schema);
  if (known === undefined) {
    const { type, keys, flags, patterns } = schema.describe() as {
      type?: string;
      keys?: object;
      flags?: { unknown?: boolean };
      patterns?: unknown;
    };
    known = type === 'object' && keys && !patterns && flags?.unknown !== true ? new Set(Object.keys(keys)) : null;
    membersOf.set(schema, known);
  }
  return known;
}

/** No object of ours has more members; one that has is not looked at further than its first stranger. */
const MOST_MEMBERS = 1000;

/** @throws NamedError of the given code, naming the first unknown member of a very wide object, before all of it is copied for a check */
function refuseStranger(schema: Schema, data: unknown, code: ErrorCode): void {
  if (typeof data !== 'object' || data === null || Array.isArray(data)) return;
  let count = 0;
  for (const _ in data) if (++count > MOST_MEMBERS) break;
  const known = count > MOST_MEMBERS ? knownMembers(schema) : null;
  if (!known) return;
  for (const name in data) {
    if (known.has(name)) continue;
    const field = name.length > LONGEST_NAME ? `${name.slice(0, LONGEST_NAME)}…` : name;
    throw new NamedError(
      code,
      [{ field, problem: 'is not allowed' }],
      `${new NamedError(code).message.replace(/\.$/, '')}: ${field}: is not allowed.`,
    );
  }
}

/** Of data with more members and entries than these only the first problem is looked for: naming a hundred thousand takes seconds. */
const MOST_FOR_ALL = 2000;

function isLarge(data: unknown): boolean {
  let left = MOST_FOR_ALL;
  const open: unknown[] = [data];
  while (open.length > 0 && left > 0) {
    const next = open.pop();
    if (typeof next !== 'object' || next === null) continue;
    const entries: readonly unknown[] = Array.isArray(next) ? next : Object.values(next);
    left -= entries.length;
    if (left > 0) for (const entry of entries) open.push(entry);
  }
  return left <= 0;
}

/** The field of a problem that belongs to none. */
const WHOLE = '(whole)';

const pathOf = (path: readonly (string | number)[], name: (member: string) => string): string =>
  path.reduce<string>((text, p) => (typeof p === 'number' ? `${text}[${p}]` : text ? `${text}.${name(p)}` : name(p)), '') || WHOLE;

/** What is wrong, without the name that the field has already: names may be as long as whoever sent them liked. */
function problemOf(message: string, path: readonly (string | number)[]): string {
  const label = path.reduce<string>((text, p) => (typeof p === 'number' ? `${text}[${p}]` : text ? `${text}.${p}` : String(p)), '');
  const plain = message.replace(/"/g, '');
  const own = label !== '' && plain.startsWith(`${label} `) ? plain.slice(label.length).trim() : plain;
  return own.length > LONGEST_PROBLEM ? `${own.slice(0, LONGEST_PROBLEM)}…` : own;
}

function describe(problems: readonly FieldProblem[], count: number, code: ErrorCode): string {
  const what = new NamedError(code).message.replace(/\.$/, '');
  const first = problems[0];
  const more = count > 1 ? ` (and ${count - 1} more)` : '';
  return first
    ? `${what}: ${first.field === WHOLE || first.problem.startsWith(`${first.field}[`) ? first.problem : `${first.field}: ${first.problem}`}${more}.`
    : `${what}.`;
}

/** @throws NamedError of the given code where data is too long, too wide or too deep to be looked at */
function checkSize(data: unknown, size: Size, code: ErrorCode, depth = 0): void {
  if (typeof data !== 'object' || data === null) return;
  const entries: readonly unknown[] = Array.isArray(data) ? data : Object.values(data);
  const problem =
    depth > size.depth
      ? 'is nested too deeply'
      : entries.length > (Array.isArray(data) ? size.list : size.members)
        ? `a list of ${entries.length} entries is too long, ${size.list} are allowed`
        : null;
  if (problem) throw new NamedError(code, [{ field: WHOLE, problem }], `${new NamedError(code).message.replace(/\.$/, '')}: ${problem}.`);
  for (const entry of entries) checkSize(entry, size, code, depth + 1);
}

/** @throws NamedError of the given code where the text is not JSON */
export function parseJson(text: string, code: ErrorCode): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw new NamedError(
      code,
      [{ field: WHOLE, problem: 'not JSON' }],
      `${new NamedError(code).message.replace(/\.$/, '')}: it is not JSON.`,
    );
  }
}
