/** Ideas are stored by letters and called by numbers: letters on the strip mean similar bars. @example ideaNumber('B') // '2' */
export const ideaNumber = (letter: string): string => String(letter.charCodeAt(0) - 'A'.charCodeAt(0) + 1);

/** @example ideaName({ letter: 'B' }) // 'idea 2'; ideaName(undefined) // 'idea' */
export const ideaName = (idea: { letter: string } | undefined): string => (idea ? `idea ${ideaNumber(idea.letter)}` : 'idea');
