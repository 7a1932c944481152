/** Commands that move hits along the grid, and fill or empty its steps. */
import { homesOf, shifted, withoutReading } from '../homes/homes';
import { nearestPlace, stepOf, type GridName } from '../time/grid';
import { ticks, type Ticks } from '../units';
import { keyOfVoice } from '../key-map';
import type { VoiceName } from '../row-names';
import { indicesByVoice } from '../part/by-voice';
import { endOfPart, meterMapOf } from '../part/part-time';
import { compareHits, type Hit, type HitId, type Part } from '../model/part';
import type { TickRange } from '../homes/ticks-range';
import { addHits, changeHits, removeHits, rowsWith } from './hits';

/** A hit at another tick; its lines go along. */
export const atTick = (hit: Hit, tick: Ticks): Hit => shifted(hit, tick - hit.tick);

/** The key that new hits of a voice get in this part: the one its hits have, else the kit's. */
export function keyInPart(part: Pick<Part, 'hits' | 'kitMap'>, voice: VoiceName): number {
  const index = indicesByVoice(part.hits).get(voice)?.[0];
  return index === undefined ? keyOfVoice(part.kitMap, voice) : (part.hits[index] as Hit).key;
}

/**
 * Moves hits in time by hand, all by the same ticks; as far as the first or last of them reaches the part's edge. Their lines go along and
 * are no longer doubtful; nudges stay.
 */
export function moveHits(part: Part, ids: ReadonlySet<HitId>, by: number): Part {
  let first = Infinity;
  let last = -Infinity;
  for (const hit of part.hits) {
    if (!ids.has(hit.id)) continue;
    first = Math.min(first, hit.tick);
    last = Math.max(last, hit.tick);
  }
  if (first === Infinity) return part;
  const earliest = Math.min(0, part.origin - first);
  const latest = Math.max(0, endOfPart(part) - 1 - last);
  const delta = Math.round(Math.min(latest, Math.max(earliest, by)));
  return delta === 0
    ? part
    : changeHits(part, ids, (hit) => ({ ...(withoutReading(atTick(hit, ticks(hit.tick + delta))) as Hit), placed: true }));
}

/** Gives hits another voice and its key. */
export function setVoice(part: Part, ids: ReadonlySet<HitId>, voiceOf: (hit: Hit) => VoiceName): Part {
  const keys = new Map<VoiceName, number>();
  const keyOf = (voice: VoiceName): number => {
    if (!keys.has(voice)) keys.set(voice, keyInPart(part, voice));
    return keys.get(voice) as number;
  };
  const moved = changeHits(part, ids, (hit) => {
    const voice = voiceOf(hit);
    return voice === hit.voice ? hit : { ...hit, voice, key: keyOf(voice) };
  });
  return moved === part ? part : { ...moved, hits: [...moved.hits].sort(compareHits), rows: rowsWith(part.rows, keys.keys()) };
}

/**
 * Shifts hits by steps of a grid within a range: what leaves it at one end comes in at the other. Hits go by their homes, so an
 * early hit wraps with its line.
 */
export function shiftHits(part: Part, ids: ReadonlySet<HitId>, steps: number, grid: GridName, range: TickRange): Part {
  const homes = homesOf(part);
  const length = range.end - range.start;
  if (length <= 0) return part;
  const indexOf = new Map(part.hits.map((h, i) => [h.id, i]));
  const by = steps * stepOf(grid);
  return changeHits(part, ids, (hit) => {
    const home = homes.ticks[indexOf.get(hit.id) as number] as number;
    const wrapped = range.start + mod(home - range.start + by, length);
    return atTick(hit, ticks(Math.round(hit.tick + wrapped - home)));
  });
}

const mod = (n: number, m: number): number => ((n % m) + m) % m;

/** Every line of a grid within a range; lines restart at each bar line. */
export function linesOf(part: Pick<Part, 'meter' | 'origin'>, grid: GridName, range: TickRange): Ticks[] {
  const map = meterMapOf(part);
  const step = stepOf(grid);
  const lines: Ticks[] = [];
  for (let bar = map.barAt(range.start); bar.start < range.end; bar = map.barOf(bar.index + 1)) {
    for (let place = 0; place < bar.length; place += step) {
      const line = bar.start + place;
      if (line >= range.start && line < range.end) lines.push(ticks(line));
    }
  }
  return lines;
}

/** The lines of a grid that some hits of a voice occupy: each hit takes its nearest line. */
function occupied(part: Part, voice: VoiceName, grid: GridName): Set<number> {
  const map = meterMapOf(part);
  const step = stepOf(grid);
  return new Set(
    (indicesByVoice(part.hits).get(voice) ?? []).map((i) => {
      const { tick } = part.hits[i] as Hit;
      const bar = map.barAt(tick);
      return bar.start + nearestPlace(tick - bar.start, step, bar.length);
    }),
  );
}

/** The lines of a grid in a range where a voice has no hit. */
export function freeLines(part: Part, voice: VoiceName, grid: GridName, range: TickRange): Ticks[] {
  const taken = occupied(part, voice, grid);
  return linesOf(part, grid, range).filter((line) => !taken.has(line));
}

export interface Inversion {
  voice: VoiceName;
  grid: GridName;
  range: TickRange;
  velocity: number;
  /** Hits that may be taken away: locked ones are left out by the caller. */
  removable: ReadonlySet<HitId>;
  newId: () => HitId;
}

/** Swaps the filled and the empty steps of a row within a range. */
export function invertSteps(part: Part, { voice, grid, range, velocity, removable, newId }: Inversion): Part {
  const free = freeLines(part, voice, grid, range);
  return addHits(
    removeHits(part, removable),
    free.map((tick) => ({ id: newId(), voice, tick, velocity })),
  );
}
