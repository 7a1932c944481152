import { quartersOfBeat, type Count } from '@/core/free-takes/count-anew';
import type { Hindrance } from '@/core/free-takes/follow';

/** @example countWords({ meter: [4, 4] }, 122.7) // '4/4 at 123 BPM' */
export const countWords = ({ meter: [n, d] }: Pick<Count, 'meter'>, beatsAMinute: number): string =>
  `${n}/${d} at ${Math.round(beatsAMinute)} BPM`;

/** Beats a minute as they are counted: of quarters, or of dotted quarters where eighths come in threes. */
export const countedIn = (meter: Count['meter']): { factor: number; unit: string } => {
  const quarters = quartersOfBeat(meter);
  return { factor: 1 / quarters, unit: quarters === 1.5 ? 'BPM in dotted quarters' : 'BPM' };
};

export const HINDRANCES: Readonly<Record<Hindrance, string>> = {
  breaks: 'The recorded loops of this part fix its grid: their bar flags say where beats are.',
  sections: 'This part has sections, which count its bars. Remove them on the page Order to find the tempo.',
  cycles: 'A row of this part has its own loop length. Set it back to the part’s length to find the tempo.',
};
