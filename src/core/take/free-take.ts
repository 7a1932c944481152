import { rowsWith } from '../commands/hits';
import type { Part } from '../model/part';
import type { TakeEvent, Take } from '../model/take';
import { meterMapOf } from '../part/part-time';
import { ticks, TICKS_PER_QUARTER } from '../units';
import { eventOfHit } from './hits-of-take';
import { hitsOfTake } from './use-take';

/** What a take without a click is written down by until its beats are found: any tempo would do. */
export const CLOCK_OF_FREE_TAKES: Pick<Take, 'tempo' | 'meter' | 'origin' | 'start'> = {
  tempo: [{ tick: ticks(0), microsecondsPerQuarter: 500_000 }],
  meter: [{ tick: ticks(0), numerator: 4, denominator: 4 }],
  origin: ticks(0),
  start: ticks(0),
};
const BAR = 4 * TICKS_PER_QUARTER;
const BAR_SECONDS = 2;

/** The end of a take that may last so many seconds: a bar line. */
export const endOfFreeTake = (lasting: number): Take['end'] => ticks(BAR * (Math.floor(Math.max(0, lasting) / BAR_SECONDS) + 1));

/** Whether a take without a click may become the part's hits: nothing else stands there, since the grid is made from what was played. */
export const takesFreeTake = (part: Pick<Part, 'hits' | 'breaks' | 'sections' | 'order'>, takeId: string | null): boolean =>
  !part.breaks?.length &&
  !part.sections?.length &&
  !part.order?.length &&
  part.hits.every((h) => takeId !== null && eventOfHit(h.id)?.take === takeId);

/** A part that is what was played without a click, by a clock that means nothing: its beats are found from there. */
export function partOfFreeTake(part: Part, take: Take, events: readonly TakeEvent[]): Part {
  const hits = hitsOfTake(part, take, events);
  const { playerTempo: _playerTempo, ...rest } = part;
  const { tempo, meter, origin } = take;
  const last = hits.at(-1)?.tick ?? origin;
  const rows = rowsWith(part.rows, new Set(hits.map((h) => h.voice)));
  return { ...rest, tempo, meter, origin, hits, rows, bars: Math.max(1, meterMapOf({ meter, origin }).barAt(last).index + 1) };
}
