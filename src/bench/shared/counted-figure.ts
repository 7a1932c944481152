/** A number beside the title of a page; nothing for none. */
export const counted = (n: number, word: string): string => (n === 0 ? '' : `${n} ${n === 1 ? word : `${word}s`}`);
