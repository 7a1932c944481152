/** How much strokes swing, measured from the lines that they belong to. */
import type { Hit, Part } from '../model/part';
import { indicesByVoice } from '../part/by-voice';
import { columnsOfHits } from '../part/columns';
import { meterMapOf } from '../part/part-time';
import { ticks, TICKS_PER_QUARTER } from '../units';

/** How far second lines of pairs stand back, in percent of the pair: 50 is straight. */
export interface Swing {
  percent: number;
  n: number;
  /** Standard deviation in points, of the population. */
  sd: number;
}

export interface SwingOfBars extends Swing {
  /** 1-based, both included. */
  fromBar: number;
  toBar: number;
}

export interface Swings {
  division: '1/8' | '1/16';
  /** Of all rows, by bars that swing alike. */
  bars: SwingOfBars[];
  whole: Swing;
  /** Of each row that has enough seconds, over the whole part. */
  rows: Map<string, Swing>;
}

/** Fewer second strokes tell nothing. */
export const FEWEST_SECONDS = 4;
/** Without first strokes to measure from, less than this is no swing. */
export const WITHOUT_FIRSTS = 57;
/** What is taken for swing, in percent. */
export const SWING_LIMITS = [53, 72] as const;
const POINTS_APART = 2.5;

/** A stroke on the second line of a pair: how far back it stands, in percent of the pair, its row's lean taken off. */
export interface Second {
  row: string;
  bar: number;
  percent: number;
}

export function measured(seconds: readonly Second[]): Swing {
  const n = seconds.length;
  const percent = seconds.reduce((sum, s) => sum + s.percent, 0) / n;
  return { percent, n, sd: Math.sqrt(seconds.reduce((sum, s) => sum + (s.percent - percent) ** 2, 0) / n) };
}

/** Neighbouring bars whose means differ by no more than they may by accident are said as one. */
export function mergedBars(seconds: readonly Second[]): SwingOfBars[] {
  const byBar = new Map<number, Second[]>();
  for (const s of seconds) {
    const own = byBar.get(s.bar);
    if (own) own.push(s);
    else byBar.set(s.bar, [s]);
  }
  const groups: SwingOfBars[] = [];
  for (const [bar, own] of [...byBar].sort(([a], [b]) => a - b)) {
    const last = groups.at(-1);
    const now = measured(own);
    if (last && areAlike(last, now)) groups[groups.length - 1] = { ...joined(last, now), fromBar: last.fromBar, toBar: bar + 1 };
    else groups.push({ ...now, fromBar: bar + 1, toBar: bar + 1 });
  }
  return groups;
}

/** Mean and deviation of two groups as one. */
function joined(a: Swing, b: Swing): Swing {
  const n = a.n + b.n;
  const percent = (a.n * a.percent + b.n * b.percent) / n;
  const square = (a.n * (a.sd ** 2 + (a.percent - percent) ** 2) + b.n * (b.sd ** 2 + (b.percent - percent) ** 2)) / n;
  return { percent, n, sd: Math.sqrt(square) };
}

function areAlike(a: Swing, b: Swing): boolean {
  const error = Math.sqrt(a.sd ** 2 / a.n + b.sd ** 2 / b.n);
  return Math.abs(a.percent - b.percent) <= Math.max(POINTS_APART, 2 * error);
}

/** A row whose second strokes stand back by less is straight, as a share of the pair. */
const STRAIGHT_UP_TO = 0.515;
/** Swung is better than straight by so many nats, or there is no swing. */
const SWING_NATS = 5;
/** Strokes are never placed more closely than this, in ticks: 2 ms at 120. */
const CLOSEST = 0.004 * TICKS_PER_QUARTER;

type Measured = Pick<Part, 'hits' | 'meter' | 'origin'>;

/**
 * How much a part swings by itself, of eighths or sixteenths, whichever is plainer; null where straight explains it as well. Strokes belong
 * to
 * the lines that are their homes; of several on one line the loudest counts.
 * @param times where they sound, in ticks; as written without it
 * @param isAsked hits by index; all without it
 */
export function foundSwings(
  part: Measured,
  times: ArrayLike<number> = columnsOfHits(part.hits).ticks,
  isAsked: (index: number) => boolean = () => true,
): Swings | null {
  return swingsOnLines(
    part,
    Float64Array.from(part.hits, (hit) => hit.home),
    times,
    isAsked,
  );
}

