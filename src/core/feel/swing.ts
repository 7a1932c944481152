import { stepOf } from '../time/grid';
import type { Bar } from '../time/meter-map';
import { STRAIGHT, type SwingDivision, type SwingMove } from '../model/feel';

/**
 * A map of places within one pair of divisions, piecewise linear: 0 up to 1/16 of the pair, then rising to the full shift
 * at 7/16, held to 9/16, falling to 0 at 15/16. Whatever leans around one of the two lines keeps its lean exactly, the order
 * of places is kept, and the map has an exact inverse.
 */
export function swingShift(place: number, pair: number, percent: number): number {
  const full = (percent / 100 - STRAIGHT / 100) * pair;
  const u = (place / pair) * 16;
  if (u <= 1 || u >= 15) return 0;
  if (u < 7) return (full * (u - 1)) / 6;
  if (u <= 9) return full;
  return (full * (15 - u)) / 6;
}

/** The shift that undoes {@link swingShift}: for every place, `p + s + unswingShift(p + s)` is p again. */
export function unswingShift(swung: number, pair: number, percent: number): number {
  const full = (percent / 100 - STRAIGHT / 100) * pair;
  const rise = pair / 16;
  const fall = (pair * 15) / 16;
  if (swung <= rise || swung >= fall) return 0;
  const holdFrom = (pair * 7) / 16 + full;
  const holdTo = (pair * 9) / 16 + full;
  if (swung >= holdFrom && swung <= holdTo) return -full;
  const slope = full / ((6 / 16) * pair);
  // On the way up: swung = p + slope (p - rise); on the way down: swung = p + slope (fall - p).
  const p = swung < holdFrom ? (swung + slope * rise) / (1 + slope) : (swung - slope * fall) / (1 - slope);
  return p - swung;
}

/** Applies a swing move to a tick of the given bar; the last incomplete pair of a bar stays straight. */
export function swingTick(tick: number, bar: Bar, move: SwingMove): number {
  if (move.percent === STRAIGHT) return tick;
  const pair = 2 * stepOf(move.division);
  const place = tick - bar.start;
  const pairStart = Math.floor(place / pair) * pair;
  if (pairStart + pair > bar.length) return tick;
  const p = place - pairStart;
  return tick + (move.inverse ? unswingShift(p, pair, move.percent) : swingShift(p, pair, move.percent));
}

/** Swing depths as whole-number ratios of the first to the second division. */
export const SWING_RATIOS = ['1:1', '5:4', '4:3', '3:2', '5:3', '2:1', '3:1'] as const;

/** @example percentOfRatio('2:1') // 66.67 */
export function percentOfRatio(ratio: (typeof SWING_RATIOS)[number]): number {
  const [long, short] = ratio.split(':').map(Number) as [number, number];
  return Math.round((long / (long + short)) * 1e4) / 100;
}

/** The whole-number ratio that a percentage stands for, or the decimal one: 58 gives '1.38:1'. */
export function ratioOfPercent(percent: number): string {
  const exact = SWING_RATIOS.find((r) => Math.abs(percentOfRatio(r) - percent) < 0.02);
  return exact ?? `${(percent / (100 - percent)).toFixed(2)}:1`;
}

/**
 * The word for a swing: every scale shows it beside the number.
 * @example wordOfPercent(66.67) // 'triplet'
 */
export function wordOfPercent(percent: number): string {
  if (percent < 49.5) return 'rushed';
  if (percent <= 50.5) return 'straight';
  if (percent < 55) return 'a hint';
  if (percent < 60) return 'light';
  if (percent < 65.5) return 'medium';
  if (percent <= 68) return 'triplet';
  if (percent < 74) return 'hard';
  if (percent <= 76) return 'dotted';
  return 'beyond dotted';
}

/** How late the off-beat of a pair comes against the straight one, in ms at a tempo (quarters a minute). */
export function swingMilliseconds(percent: number, division: SwingDivision, tempo: number): number {
  const pairMs = ((2 * stepOf(division)) / 80640) * (60000 / tempo);
  return (percent / 100 - STRAIGHT / 100) * pairMs;
}
