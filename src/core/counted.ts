const RULES = new Intl.PluralRules('en');

/** A number with what it counts. @example counted(1, 'hit') // '1 hit'; counted(2, 'hit') // '2 hits' */
export const counted = (n: number, one: string, many = `${one}s`): string => `${n} ${RULES.select(n) === 'one' ? one : many}`;
