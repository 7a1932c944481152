import { meterMapOf, tempoMapOf } from '../part/part-time';
import type { Part } from '../model/part';
import { stepOf, type GridName } from '../time/grid';
import { milliseconds, roundHalfUp, ticks, TICKS_PER_QUARTER, type Ticks } from '../units';

/** How far a whole part sits off its grid. */
export interface OriginFinding {
  /** Ticks to move the grid by; 0 where nothing reliable was found. */
  offset: Ticks;
  grid: GridName;
  /** Length of the mean vector of all places, 0 (scattered) to 1 (all alike). */
  concentration: number;
  /** Which part of the hits lies on the moved lines, 0 to 1. */
  share: number;
}

/** What of a part decides where its lines are. */
type Placed = Pick<Part, 'hits' | 'meter' | 'tempo' | 'source'>;

const CONCENTRATED = 0.85;
const NEGLIGIBLE = 0.02;
/** At least so many of the hits have to lie on the moved lines ... */
const LEAST_SHARE = 0.5;
/** ... and fewer than this on the unmoved ones: a mean of hits on the line and hits off it is no origin. */
const MOST_UNMOVED = 0.25;

/** A hit is on the moved lines within this part of a step, at least so many ms or one tick of the source ... */
const ON_MOVED = 1 / 16;
const ON_MOVED_MS = milliseconds(3);
/** ... and on the unmoved ones within so many ms or half a tick of the source. */
const ON_UNMOVED_MS = milliseconds(1);

/**
 * Finds a constant distance from the grid: the circular mean (Mardia & Jupp, Directional Statistics, 2000, ch. 2) of all hits'
 * places within a 1/16 or a 1/8T step, whichever is more concentrated. It counts where most hits lie there and few on the lines as
 * they are. Places are measured from the file's own bar lines, so the part's present origin does not matter.
 * A mean beyond half a 1/16 either way (which only the wider 1/8T step allows) does not count as found.
 */
export function findOrigin(part: Placed): OriginFinding {
  const sixteenths = concentrationOn(part, '1/16');
  const triplets = concentrationOn(part, '1/8T');
  const best = triplets.concentration > sixteenths.concentration ? triplets : sixteenths;
  const step = stepOf(best.grid);
  const far =
    best.concentration >= CONCENTRATED && Math.abs(best.offset) >= NEGLIGIBLE * step && Math.abs(best.offset) <= stepOf('1/16') / 2;
  if (!far) return { ...best, offset: ticks(0), share: 0 };
  const { moved, unmoved } = sharesOf(part, best);
  return moved >= LEAST_SHARE && unmoved < MOST_UNMOVED ? { ...best, share: moved } : { ...best, offset: ticks(0), share: moved };
}

/** Fewer hits tell nothing of a whole part. */
const ENOUGH_HITS = 8;
/** Half a percent of a quarter: nearer the lines are where they should be. */
const NEAR_ENOUGH = 400;

/**
 * Where the lines of a part that sits a constant amount off them would have to be; null where they are right, or nothing reliable was
 * found.
 */
export function betterOrigin(part: Placed & Pick<Part, 'origin'>, finding: OriginFinding = findOrigin(part)): Ticks | null {
  if (part.hits.length < ENOUGH_HITS || finding.offset === 0 || Math.abs(finding.offset - part.origin) < NEAR_ENOUGH) return null;
  return finding.offset;
}

type Mean = Pick<OriginFinding, 'offset' | 'grid' | 'concentration'>;

function concentrationOn(part: Placed, grid: GridName): Mean {
  if (part.hits.length === 0) return { offset: ticks(0), grid, concentration: 0 };
  const map = meterMapOf({ meter: part.meter, origin: ticks(0) });
  const step = stepOf(grid);
  let x = 0;
  let y = 0;
  for (const hit of part.hits) {
    const angle = ((hit.tick - map.barAt(hit.tick).start) / step) * 2 * Math.PI;
    x += Math.cos(angle);
    y += Math.sin(angle);
  }
  const offset = roundHalfUp((Math.atan2(y, x) / (2 * Math.PI)) * step);
  return { offset: ticks(offset), grid, concentration: Math.hypot(x, y) / part.hits.length };
}

/** Which parts of the hits lie on the lines once they are moved, and as they are. */
function sharesOf(part: Placed, { offset, grid }: Mean): { moved: number; unmoved: number } {
  const map = meterMapOf({ meter: part.meter, origin: ticks(0) });
  const tempo = tempoMapOf(part);
  const step = stepOf(grid);
  const sourceTick = part.source?.ppq ? TICKS_PER_QUARTER / part.source.ppq : 0;
  /** Distance from the nearest line of those that stand `by` after the bar line. */
  const off = (place: number, by: number): number => {
    const rest = (((place - by) % step) + step) % step;
    return Math.min(rest, step - rest);
  };
  let moved = 0;
  let unmoved = 0;
  for (const hit of part.hits) {
    const place = hit.tick - map.barAt(hit.tick).start;
    const inTicks = (ms: typeof ON_MOVED_MS): number => tempo.shift(hit.tick, ms) - hit.tick;
    if (off(place, offset) <= Math.max(step * ON_MOVED, inTicks(ON_MOVED_MS), sourceTick)) moved++;
    if (off(place, 0) <= Math.max(inTicks(ON_UNMOVED_MS), sourceTick / 2)) unmoved++;
  }
  return { moved: moved / part.hits.length, unmoved: unmoved / part.hits.length };
}
