import { barOfHome, homesOf } from '../homes/homes';
import type { Hit, HitId, Part } from '../model/part';
import { meterMapOf } from '../part/part-time';
import { nearestLine, stepOf, type GridName } from '../time/grid';
import { ticks } from '../units';
import type { Scope } from '../model/feel';

/** A member is left out where it would not narrow anything. */
const MOST_STEPS_NAMED = 0.75;

/**
 * The scope that some hits stand for: their voices, their bars, and their steps of a grid where these are few.
 * @example scopeOfHits(part, offBeatHats, '1/8') // { voices: ['hat-closed'], steps: { grid: '1/8', of: 8, at: [1, 3, 5, 7] } }
 */
export function scopeOfHits(
  part: Pick<Part, 'hits' | 'meter' | 'origin' | 'bars'>,
  ids: ReadonlySet<HitId>,
  grid: GridName,
): Scope | undefined {
  const map = meterMapOf(part);
  const homes = homesOf(part);
  const step = stepOf(grid);
  const voices = new Set<string>();
  const bars = new Set<number>();
  const steps = new Set<number>();
  let ghosts = 0;
  let chosen = 0;
  part.hits.forEach((hit: Hit, i) => {
    if (!ids.has(hit.id)) return;
    chosen++;
    voices.add(hit.voice);
    bars.add(barOfHome(part, homes.ticks[i] as number) + 1);
    steps.add(nearestLine(map, hit.tick, step).step);
    if (hit.ghost) ghosts++;
  });
  if (chosen === 0) return undefined;
  const first = map.barAt(ticks(Math.max(part.origin, part.hits.find((h) => ids.has(h.id))?.tick ?? 0)));
  const stepsPerBar = Math.round(first.length / step);
  const scope: Scope = {};
  if (voices.size < new Set(part.hits.map((h) => h.voice)).size) scope.voices = [...voices];
  const barList = [...bars].filter((b) => b >= 1).sort((a, b) => a - b);
  if (barList.length > 0 && barList.length < part.bars) {
    const from = barList[0] as number;
    const to = barList[barList.length - 1] as number;
    scope.bars = to - from + 1 === barList.length ? { from, to } : { every: part.bars, at: barList };
  }
  const stepList = [...steps].sort((a, b) => a - b);
  if (stepList.length < stepsPerBar * MOST_STEPS_NAMED && stepList.every((s) => s < stepsPerBar))
    scope.steps = { grid, of: stepsPerBar, at: stepList };
  if (ghosts === chosen) scope.ghosts = 'only';
  return Object.keys(scope).length > 0 ? scope : undefined;
}
