/** Bars that are alike, or nearly so. */
import { barOfHome, homesOf } from '../homes/homes';
import { meterMapOf } from '../part/part-time';
import type { Part } from '../model/part';
import { stepOf } from '../time/grid';
import type { VoiceName } from '../row-names';

/** Strokes are alike within so much of a 1/16, and so many velocities. */
export const ALIKE_STEP = 0.12;
export const ALIKE_VELOCITY = 12;

interface Stroke {
  voice: VoiceName;
  /** Ticks from the bar line. */
  place: number;
  velocity: number;
}

type Rows = Map<VoiceName, Stroke[]>;

/** Bars that are alike, and those of them that are not the same. */
interface Group {
  bars: number[];
  different: Map<string, Rows>;
}

/**
 * Bars (from 0) in groups of two or more: every stroke of each has one of the other's on its row, within 12 % of a 1/16 and 12 velocities.
 * @param places ticks and velocities where they are not as written, parallel to the hits
 */
export function alikeBars(part: Pick<Part, 'hits' | 'meter' | 'origin' | 'bars'>, places?: { ticks: ArrayLike<number>; velocities: ArrayLike<number> }): number[][] {
  const homes = homesOf(part);
  const map = meterMapOf(part);
  const bars = Array.from({ length: part.bars }, (): Rows => new Map());
  part.hits.forEach((hit, i) => {
    const bar = Math.max(0, barOfHome(part, homes.ticks[i] as number));
    const rows = bars[bar] as Rows;
    const stroke = { voice: hit.voice, place: ((places?.ticks[i] ?? hit.tick) as number) - map.barOf(bar).start, velocity: (places?.velocities[i] ?? hit.velocity) as number };
    const row = rows.get(hit.voice);
    if (row) row.push(stroke);
    else rows.set(hit.voice, [stroke]);
  });
  // Only bars with the same rows can be alike.
  const kinds = new Map<string, Group[]>();
  bars.forEach((rows, bar) => {
    for (const row of rows.values()) row.sort((a, b) => a.place - b.place);
    const kind = [...rows.keys()].sort().join(' ');
    const groups = kinds.get(kind) ?? (kinds.set(kind, []).get(kind) as Group[]);
    const name = JSON.stringify([...rows.values()].map((row) => row.map((s) => [s.voice, s.place, s.velocity])).sort());
    const found = groups.find((g) => g.different.has(name) || [...g.different.values()].every((other) => areAlike(rows, other)));
    if (found) {
      found.bars.push(bar);
      found.different.set(name, rows);
    } else groups.push({ bars: [bar], different: new Map([[name, rows]]) });
  });
  return [...kinds.values()].flat().map((g) => g.bars).filter((g) => g.length > 1).sort((a, b) => (a[0] as number) - (b[0] as number));
}

const areAlike = (a: Rows, b: Rows): boolean => [...a].every(([voice, strokes]) => covered(strokes, b.get(voice) ?? []) && covered(b.get(voice) ?? [], strokes));

/** Each stroke has one of the others near it. */
function covered(strokes: readonly Stroke[], others: readonly Stroke[]): boolean {
  const reach = ALIKE_STEP * stepOf('1/16');
  let from = 0;
  return strokes.every(({ place, velocity }) => {
    while (from < others.length && (others[from] as Stroke).place < place - reach) from++;
    for (let k = from; k < others.length && (others[k] as Stroke).place <= place + reach; k++) {
      if (Math.abs((others[k] as Stroke).velocity - velocity) <= ALIKE_VELOCITY) return true;
    }
    return false;
  });
}
