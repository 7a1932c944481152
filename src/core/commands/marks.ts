/** Commands on what marks a hit: ghost, choke, lock, the line it belongs to. */
import { gridOfLine, withoutReading } from '../homes/homes';
import { stepOf } from '../time/grid';
import type { MeterMap } from '../time/meter-map';
import { ticks, type Ticks } from '../units';
import { meterMapOf } from '../part/part-time';
import type { Hit, HitId, Part } from '../model/part';
import { changeHits } from './hits';

type Flag = 'ghost' | 'choke' | 'muted' | 'locked' | 'alone';

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

/** Mutes hits without moving them, or unmutes them. */
export const setMuted = (part: Part, ids: ReadonlySet<HitId>, muted: boolean): Part => setFlag(part, ids, 'muted', muted);

/** Locks hits against every tool, or unlocks them. */
export const setLocked = (part: Part, ids: ReadonlySet<HitId>, locked: boolean): Part => setFlag(part, ids, 'locked', locked);

/** Leaves uncertain hits where they are, whatever is quantized; or not. */
export const setAlone = (part: Part, ids: ReadonlySet<HitId>, alone: boolean): Part => setFlag(part, ids, 'alone', alone);

export type Side = 'earlier' | 'later';

/**
 * The two lines that a hit may belong to: its home and the one that is next likely, else the home and its neighbours on the coarsest grid
 * that
 * holds it.
 */
export function linesOfHit(map: MeterMap, hit: Pick<Hit, 'home' | 'other'>): { earlier: Ticks; later: Ticks } {
  const { home, other } = hit;
  if (other !== undefined && other !== home) return other < home ? { earlier: other, later: home } : { earlier: home, later: other };
  return neighbours(map, home);
}

/** The lines before and after a line, on the coarsest grid that holds it. Lines restart at each bar line. */
function neighbours(map: MeterMap, home: Ticks): { earlier: Ticks; later: Ticks } {
  const bar = map.barAt(home);
  const place = home - bar.start;
  const step = stepOf(gridOfLine(map, home) ?? '1/16');
  const n = Math.round(place / step);
  const later = ticks(bar.start + Math.min(bar.length, (n + 1) * step));
  if (place > 0) return { earlier: ticks(bar.start + (Math.ceil(place / step) - 1) * step), later };
  const before = map.barOf(bar.index - 1);
  return { earlier: ticks(before.start + (Math.ceil(before.length / step) - 1) * step), later };
}

/**
 * Decides which of its two lines each hit belongs to; the hits stay where they are.
 * @example decideHomes(part, ids, 'later') // a hit at 40 % of a step now counts as early for the next line
 */
export function decideHomes(part: Part, ids: ReadonlySet<HitId>, side: Side): Part {
  const map = meterMapOf(part);
  return changeHits(part, ids, (hit) => decided(hit, linesOfHit(map, hit)[side]));
}

/** Decides that hits belong to a line. */
export const decideHomesOn = (part: Part, ids: ReadonlySet<HitId>, line: Ticks): Part => changeHits(part, ids, (hit) => decided(hit, line));

/** The line that it had before stays the one that it may go back to. */
function decided(hit: Hit, line: Ticks): Hit {
  if (hit.decided && hit.home === line) return hit;
  const other = line === hit.home ? hit.other : hit.home;
  return { ...withoutReading(hit), home: line, decided: true, ...(other === undefined ? {} : { other }) };
}

/** Takes back what was decided about hits: their lines are those that are read next. */
export const undecided = (part: Part, ids: ReadonlySet<HitId>): Part =>
  changeHits(part, ids, (hit) => {
    if (!hit.decided && !hit.alone) return hit;
    const { decided: _decided, alone: _alone, ...rest } = hit;
    return rest;
  });
