import { rowsWith } from '../commands/hits';
import type { Part } from '../model/part';
import type { TakeEvent, Take } from '../model/take';
import { meterMapOf } from '../part/part-time';
import { ticks, TICKS_PER_QUARTER } from '../units';
import { eventOfHit } from './hits-of-take';
import { hitsOfTake } from './use-take';

/** Placeholder tempo and meter of a take without a click, used until its beats are found. */
export const CLOCK_OF_FREE_TAKES: Pick<Take, 'tempo' | 'meter' | 'origin' | 'start'> = {
  tempo: [{ tick: ticks(0), microsecondsPerQuarter: 500_000 }],
  meter: [{ tick: ticks(0), numerator: 4, denominator: 4 }],
  origin: ticks(0),
  start: ticks(0),
};
const BAR = 4 * TICKS_PER_QUARTER;
const BAR_SECONDS = 2;

/** End of a take, rounded up to a bar line. @param lasting seconds */
export const endOfFreeTake = (lasting: number): Take['end'] => ticks(BAR * (Math.floor(Math.max(0, lasting) / BAR_SECONDS) + 1));

/** Whether a part can take in a take without a click: it has no other hits, and nothing tied to its bars. */
export const takesFreeTake = (part: Pick<Part, 'hits' | 'breaks' | 'sections' | 'order'>, takeId: string | null): boolean =>
  !part.breaks?.length &&
  !part.sections?.length &&
  !part.order?.length &&
  part.hits.every((h) => takeId !== null && eventOfHit(h.id)?.take === takeId);

/** The part with the take's hits under the placeholder tempo, ready for finding the beats. */
export function partOfFreeTake(part: Part, take: Take, events: readonly TakeEvent[]): Part {
  const hits = hitsOfTake(part, take, events);
  const { playerTempo: _playerTempo, ...rest } = part;
  const { tempo, meter, origin } = take;
  const last = hits.at(-1)?.tick ?? origin;
  const rows = rowsWith(part.rows, new Set(hits.map((h) => h.voice)));
  return { ...rest, tempo, meter, origin, hits, rows, bars: Math.max(1, meterMapOf({ meter, origin }).barAt(last).index + 1) };
}
