import { homesOf } from '../homes/homes';
import { tempoMapOf } from '../part/part-time';
import type { HitId, Part } from '../model/part';
import { deviation, mean } from '../statistics';
import { milliseconds, ticks, type Milliseconds } from '../units';

/** How some written hits lie around their homes. */
export interface Tightness {
  /** Constant part: late is positive. */
  meanMs: Milliseconds;
  /** What is left around it. */
  spreadMs: Milliseconds;
  hits: number;
}

/** @returns null without hits */
export function tightnessOf(part: Part, ids?: ReadonlySet<HitId>): Tightness | null {
  const homes = homesOf(part);
  const tempo = tempoMapOf(part);
  const leans = part.hits.flatMap((hit, i) =>
    hit.choke || (ids && !ids.has(hit.id)) ? [] : [tempo.between(ticks(homes.ticks[i] as number), hit.tick)],
  );
  return leans.length === 0 ? null : { meanMs: milliseconds(mean(leans)), spreadMs: milliseconds(deviation(leans)), hits: leans.length };
}
