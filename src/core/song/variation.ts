import type { Hit } from '../model/part';
import { ROUND } from './sounding';
import { placeOfId } from './unroll';

/** Which random alternates of its sound a stroke gets: those of a hit, by id, and of one of the strokes of its ornament. */
export interface StrokeVariation {
  id: string;
  /** 0 for the hit itself. */
  stroke: number;
}

/** @param hit as it sounds: a round of a loop or of the running order has its mark in its id */
export function variationOf(hit: Pick<Hit, 'id' | 'variation'>): StrokeVariation {
  const { id } = placeOfId(hit.id);
  if (hit.variation === undefined) return { id, stroke: 0 };
  const named = /^(.*)\/(\d{1,4})$/s.exec(hit.variation);
  const [of, stroke] = named ? [named[1] as string, Number(named[2])] : [hit.variation, 0];
  const round = id.indexOf(ROUND);
  return { id: round < 0 ? of : of + id.slice(round), stroke };
}

/** What a hit keeps as its `variation` to sound like a stroke of another. @example variationText({ id: 'h3' }, 1) // 'h3/1' */
export function variationText(hit: Pick<Hit, 'id' | 'variation'>, stroke = 0): string {
  const of = variationOf(hit);
  return `${of.id}/${of.stroke + stroke}`;
}
