import type { HitId } from '../model/part';
import type { TakeEvent, Take } from '../model/take';
import { hitIdOfEvent } from './hits-of-take';

/** Strokes so long after a stall may still be off, in seconds. */
const AFTERMATH = 0.05;

/** The hits of a take that were struck while the machine stalled: they are worth a look. */
export const stalledHits = ({ id, stalls = [] }: Pick<Take, 'id' | 'stalls'>, events: readonly TakeEvent[]): HitId[] =>
  events.flatMap((e, i) =>
    e.kind === 'note' && stalls.some(({ from, to }) => e.at >= from && e.at <= to + AFTERMATH) ? [hitIdOfEvent(id, i)] : [],
  );
