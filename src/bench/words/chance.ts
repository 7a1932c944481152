import { listed, ordinalEnding } from '@/core/plurals';
import type { Passes } from '@/core/model/song';

/** @example chanceText(40) // 'probability 40 %'; chanceText(100) // '' */
export const chanceText = (chance: number | undefined): string => (chance === undefined || chance >= 100 ? '' : `probability ${chance} %`);

const ordinal = (n: number): string => `${n}${ordinalEnding(n)}`;

/** @example passesText({ every: 4, at: [2] }) // '2nd of every 4 passes' */
export const passesText = ({ every, at }: Passes): string => `${listed(at.map(ordinal))} of every ${every} passes`;
