/** Bars that are alike, or nearly so. */
import { NamedError } from '../errors';
import { barOfHome, homesOf } from '../homes/homes';
import { meterMapOf } from '../part/part-time';
import type { Part } from '../model/part';
import { stepOf } from '../time/grid';
import type { VoiceName } from '../row-names';

/** Strokes are alike within so much of a 1/16, and so many velocities. */
export const ALIKE_STEP = 0.12;
export const ALIKE_VELOCITY = 12;

interface Stroke {
  /** Ticks from the bar line. */
  place: number;
  velocity: number;
}

/** A bar's strokes, row by row in the order of the rows' names, each by place. */
type Rows = Stroke[][];

/** Between what the strokes lie that stand at one place of a row. */
interface Span {
  places: [number, number];
  velocities: [number, number];
}

/** Bars that are alike, and those of them that are not the same. */
interface Group {
  bars: number[];
  different: Rows[];
  /** Between what its strokes lie, one by one; null where its bars have not as many strokes a row. */
  spans: Span[][] | null;
}

/** Groups of bars with the same rows, found by what their bars hold. */
interface Kind {
  groups: Group[];
  byName: Map<string, Group>;
  /** Groups by the cells that the strokes of their first bars lie in. */
  byCell: Map<number, number[]>;
}

/**
 * Bars (from 0) in groups of two or more: every stroke of each has one of the other's on its row, within 12 % of a 1/16 and 12 velocities.
 * @param places ticks and velocities where they are not as written, parallel to the hits
 * @param most so many strokes are compared at most
 * @throws NamedError too-much-to-compare where that is not enough
 */
export function alikeBars(
  part: Pick<Part, 'hits' | 'meter' | 'origin' | 'bars'>,
  places?: { ticks: ArrayLike<number>; velocities: ArrayLike<number> },
  most = Infinity,
): number[][] {
  const homes = homesOf(part);
  const map = meterMapOf(part);
  const bars = Array.from({ length: part.bars }, (): Map<VoiceName, Stroke[]> => new Map());
  part.hits.forEach((hit, i) => {
    const bar = Math.max(0, barOfHome(part, homes.ticks[i] as number));
    const rows = bars[bar] as Map<VoiceName, Stroke[]>;
    const stroke = {
      place: ((places?.ticks[i] ?? hit.tick) as number) - map.barOf(bar).start,
      velocity: (places?.velocities[i] ?? hit.velocity) as number,
    };
    const row = rows.get(hit.voice);
    if (row) row.push(stroke);
    else rows.set(hit.voice, [stroke]);
  });
  // Only bars with the same rows can be alike.
  const kinds = new Map<string, Kind>();
  let compared = 0;
  const isAlike = (rows: Rows, other: Rows): boolean => {
    const looks = countLooks(rows, other);
    compared += Math.abs(looks);
    if (compared > most) throw new NamedError('too-much-to-compare', { bars: part.bars });
    return looks > 0;
  };
  bars.forEach((byVoice, bar) => {
    const voices = [...byVoice.keys()].sort();
    const rows = voices.map((voice) => (byVoice.get(voice) as Stroke[]).sort((a, b) => a.place - b.place || a.velocity - b.velocity));
    const name = rows.map((row) => row.map((s) => `${s.place} ${s.velocity}`).join()).join('|');
    const kindName = voices.join(' ');
    let kind = kinds.get(kindName);
    if (!kind) kinds.set(kindName, (kind = { groups: [], byName: new Map(), byCell: new Map() }));
    let group = kind.byName.get(name);
    if (!group) {
      const { groups } = kind;
      const candidates = candidatesFor(rows, kind);
      compared += candidates.length / 8;
      const found = candidates.find((g) => {
        const { spans, different } = groups[g] as Group;
        // What is near all strokes at each place need not be compared with each bar.
        return fits(rows, spans) || different.every((other) => isAlike(rows, other));
      });
      group = found === undefined ? newGroup(rows, kind) : (groups[found] as Group);
      group.different.push(rows);
      group.spans = widened(group.spans, rows);
      kind.byName.set(name, group);
    }
    group.bars.push(bar);
  });
  return [...kinds.values()]
    .flatMap((k) => k.groups)
    .map((g) => g.bars)
    .filter((g) => g.length > 1)
    .sort((a, b) => (a[0] as number) - (b[0] as number));
}

