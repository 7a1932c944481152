const RULES = new Intl.PluralRules('en');
const LISTS = new Intl.ListFormat('en-GB', { type: 'conjunction' });

/** The word for so many. @example plural(1, 'hit') // 'hit'; plural(2, 'is', 'are') // 'are' */
export const plural = (n: number, one: string, many = `${one}s`): string => (RULES.select(n) === 'one' ? one : many);

/** A number with what it counts. @example counted(1, 'hit') // '1 hit'; counted(2, 'hit') // '2 hits' */
export const counted = (n: number, one: string, many?: string): string => `${n} ${plural(n, one, many)}`;

const ORDINALS = new Intl.PluralRules('en', { type: 'ordinal' });
const ENDINGS: Readonly<Record<string, string>> = { one: 'st', two: 'nd', few: 'rd' };

/** What follows an ordinal number. @example ordinalEnding(2) // 'nd' */
export const ordinalEnding = (n: number): string => ENDINGS[ORDINALS.select(n)] ?? 'th';

/** @example listed(['kick', 'snare', 'hat']) // 'kick, snare and hat' */
export const listed = (items: readonly string[]): string => LISTS.format(items);
