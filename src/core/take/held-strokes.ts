import type { Part } from '../model/part';
import { tempoMapOf, meterMapOf } from '../part/part-time';
import { stepOf, type GridName } from '../time/grid';
import { ticks, type Seconds, type Ticks } from '../units';
import type { VoiceName } from '../row-names';

/** Where a feel's swing puts lines of a row. */
export type PlaceLines = (row: VoiceName, lines: readonly Ticks[]) => ArrayLike<number>;

/** Moments nearer than this are one, in seconds: what is asked for piece by piece meets at them. */
const INSTANT = 1e-9;

/**
 * When a pad that is held strikes: on the lines of a grid, as swung, in seconds from the start of the first pass of a loop.
 * @param from this moment itself does not count: the pad was struck then
 * @example 1/8 at 120 BPM, straight: strokesHeld(part, loop, '1/8', 'snare', 0.1, 1, lines) // [0.25, 0.5, 0.75, 1]
 */
export function strokesHeld(
  part: Pick<Part, 'tempo' | 'meter' | 'origin'>,
  loop: { start: Ticks; end: Ticks },
  grid: GridName,
  row: VoiceName,
  from: number,
  until: number,
  place: PlaceLines,
): Seconds[] {
  const tempo = tempoMapOf(part);
  const begin = tempo.toSeconds(loop.start);
  const length = tempo.toSeconds(loop.end) - begin;
  if (length <= 0) return [];
  const times = linesOf(part, loop, grid);
  const swung = Array.from(place(row, times), (tick) => tempo.toSeconds(ticks(tick)) - begin);
  const found: Seconds[] = [];
  // A line that swing puts behind the end belongs to this pass all the same.
  for (let pass = Math.max(0, Math.floor(from / length) - 1); pass * length <= until + INSTANT; pass++) {
    for (const at of swung) {
      const moment = pass * length + at;
      if (moment > from + INSTANT && moment <= until + INSTANT) found.push(moment as Seconds);
    }
  }
  return found.sort((a, b) => a - b);
}

/** The lines of a grid in a loop; they restart at each bar line. */
function linesOf(part: Pick<Part, 'meter' | 'origin'>, { start, end }: { start: Ticks; end: Ticks }, grid: GridName): Ticks[] {
  const map = meterMapOf(part);
  const step = stepOf(grid);
  const lines: Ticks[] = [];
  for (let bar = map.barAt(start); bar.start < end; bar = map.barOf(bar.index + 1)) {
    for (let at = 0; at < bar.length - 1e-6; at += step) {
      const tick = bar.start + at;
      if (tick >= start && tick < end) lines.push(ticks(tick));
    }
  }
  return lines;
}
