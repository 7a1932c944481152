import { quartersOfBeat, type Count } from '@/core/free-takes/adjust-count';
import type { Hindrance } from '@/core/free-takes/follow';

/** @example countWords({ meter: [4, 4] }, 122.7) // '4/4 at 123 BPM' */
export const countWords = ({ meter: [n, d] }: Pick<Count, 'meter'>, beatsAMinute: number): string =>
  `${n}/${d} at ${Math.round(beatsAMinute)} BPM`;

/** The unit that a tempo is shown in: quarters, or dotted quarters in compound meters. `factor` converts from quarters. */
export const countedIn = (meter: Count['meter']): { factor: number; unit: string } => {
  const quarters = quartersOfBeat(meter);
  return { factor: 1 / quarters, unit: quarters === 1.5 ? 'BPM (dotted quarters)' : 'BPM' };
};

export const HINDRANCES: Readonly<Record<Hindrance, string>> = {
  breaks: 'Recorded loops set the grid of this part. Move their bar flags instead.',
  sections: 'Sections are tied to bars. Remove them on the page Order first.',
  cycles: 'A row has its own loop length. Reset it on the page Order first.',
};