/** The same for hits that belong to other lines than their homes. @param homes the line of each hit, in ticks */
export function swingsOnLines(
  part: Measured,
  homes: Float64Array,
  times: ArrayLike<number>,
  isAsked: (index: number) => boolean,
): Swings | null {
  const strokes = mainStrokes(part, homes, isAsked);
  const [eighths, sixteenths] = [ofDivision(part, homes, times, strokes, '1/8'), ofDivision(part, homes, times, strokes, '1/16')];
  const best = !sixteenths || (eighths && eighths.gain > sixteenths.gain) ? eighths : sixteenths;
  return best && best.gain > SWING_NATS ? best.swings : null;
}

/** By row: the loudest stroke of each line. */
function mainStrokes({ hits }: Measured, homes: Float64Array, isAsked: (index: number) => boolean): Map<string, number[]> {
  const rows = new Map<string, number[]>();
  for (const [voice, indices] of indicesByVoice(hits)) {
    const main = new Map<number, number>();
    for (const i of indices) {
      const hit = hits[i] as Hit;
      if (hit.choke || !isAsked(i)) continue;
      const home = homes[i] as number;
      const other = main.get(home);
      if (other === undefined || hit.velocity > (hits[other] as Hit).velocity) main.set(home, i);
    }
    if (main.size > 0) rows.set(voice, [...main.values()]);
  }
  return rows;
}

function ofDivision(
  part: Measured,
  homes: Float64Array,
  times: ArrayLike<number>,
  rows: ReadonlyMap<string, readonly number[]>,
  division: Swings['division'],
): { gain: number; swings: Swings } | null {
  const map = meterMapOf(part);
  const pair = division === '1/8' ? TICKS_PER_QUARTER : TICKS_PER_QUARTER / 2;
  const found = [...rows].map(([row, indices]) => {
    const seconds: { bar: number; place: number }[] = [];
    let [firsts, lean] = [0, 0];
    for (const i of indices) {
      const home = homes[i] as number;
      const bar = map.barAt(ticks(home));
      const place = (home - bar.start) % pair;
      if (place === 0) {
        firsts++;
        lean += (times[i] as number) - home;
      } else if (place === pair / 2 && home - place + pair <= bar.start + bar.length)
        seconds.push({ bar: bar.index, place: (times[i] as number) - (home - place) });
    }
    return { row, firsts, lean: firsts > 0 ? lean / firsts : 0, seconds };
  });
  const isEnough = ({ firsts, seconds }: (typeof found)[number]): boolean => firsts >= FEWEST_SECONDS && seconds.length >= FEWEST_SECONDS;
  const anchored = found.some(isEnough);
  const enough = anchored ? found.filter(isEnough) : found.filter(({ seconds }) => seconds.length >= FEWEST_SECONDS);
  // Leave out straight rows: they would pull the average towards 50 %.
  const used = enough.filter(
    ({ lean, seconds }) => (seconds.reduce((sum, s) => sum + s.place, 0) / seconds.length - (anchored ? lean : 0)) / pair >= STRAIGHT_UP_TO,
  );
  const seconds = used.flatMap(({ row, lean, seconds: own }) =>
    own.map(({ bar, place }): Second => ({ row, bar, percent: ((place - (anchored ? lean : 0)) / pair) * 100 })),
  );
  if (seconds.length < FEWEST_SECONDS) return null;
  const whole = measured(seconds);
  if (whole.percent < SWING_LIMITS[0] || whole.percent > SWING_LIMITS[1] || (!anchored && whole.percent < WITHOUT_FIRSTS)) return null;
  const closest = (CLOSEST / pair) * 100;
  const spread = whole.sd ** 2 + closest ** 2;
  const gain = (whole.n / 2) * Math.log((spread + (whole.percent - 50) ** 2) / spread);
  const byRow = new Map<string, Second[]>();
  for (const s of seconds) {
    const own = byRow.get(s.row);
    if (own) own.push(s);
    else byRow.set(s.row, [s]);
  }
  const ofRows = new Map([...byRow].map(([row, own]) => [row, measured(own)] as const));
  return { gain, swings: { division, whole, rows: ofRows, bars: mergedBars(seconds) } };
}

/** How much a bar swings, 1-based: as its own group does, else as the whole. */
export const swingAt = ({ bars, whole }: Swings, bar: number): number =>
  (bars.find((b) => bar >= b.fromBar && bar <= b.toBar) ?? whole).percent;
