import type { Break } from '../model/break';
import type { Part } from '../model/part';
import { meterMapOf } from '../part/part-time';
import { seconds, ticks, TICKS_PER_QUARTER, withoutSign, type Seconds, type Ticks } from '../units';

type Bars = Pick<Part, 'meter' | 'origin'>;
type Counted = Pick<Break, 'lines' | 'bar'>;

export const barsOfBreak = ({ lines }: Pick<Break, 'lines'>): number => lines.length - 1;

/** Quarter notes a minute, over all of its bars. @example bpmOfBreak({ lines: [0, 2], meter: [4, 4] }) // 120 */
export function bpmOfBreak({ lines, meter: [numerator, denominator] }: Pick<Break, 'lines' | 'meter'>): number {
  const length = (lines.at(-1) as number) - (lines[0] as number);
  return (60 * (lines.length - 1) * numerator * 4) / denominator / length;
}

/** How often it begins in a part. */
export const roundsOfBreak = (part: Pick<Part, 'bars'>, { lines, bar }: Counted): number =>
  Math.max(0, Math.ceil((part.bars - bar) / (lines.length - 1)));

/** The bar of the recording that a moment lies in; outside, the nearest one. */
function barAt({ lines }: Counted, at: number): number {
  let bar = 0;
  while (bar < lines.length - 2 && at >= (lines[bar + 1] as number)) bar++;
  return bar;
}

/** Where a moment of the recording lies in the part, in one of its rounds: by the bar lines on either side of it. */
export function tickOfMoment(part: Bars, counted: Counted, at: number, round = 0): Ticks {
  const i = barAt(counted, at);
  const [from, to] = [counted.lines[i] as number, counted.lines[i + 1] as number];
  const { start, length } = meterMapOf(part).barOf(counted.bar + round * (counted.lines.length - 1) + i);
  return ticks(withoutSign(Math.round(start + ((at - from) / (to - from)) * length)));
}

/** The other way, within the first round. */
export function momentOfTick(part: Bars, { lines, bar }: Counted, tick: number): Seconds {
  const map = meterMapOf(part);
  const index = Math.max(0, Math.min(lines.length - 2, map.barAt(ticks(tick)).index - bar));
  const { start, length } = map.barOf(bar + index);
  const [from, to] = [lines[index] as number, lines[index + 1] as number];
  return seconds(from + ((tick - start) / length) * (to - from));
}

/** Lines at a steady tempo. @example steadyLines(0, 2, 120, [4, 4]) // [0, 2, 4] */
export function steadyLines(first: number, bars: number, bpm: number, [numerator, denominator]: readonly [number, number]): Seconds[] {
  const bar = (numerator * 4 * 60) / denominator / bpm;
  return Array.from({ length: bars + 1 }, (_, i) => seconds(first + i * bar));
}

/** Lines evenly between two flags. */
export const evenLines = (first: number, last: number, bars: number): Seconds[] =>
  Array.from({ length: bars + 1 }, (_, i) => seconds(first + ((last - first) * i) / bars));

/** Semitones that pieces go up by where their pitch follows the tempo. */
export function semitonesOfTempo(part: Bars, counted: Pick<Break, 'lines' | 'bar'>, bpm: number): number {
  const map = meterMapOf(part);
  const bars = counted.lines.length - 1;
  const quarters = (map.barOf(counted.bar + bars).start - map.barOf(counted.bar).start) / TICKS_PER_QUARTER;
  const own = (60 * quarters) / ((counted.lines.at(-1) as number) - (counted.lines[0] as number));
  return 12 * Math.log2(bpm / own);
}
