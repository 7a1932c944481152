import type { Bar, MeterMap } from '../time/meter-map';
import { ticks, TICKS_PER_QUARTER, type Ticks } from '../units';

/** A stretch of a bar that is read at once: a quarter, three eighths, or what is left of a shorter group. */
export interface Cell {
  start: Ticks;
  length: Ticks;
  /** Index of its bar; negative before the origin. */
  bar: number;
  /** Ticks from its bar line. */
  place: number;
  /** Length of its bar, in ticks. */
  barLength: number;
  /** In 1/24 of a quarter: its place in the bar, its length, and the bar's. */
  slot: number;
  slots: number;
  slotsOfBar: number;
}

/** All lines are multiples of this: 1/24 of a quarter. */
export const FINEST = TICKS_PER_QUARTER / 24;

const QUARTER = TICKS_PER_QUARTER;
const THREE_EIGHTHS = (3 * QUARTER) / 2;

const slotOf = (length: number): number => Math.round(length / FINEST);
export const isThreeEighths = (length: number): boolean => length === THREE_EIGHTHS;

/**
 * The cells of a bar: groups of whole quarters are split into quarters, groups of three eighths stay whole, shorter groups are joined up
 * to a quarter; a bar that is cut short cuts its last cell.
 */
export function cellsOfBar(map: MeterMap, bar: Bar): Cell[] {
  const cells: Cell[] = [];
  const add = (from: number, to: number) =>
    cells.push({
      start: ticks(bar.start + from),
      length: ticks(to - from),
      bar: bar.index,
      place: from,
      barLength: bar.length,
      slot: slotOf(from),
      slots: slotOf(to - from),
      slotsOfBar: slotOf(bar.length),
    });
  let from = 0;
  let to = 0;
  const close = () => {
    if (to > from) add(from, to);
    from = to;
  };
  for (const beat of map.beatsOf(bar)) {
    const start = beat.start - bar.start;
    if (beat.length === THREE_EIGHTHS || beat.length >= QUARTER) {
      close();
      from = to = start;
      const whole = beat.length === THREE_EIGHTHS ? beat.length : QUARTER;
      while (to < start + beat.length) {
        to = Math.min(to + whole, start + beat.length);
        close();
      }
      continue;
    }
    if (to + beat.length - from > QUARTER) close();
    to += beat.length;
  }
  close();
  return cells;
}

/** The cells that hold hits, in time order, and which of them each hit lies in. @param times sorted ticks */
export function cellsOfHits(map: MeterMap, times: ArrayLike<number>): { cells: Cell[]; of: Int32Array } {
  const cells: Cell[] = [];
  const of = new Int32Array(times.length);
  let inBar: Cell[] = [];
  let k = 0;
  let bar: Bar | null = null;
  for (let i = 0; i < times.length; i++) {
    const time = times[i] as number;
    if (!bar || time < bar.start || time >= bar.start + bar.length) {
      bar = map.barAt(ticks(time));
      inBar = cellsOfBar(map, bar);
      k = 0;
    }
    while (k + 1 < inBar.length && (inBar[k + 1] as Cell).start <= time) k++;
    const cell = inBar[k] as Cell;
    if (cells.length === 0 || cells[cells.length - 1] !== cell) cells.push(cell);
    of[i] = cells.length - 1;
  }
  return { cells, of };
}
