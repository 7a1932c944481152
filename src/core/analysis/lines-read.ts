/** Which lines the hits of a part belong to, and how much it swings: what was read, in numbers. */
import { gridOfLine, isDoubtful } from '../homes/homes';
import { foundSwings, type Swings } from '../homes/swings';
import type { Hit, HitId, Part } from '../model/part';
import { meterMapOf } from '../part/part-time';
import { isTriplet, stepOf, type GridName } from '../time/grid';
import { ticks, type Ticks } from '../units';
import type { VoiceName } from '../row-names';

/** Uncertain hits of a row at one place of the bar that may belong to the same two lines. */
export interface DoubtfulGroup {
  voice: VoiceName;
  /** Hits in time order, with how likely their homes are. */
  hits: readonly { id: HitId; sure: number }[];
  /** The two lines of the first of them. */
  home: Ticks;
  other: Ticks;
}

export interface LinesRead {
  /** The finest binary grid that more than a few hits need; null without hits. */
  finest: GridName | null;
  /** Beats with hits on lines of thirds: bar and beat from 0. */
  triplets: readonly { bar: number; beat: number }[];
  /** Hits of beats with thirds, and all hits. */
  ofTriplets: number;
  hits: number;
  /** How much it swings by itself, as written; null where straight explains it as well. */
  swings: Swings | null;
  /** Many alike together, the largest group first. */
  doubtful: readonly DoubtfulGroup[];
}

/** A finer grid needs at least this share of the hits. */
const FEW = 0.02;

/** What a part's homes say. */
export function linesRead(part: Pick<Part, 'hits' | 'meter' | 'origin'>): LinesRead {
  const map = meterMapOf(part);
  const counts = new Map<GridName, number>();
  const beats = new Map<string, { bar: number; beat: number }>();
  const groups = new Map<string, { voice: VoiceName; hits: { id: HitId; sure: number }[]; home: Ticks; other: Ticks }>();
  let ofTriplets = 0;
  for (const hit of part.hits) {
    const grid = gridOfLine(map, hit.home);
    const bar = map.barAt(hit.home);
    if (grid && isTriplet(grid)) {
      ofTriplets++;
      const beat = map.beatAt(bar, hit.home).index;
      beats.set(`${bar.index} ${beat}`, { bar: bar.index, beat });
    } else if (grid) counts.set(grid, (counts.get(grid) ?? 0) + 1);
    if (isDoubtful(hit)) addDoubtful(groups, hit, bar.start);
  }
  const needed = [...counts].filter(([, n]) => n > FEW * part.hits.length).map(([grid]) => grid);
  return {
    finest: needed.sort((a, b) => stepOf(a) - stepOf(b))[0] ?? null,
    triplets: [...beats.values()].sort((a, b) => a.bar - b.bar || a.beat - b.beat),
    ofTriplets,
    hits: part.hits.length,
    swings: foundSwings(part),
    doubtful: [...groups.values()].sort((a, b) => b.hits.length - a.hits.length || a.home - b.home),
  };
}

function addDoubtful(
  groups: Map<string, { voice: VoiceName; hits: { id: HitId; sure: number }[]; home: Ticks; other: Ticks }>,
  hit: Hit,
  barStart: number,
) {
  const other = hit.other ?? hit.home;
  const key = `${hit.voice} ${hit.home - barStart} ${other - barStart}`;
  const entry = { id: hit.id, sure: hit.sure ?? 1 };
  const group = groups.get(key);
  if (group) group.hits.push(entry);
  else groups.set(key, { voice: hit.voice, hits: [entry], home: hit.home, other: ticks(other) });
}