const REACH = ALIKE_STEP * stepOf('1/16');
/** Cells as wide as strokes that are alike may be apart: of a stroke's partners each lies in its cell or a neighbour of it. */
const PLACES = 2 ** 20;
const VELOCITIES = 16;
const cellOf = (row: number, place: number, velocity: number): number => (row * PLACES + place + PLACES / 2) * VELOCITIES + velocity;
const placeCell = ({ place }: Stroke): number => Math.floor(place / REACH);
const velocityCell = ({ velocity }: Stroke): number => Math.floor(velocity / ALIKE_VELOCITY);
/** So many strokes of a bar are tried for the one that fewest groups have. */
const MOST_TRIED = 24;

function newGroup(rows: Rows, { groups, byCell }: Kind): Group {
  const group: Group = {
    bars: [],
    different: [],
    spans: rows.map((row) => row.map(({ place, velocity }) => ({ places: [place, place], velocities: [velocity, velocity] }))),
  };
  const cells = new Set(rows.flatMap((row, r) => row.map((stroke) => cellOf(r, placeCell(stroke), velocityCell(stroke)))));
  for (const cell of cells) {
    const known = byCell.get(cell);
    if (known) known.push(groups.length);
    else byCell.set(cell, [groups.length]);
  }
  groups.push(group);
  return group;
}

/** Groups whose first bar may be alike, in their order: those that have a partner for the stroke that fewest of them have one for. */
function candidatesFor(rows: Rows, { groups, byCell }: Kind): readonly number[] {
  if (groups.length === 0) return [];
  // Bars without hits are alike.
  if (rows.length === 0) return [0];
  let best: number[][] = [];
  let fewest = Infinity;
  let left = MOST_TRIED;
  for (let r = 0; r < rows.length && left > 0; r++) {
    for (const stroke of (rows[r] as Stroke[]).slice(0, left)) {
      left--;
      const near: number[][] = [];
      let count = 0;
      for (let place = -1; place <= 1; place++) {
        for (let level = -1; level <= 1; level++) {
          const list = byCell.get(cellOf(r, placeCell(stroke) + place, velocityCell(stroke) + level));
          if (!list) continue;
          near.push(list);
          count += list.length;
        }
      }
      if (count < fewest) [best, fewest] = [near, count];
    }
  }
  if (best.length === 1) return best[0] as number[];
  return [...new Set(best.flat())].sort((a, b) => a - b);
}

/** Whether a bar's strokes are near all of a group's, one by one: then it is alike with each of its bars. */
const fits = (rows: Rows, spans: Group['spans']): boolean =>
  spans !== null &&
  rows.every((row, r) => {
    const own = spans[r] as Span[];
    return (
      row.length === own.length &&
      row.every(({ place, velocity }, i) => {
        const { places, velocities } = own[i] as Span;
        return (
          place >= places[1] - REACH &&
          place <= places[0] + REACH &&
          velocity >= velocities[1] - ALIKE_VELOCITY &&
          velocity <= velocities[0] + ALIKE_VELOCITY
        );
      })
    );
  });

function widened(spans: Group['spans'], rows: Rows): Group['spans'] {
  if (!spans || rows.some((row, r) => row.length !== (spans[r] as Span[]).length)) return null;
  rows.forEach((row, r) =>
    row.forEach(({ place, velocity }, i) => {
      const { places, velocities } = (spans[r] as Span[])[i] as Span;
      [places[0], places[1]] = [Math.min(places[0], place), Math.max(places[1], place)];
      [velocities[0], velocities[1]] = [Math.min(velocities[0], velocity), Math.max(velocities[1], velocity)];
    }),
  );
  return spans;
}

/** How many strokes were looked at to find out whether two bars with the same rows are alike; negative where they are not. */
function countLooks(a: Rows, b: Rows): number {
  let looks = 1;
  for (let r = 0; r < a.length; r++) {
    const [one, other] = [a[r] as Stroke[], b[r] as Stroke[]];
    looks += one.length + other.length;
    if (!covered(one, other) || !covered(other, one)) return -looks;
  }
  return looks;
}

/** Each stroke has one of the others near it. */
function covered(strokes: readonly Stroke[], others: readonly Stroke[]): boolean {
  let from = 0;
  for (const { place, velocity } of strokes) {
    while (from < others.length && (others[from] as Stroke).place < place - REACH) from++;
    let k = from;
    while (
      k < others.length &&
      (others[k] as Stroke).place <= place + REACH &&
      Math.abs((others[k] as Stroke).velocity - velocity) > ALIKE_VELOCITY
    )
      k++;
    if (k === others.length || (others[k] as Stroke).place > place + REACH) return false;
  }
  return true;
}
