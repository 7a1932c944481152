import { meterMapOf } from '../part/part-time';
import type { Part } from '../part/part';
import { stepOf, type GridName } from '../time/grid';
import { roundHalfUp, ticks, type Ticks } from '../units';

/** How far a whole part sits off its grid. */
export interface OriginFinding {
  /** Ticks to move the grid by; 0 where nothing reliable was found. */
  offset: Ticks;
  grid: GridName;
  /** Length of the mean vector of all places, 0 (scattered) to 1 (all alike). */
  concentration: number;
}

const CONCENTRATED = 0.85;
const NEGLIGIBLE = 0.02;

/**
 * Finds a constant distance from the grid: the circular mean (Mardia & Jupp, Directional Statistics, 2000, ch. 2) of all hits'
 * places within a 1/16 or a 1/8T step, whichever is more concentrated.
 * Places are measured from the file's own bar lines, so the part's present origin does not matter.
 * A mean beyond half a 1/16 either way (which only the wider 1/8T step allows) does not count as found.
 */
export function findOrigin(part: Pick<Part, 'hits' | 'meter'>): OriginFinding {
  const sixteenths = concentrationOn(part, '1/16');
  const triplets = concentrationOn(part, '1/8T');
  const best = triplets.concentration > sixteenths.concentration ? triplets : sixteenths;
  const step = stepOf(best.grid);
  const reliable = best.concentration >= CONCENTRATED && Math.abs(best.offset) >= NEGLIGIBLE * step && Math.abs(best.offset) <= stepOf('1/16') / 2;
  return reliable ? best : { ...best, offset: ticks(0) };
}

/** Fewer hits tell nothing of a whole part. */
const ENOUGH_HITS = 8;
/** Half a percent of a quarter: nearer the lines are where they should be. */
const NEAR_ENOUGH = 400;

/**
 * Where the lines of a part that sits a constant amount off them would have to be; null where they are right, or nothing reliable was
 * found.
 */
export function betterOrigin(part: Pick<Part, 'hits' | 'meter' | 'origin'>, finding: OriginFinding = findOrigin(part)): Ticks | null {
  if (part.hits.length < ENOUGH_HITS || finding.offset === 0 || Math.abs(finding.offset - part.origin) < NEAR_ENOUGH) return null;
  return finding.offset;
}

function concentrationOn(part: Pick<Part, 'hits' | 'meter'>, grid: GridName): OriginFinding {
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
