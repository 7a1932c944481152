import { withoutReading } from '../homes/homes';
import { shapedHit } from '../model/hit-shape';
import type { SwingMove } from '../model/feel';
import type { HitId, Part } from '../model/part';
import { swingTick } from '../feel/swing';
import { meterMapOf, tempoMapOf } from '../part/part-time';
import { nearestLine, stepOf, type GridName } from '../time/grid';
import { ticks, type Milliseconds, type Ticks } from '../units';
import { changeHits } from './hits';

/** What quantizing did: how many hits moved, and by how much at most. */
export interface Quantized {
  part: Part;
  moved: number;
  mostMs: Milliseconds;
}

/**
 * Moves each hit to the grid line nearest to its home and removes its nudge in time. On a swung grid the line is the swung one; where a
 * move adds the swing, written hits stay straight.
 * @param swings the swing of the shown grid by bars; empty if the grid is straight
 * @example quantizeNow(part, ids, '1/16').part // a snare 12 ms after beat 2 stands on beat 2
 */
export function quantizeNow(part: Part, ids: ReadonlySet<HitId>, grid: GridName, swings: readonly SwingMove[] = []): Quantized {
  const map = meterMapOf(part);
  const tempo = tempoMapOf(part);
  const step = stepOf(grid);
  const swungAt = (line: Ticks): Ticks => {
    const bar = map.barAt(line);
    const swing = swings.find(({ scope }) => {
      const { from = 1, to = Infinity } = scope?.bars ?? {};
      return bar.index + 1 >= from && bar.index + 1 <= to;
    });
    return swing ? ticks(Math.round(swingTick(line, bar, swing))) : line;
  };
  let moved = 0;
  let mostMs = 0;
  const next = changeHits(part, ids, (hit) => {
    const home = nearestLine(map, hit.home, step).tick;
    const tick = swungAt(home);
    const nudge = hit.nudge?.ms ?? 0;
    if (tick === hit.tick && nudge === 0) return hit.home === home ? hit : shapedHit(withoutReading(hit), { home, placed: true });
    moved++;
    mostMs = Math.max(mostMs, Math.abs(tempo.between(hit.tick, tick) - nudge));
    const velocity = hit.nudge?.velocity ?? 0;
    const kept = velocity === 0 ? undefined : { ms: 0 as Milliseconds, velocity };
    return shapedHit(withoutReading(hit), { tick, home, placed: true, nudge: kept });
  });
  return { part: next, moved, mostMs: mostMs as Milliseconds };
}
