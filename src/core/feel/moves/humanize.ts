import type { MeterMap } from '../../time/meter-map';
import { clamp, milliseconds, ticks } from '../../units';
import { humanDraws } from '../draws';
import type { HumanizeMove } from '../feel';
import type { ApplyMove } from '../work';

/** No draw is further out than this many deviations. */
const FURTHEST = 2.5;

/** How much a line is spared: bar lines by the whole anchor, beat lines by half of it. */
function anchorFactor(map: MeterMap, home: number, anchor: number): number {
  const tick = ticks(home);
  const bar = map.barAt(tick);
  if (home - bar.start < 1) return 1 - anchor;
  return home - map.beatAt(bar, tick).start < 1 ? 1 - anchor / 2 : 1;
}

/** Human drift: a slow 1/f curve of the whole kit and each hit's own scatter, mixed by `memory` at unit deviation. */
export const applyHumanize: ApplyMove<HumanizeMove> = ({ timingMs, velocityPercent, memory, anchor, span }, { hits, written, range, times, loudness, homes, map, tempo }, inScope, seed) => {
  const draws = humanDraws(hits, map, seed, span);
  const unit = Math.sqrt(memory ** 2 + (1 - memory) ** 2);
  const drawOf = (slow: number, own: number): number => clamp((memory * slow + (1 - memory) * own) / unit, -FURTHEST, FURTHEST);
  for (let i = range.from; i < range.to; i++) {
    if (!inScope(i)) continue;
    const spared = anchorFactor(map, homes.ticks[i] as number, anchor);
    const ms = timingMs * spared * drawOf(draws.slowTiming[i] as number, draws.ownTiming[i] as number);
    times[i] = tempo.shift(ticks(times[i] as number), milliseconds(ms));
    if (written.chokes[i] === 1) continue;
    const v = loudness[i] as number;
    loudness[i] = v + (v * velocityPercent * spared * drawOf(draws.slowVelocity[i] as number, draws.ownVelocity[i] as number)) / 100;
  }
};
