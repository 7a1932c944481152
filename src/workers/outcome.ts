import { errorFromReport, isNamedError, reportError, type ErrorReport } from '@/core/errors';

/** A result, or a named error as plain data. */
export type Outcome<T> = { ok: true; value: T } | { ok: false; error: ErrorReport };

const refused = (e: unknown): Outcome<never> => {
  if (isNamedError(e)) return { ok: false, error: reportError(e) };
  throw e;
};

/** What work ends in, so that it can leave the worker. */
export function outcome<T>(run: () => T): Outcome<T> {
  try {
    return { ok: true, value: run() };
  } catch (e) {
    return refused(e);
  }
}

/** The same of work that takes a while. */
export const outcomeOf = <T>(run: Promise<T>): Promise<Outcome<T>> => run.then((value) => ({ ok: true, value }), refused);

/** The result, as it was before it left. @throws NamedError */
export function resultOf<T>(found: Outcome<T>): T {
  if (!found.ok) throw errorFromReport(found.error);
  return found.value;
}
