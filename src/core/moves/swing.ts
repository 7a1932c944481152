import { homesOf } from '../homes/homes';
import { meterMapOf } from '../part/part-time';
import { stepOf } from '../time/grid';
import type { MeterMap } from '../time/meter-map';
import { ticks, TICKS_PER_QUARTER } from '../units';
import type { Hit, Part } from '../model/part';
import { voiceNumbers } from '../part/by-voice';
import { columnsOfHits, MARKS } from '../part/columns';
import { rollCount, rollLength, rollSpan } from '../part/roll-strokes';
import { MAX_SWING, MIN_SWING, SWING_DIVISIONS, type SwingMove } from '../model/feel';
import type { Performable } from '../feel/work';
import { swingTick } from '../feel/swing';
import { choice, number, optional, type ApplyMove, type MoveSpec } from '../feel/move-spec';

/** Moves the off-beats, and the homes along with them: a perfectly swung hit has lean 0. */
const applySwing: ApplyMove<SwingMove> = (move, { part, range, times, lines, placedHomes, map }, inScope) => {
  const swung = swingOf(move, part, lines, map);
  for (let i = range.from; i < range.to; i++) {
    if (!inScope(i)) continue;
    const line = lines[i] as number;
    times[i] = swung(i, times[i] as number, line);
    placedHomes[i] = swung(i, placedHomes[i] as number, line);
  }
};

/**
 * How a swing move places ticks of a hit's row, `line` being the line that they belong to: as they are in pairs where the row has a
 * stroke on a line that is no binary one. A beat of thirds stays a beat of thirds in a swung bar.
 */
export function swingOf(
  move: SwingMove,
  part: Pick<Part, 'hits' | 'meter' | 'origin'>,
  lines: Float64Array,
  map: MeterMap,
): (index: number, tick: number, line: number) => number {
  const swung = (tick: number): number => swingTick(tick, map.barAt(ticks(tick)), move);
  if (move.lines === 'all') return (_index, tick) => swung(tick);
  const pair = 2 * stepOf(move.division);
  const straight = straightPairs(part, lines, pair, map);
  if (straight.size === 0) return (_index, tick) => swung(tick);
  const { numbers } = voiceNumbers(part.hits);
  return (index, tick, line) => (straight.get(numbers[index] as number)?.has(pairAt(map, line, pair)) ? tick : swung(tick));
}

/** Lines of a quarter that are no whole multiple of 1/256 are those of no binary division. */
export const BINARY = TICKS_PER_QUARTER / 256;

/** The tick at which the pair of a line starts. */
function pairAt(map: MeterMap, line: number, pair: number): number {
  const { start } = map.barAt(ticks(line));
  return start + Math.floor((line - start) / pair) * pair;
}

const straightCache = new WeakMap<Float64Array, { map: MeterMap; pair: number; pairs: Map<number, Set<number>> }>();

/** By row, as its number: the pairs that are not swung. */
function straightPairs(
  part: Pick<Part, 'hits' | 'meter' | 'origin'>,
  lines: Float64Array,
  pair: number,
  map: MeterMap,
): Map<number, Set<number>> {
  const known = straightCache.get(lines);
  if (known && known.map === map && known.pair === pair) return known.pairs;
  const { hits } = part;
  const { numbers } = voiceNumbers(hits);
  const pairs = new Map<number, Set<number>>();
  const { marks } = columnsOfHits(hits);
  const check = (row: number, line: number) => {
    const steps = (line - map.barAt(ticks(line)).start) / BINARY;
    if (steps === Math.floor(steps)) return;
    const own = pairs.get(row);
    if (own) own.add(pairAt(map, line, pair));
    else pairs.set(row, new Set([pairAt(map, line, pair)]));
  };
  for (let i = 0; i < lines.length; i++) {
    const row = numbers[i] as number;
    const line = lines[i] as number;
    check(row, line);
    if (((marks[i] as number) & MARKS.ornament) === 0) continue;
    const roll = (hits[i] as Hit).ornament;
    if (roll?.kind !== 'roll' || roll.speed !== 0) continue;
    const length = rollLength(part, i);
    const count = rollCount(roll, length);
    for (let k = 1; k < count; k++) check(row, line + (rollSpan(roll, length, count) * k) / count);
  }
  straightCache.set(lines, { map, pair, pairs });
  return pairs;
}

const DEFAULT_SWING = 56;
const EIGHTH_SWING = 60;

export const swingMove: MoveSpec<SwingMove> = {
  kind: 'swing',
  members: {
    division: choice(SWING_DIVISIONS),
    percent: number(MIN_SWING, MAX_SWING),
    inverse: optional({ is: 'flag' }),
    lines: optional(choice(['binary', 'all'])),
  },
  plain: { kind: 'swing', division: '1/16', percent: DEFAULT_SWING },
  // Eighths where hits stand on these alone, else sixteenths; in a part without hits as well.
  first: (part) => (part.hits.length === 0 || hasSixteenths(part) ? {} : { division: '1/8', percent: EIGHTH_SWING }),
  salt: 'swing',
  draws: false,
  apply: applySwing,
};

/** Whether any hit belongs to the second sixteenth of a pair. */
function hasSixteenths(part: Performable): boolean {
  const map = meterMapOf(part);
  const homes = homesOf(part);
  const step = stepOf('1/16');
  return part.hits.some((_, i) => {
    const home = homes.ticks[i] as number;
    const n = Math.round((home - map.barAt(ticks(home)).start) / step);
    return n % 2 === 1;
  });
}
