import { sameValue } from '@/core/model/fields';

/** What was exported last, in this browser: chosen again next time. What is of one part alone is remembered for that part. */

const NAME = 'nod-sway:export';
/** Options that belong to a part. */
const OF_PART = ['fromBar', 'toBar', 'passes', 'stretch', 'only'];
/** Options that are chosen anew each time: what they mean depends on what is there. */
const NOT_KEPT = ['version', 'audioVersion', 'withMuted', 'ppq'];

type Options = Record<string, unknown>;

interface Kept {
  /** The way that was taken. */
  chosen: string;
  part: string;
  options: Options;
  /** A resolution that was not the part's usual one. */
  ppq?: number;
}

function read(): Kept | null {
  try {
    const kept = JSON.parse(localStorage.getItem(NAME) ?? 'null') as Partial<Kept> | null;
    return kept && typeof kept.chosen === 'string' && typeof kept.part === 'string' && typeof kept.options === 'object'
      ? (kept as Kept)
      : null;
  } catch {
    return null;
  }
}

/**
 * Keeps what was exported, as far as it was not the usual: a whole part stays whole when it grows, and what has an order by then goes in
 * it. `usual` is what the options would have been at first.
 */
export function rememberExport(part: string, chosen: string, options: Options, usual: Options): void {
  const kept = Object.fromEntries(
    Object.entries(options).filter(([name, value]) => !NOT_KEPT.includes(name) && !sameValue(value, usual[name])),
  );
  const other: Kept = {
    chosen,
    part,
    options: kept,
    ...(typeof options.ppq === 'number' && options.ppq !== usual.ppq ? { ppq: options.ppq } : {}),
  };
  try {
    localStorage.setItem(NAME, JSON.stringify(other));
  } catch {
    // A browser that keeps nothing starts anew each time.
  }
}

/** The way that was taken last, with options that still fit. */
export function rememberedExport(part: string, usual: Options): { chosen: string | null; options: Options } {
  const kept = read();
  if (!kept) return { chosen: null, options: usual };
  const fits = (name: string, value: unknown): boolean =>
    name in usual &&
    (value === null || usual[name] === null || typeof value === typeof usual[name]) &&
    (kept.part === part || !OF_PART.includes(name));
  const options = Object.fromEntries(Object.entries(kept.options).filter(([name, value]) => fits(name, value)));
  return { chosen: kept.chosen, options: { ...usual, ...options, ...(kept.ppq !== undefined && 'ppq' in usual ? { ppq: kept.ppq } : {}) } };
}
