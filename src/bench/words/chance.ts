import type { Passes } from '@/core/model/song';

/** @example chanceText(40) // 'chance 40 %'; chanceText(100) // '' */
export const chanceText = (chance: number | undefined): string => (chance === undefined || chance >= 100 ? '' : `chance ${chance} %`);

const ordinal = (n: number): string =>
  `${n}${n % 10 === 1 && n % 100 !== 11 ? 'st' : n % 10 === 2 && n % 100 !== 12 ? 'nd' : n % 10 === 3 && n % 100 !== 13 ? 'rd' : 'th'}`;

/** @example passesText({ every: 4, at: [2] }) // '2nd of every 4 passes' */
export const passesText = ({ every, at }: Passes): string =>
  `${at.length > 1 ? `${at.slice(0, -1).map(ordinal).join(', ')} and ` : ''}${ordinal(at.at(-1) ?? 1)} of every ${every} passes`;
