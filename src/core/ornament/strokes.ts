import { swungFrom, type Performance } from '../perform/perform';
import type { Hit } from '../model/part';
import type { VoiceName } from '../row-names';
import { ORNAMENTS, ornamentSpecOf } from './all';
import type { Ornamented, OrnamentSpec, OrnamentStroke } from './ornament-spec';

/**
 * All strokes that sound: one for each plain hit, several for one with an ornament. Columns run parallel; a hit's own stroke
 * (number 0) comes first, then the others, hits in the part's order.
 */
export interface StrokeColumns {
  /** Index of each stroke's hit. */
  hits: Uint32Array;
  /** 0 for the hit itself, counting up for the others. */
  numbers: Uint16Array;
  ticks: Float64Array;
  velocities: Uint8Array;
  lengths: Float64Array;
  keys: Uint8Array;
  /** Strokes that another voice plays, by their place in the columns. */
  voices: ReadonlyMap<number, VoiceName>;
}

const cache = new WeakMap<Performance, StrokeColumns>();

/** The strokes of what is performed; made once. @example strokesOf(part, performPart(part)).ticks.length // hits and all their strokes */
export function strokesOf(part: Ornamented, performance: Performance): StrokeColumns {
  let strokes = cache.get(performance);
  if (!strokes) cache.set(performance, (strokes = expand(part, performance)));
  return strokes;
}

/** A stroke of an ornament at or behind the end of what is played or exported: it is left out. A hit's own stroke stays. */
export const isSpilled = ({ numbers, ticks: at }: Pick<StrokeColumns, 'numbers' | 'ticks'>, stroke: number, end: number): boolean =>
  numbers[stroke] !== 0 && (at[stroke] as number) >= end;

/** How many strokes a hit has at most. */
export function strokesAtMost(part: Ornamented, index: number, specs: readonly OrnamentSpec[] = ORNAMENTS): number {
  const { ornament, choke } = part.hits[index] as Hit;
  return !ornament || choke ? 1 : ornamentSpecOf(ornament.kind, specs).count(part, index, ornament);
}

function expand(part: Ornamented, performance: Performance): StrokeColumns {
  const { hits } = part;
  const groups = new Map<number, OrnamentStroke[]>();
  let count = hits.length;
  for (let i = 0; i < hits.length; i++) {
    if (!(hits[i] as Hit).ornament) continue;
    const group = strokesOfHit(part, performance, i);
    groups.set(i, group);
    count += group.length - 1;
  }
  const out = {
    hits: new Uint32Array(count),
    numbers: new Uint16Array(count),
    ticks: new Float64Array(count),
    velocities: new Uint8Array(count),
    lengths: new Float64Array(count),
    keys: new Uint8Array(count),
  };
  const voices = new Map<number, VoiceName>();
  let at = 0;
  for (let i = 0; i < hits.length; i++) {
    const hit = hits[i] as Hit;
    const group = groups.get(i);
    if (!group) {
      out.hits[at] = i;
      out.ticks[at] = performance.ticks[i] as number;
      out.velocities[at] = performance.velocities[i] as number;
      out.lengths[at] = performance.lengths[i] as number;
      out.keys[at++] = hit.key;
      continue;
    }
    group.forEach((stroke, k) => {
      out.hits[at] = i;
      out.numbers[at] = k;
      out.ticks[at] = stroke.tick;
      out.velocities[at] = stroke.velocity;
      out.lengths[at] = stroke.length;
      if (stroke.voice !== hit.voice) voices.set(at, stroke.voice);
      out.keys[at++] = stroke.key;
    });
  }
  return { ...out, voices };
}

/**
 * The strokes of one hit, its own first: a roll's go on from it, grace strokes lie before it, echoes behind it.
 * @example a flam of one grace stroke, 25 ms, level 0.5, on a hit of velocity 100: [100 at the hit, 50 at 25 ms before it]
 */
export function strokesOfHit(
  part: Ornamented,
  performance: Performance,
  index: number,
  specs: readonly OrnamentSpec[] = ORNAMENTS,
): OrnamentStroke[] {
  const hit = part.hits[index] as Hit;
  const main: OrnamentStroke = {
    tick: performance.ticks[index] as number,
    velocity: performance.velocities[index] as number,
    length: performance.lengths[index] as number,
    voice: hit.voice,
    key: hit.key,
  };
  const { ornament } = hit;
  // A choke sounds nothing, whatever it carries.
  if (!ornament || hit.choke) return [main];
  return ornamentSpecOf(ornament.kind, specs).strokes(part, index, ornament, main, swungFrom(performance, index));
}
