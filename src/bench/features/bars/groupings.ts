import { defaultGroups } from '@/core/time/meter-map';

/** The ways of grouping that are common for a number of units: twos and threes, and the usual ones. */
export function groupings(numerator: number, denominator: number): number[][] {
  const found: number[][] = [defaultGroups(numerator, denominator)];
  const walk = (left: number, groups: number[]) => {
    if (left === 0) found.push(groups);
    if (left >= 2) walk(left - 2, [...groups, 2]);
    if (left >= 3) walk(left - 3, [...groups, 3]);
  };
  if (numerator <= 13) walk(numerator, []);
  if (numerator % 4 === 0 && numerator > 4) found.push(Array.from({ length: numerator / 4 }, () => 4));
  const seen = new Set<string>();
  return found.filter((g) => !seen.has(g.join('+')) && seen.add(g.join('+')));
}
