/** Nothing was made here before. */
const FIRST_DAY = Date.UTC(2020, 0, 1);
const DAY_MS = 86_400_000;

/**
 * Whether a moment can be one of work: files from elsewhere may say anything.
 * @param at milliseconds since 1970
 * @example isPlausible(0) // false
 */
export const isPlausible = (at: number, now = Date.now()): boolean => at >= FIRST_DAY && at <= now + DAY_MS;
