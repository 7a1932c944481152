import type { Part } from '@/core/model/part';
import { meterMapOf } from '@/core/part/part-time';
import { cycledHits } from '@/core/song/sounding';
import { roundsOfOrder, unroll } from '@/core/song/unroll';
import { choiceField, type Fields } from './form';

/** Whether the running order is asked for. */
export const orderField = async (fields: Fields): Promise<boolean> => (await choiceField(fields, 'order', ['true', 'false'])) === 'true';

/** About how many hits a running order has, passes and rests apart: what it costs to unroll it. */
export function hitsOfOrder(part: Part): number {
  const rounds = roundsOfOrder(part);
  const hits = cycledHits(part);
  if (rounds.length === 0) return hits.length;
  const map = meterMapOf(part);
  const perBar = new Uint32Array(part.bars + 1);
  for (const hit of hits) {
    const bar = map.barAt(hit.tick).index;
    if (bar >= 0 && bar < part.bars) perBar[bar] = (perBar[bar] as number) + 1;
  }
  const before = [0];
  for (let b = 0; b < part.bars; b++) before.push((before[b] as number) + (perBar[b] as number));
  return rounds.reduce((sum, { from, to }) => sum + (before[to] as number) - (before[from] as number), 0);
}

/** The running order's bars and tempo, as those of a part without hits; the part itself where there is no order. */
export function lengthOfOrder(part: Part): Part {
  const rounds = roundsOfOrder(part);
  return rounds.length === 0 ? part : unroll({ ...part, hits: [] }, rounds).part;
}
