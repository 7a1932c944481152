/** Commands on what marks a hit: ghost, choke, lock, pinned home. */
import { homesOf } from '../homes/homes';
import { stepOf } from '../time/grid';
import { ticks, type Ticks } from '../units';
import { meterMapOf } from '../part/part-time';
import type { Hit, HitId, Part } from '../model/part';
import { changeHits } from './hits';

type Flag = 'ghost' | 'choke' | 'locked' | 'alone';

/** Sets a flag of hits; one that is off is not kept. */
const setFlag = (part: Part, ids: ReadonlySet<HitId>, flag: Flag, on: boolean): Part =>
  changeHits(part, ids, (hit) => {
    if ((hit[flag] === true) === on) return hit;
    const { [flag]: _gone, ...rest } = hit;
    return on ? { ...rest, [flag]: true } : rest;
  });

/** Flags hits as ghosts, or not. */
export const setGhost = (part: Part, ids: ReadonlySet<HitId>, ghost: boolean): Part => setFlag(part, ids, 'ghost', ghost);

/** Makes hits silent strokes that end their voice's ring, or sounding ones again. */
export const setChoke = (part: Part, ids: ReadonlySet<HitId>, choke: boolean): Part => setFlag(part, ids, 'choke', choke);

/** Locks hits against every tool, or unlocks them. */
export const setLocked = (part: Part, ids: ReadonlySet<HitId>, locked: boolean): Part => setFlag(part, ids, 'locked', locked);

/** Leaves doubtful hits where they are, whatever is quantized; or not. */
export const setAlone = (part: Part, ids: ReadonlySet<HitId>, alone: boolean): Part => setFlag(part, ids, 'alone', alone);

/** Where a hit's home goes: to the line before it, the one after it, or back to the fitted one. */
export type HomeChoice = 'earlier' | 'later' | 'fitted';

/**
 * Pins homes to a neighbouring line of the grid that was fitted for the hit; the hits stay where they are.
 * A hit on a line goes to the next one on that side.
 * @example pinHomes(part, ids, 'later') // a hit at 40 % of a step now counts as 60 % early for the next line
 */
export function pinHomes(part: Part, ids: ReadonlySet<HitId>, choice: HomeChoice): Part {
  const homes = homesOf(part);
  const indexOf = new Map(part.hits.map((h, i) => [h.id, i]));
  return changeHits(part, ids, (hit) => {
    const { home: was, ...rest } = hit;
    if (choice === 'fitted') return was === undefined ? hit : rest;
    const home = neighbourLine(part, hit, stepOf(homes.grids[indexOf.get(hit.id) as number] ?? '1/16'), choice);
    return home === was ? hit : { ...rest, home };
  });
}

/** Pins the home of hits to a line: the decision on doubtful ones. */
export const pinHomesTo = (part: Part, ids: ReadonlySet<HitId>, line: Ticks): Part => changeHits(part, ids, (hit) => (hit.home === line ? hit : { ...hit, home: line }));

/** The line of the fitted grid before or after a hit's written place. Lines restart at each bar line. */
function neighbourLine(part: Part, hit: Hit, step: Ticks, choice: 'earlier' | 'later'): Ticks {
  const map = meterMapOf(part);
  const bar = map.barAt(hit.tick);
  const place = hit.tick - bar.start;
  if (choice === 'later') return ticks(bar.start + Math.min(bar.length, (Math.floor(place / step + 1e-6) + 1) * step));
  if (place > 1e-6) return ticks(bar.start + (Math.ceil(place / step - 1e-6) - 1) * step);
  const before = map.barOf(bar.index - 1);
  return ticks(before.start + (Math.ceil(before.length / step - 1e-6) - 1) * step);
}
