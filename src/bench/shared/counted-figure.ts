import { counted } from '@/core/plurals';
/** A number beside the title of a page; nothing for none. */
export const figureOf = (n: number, word: string): string => (n === 0 ? '' : counted(n, word));
