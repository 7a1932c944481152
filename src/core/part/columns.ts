import type { Hit } from '../model/part';

/** What loops over hits read most, as flat columns parallel to the list: one walk over the hits instead of one a loop. */
export interface HitColumns {
  ticks: Float64Array;
  lengths: Float64Array;
  velocities: Uint8Array;
  keys: Uint8Array;
  /** 1 where the hit is a choke. */
  chokes: Uint8Array;
  /** What else only some hits have: {@link MARKS} added up. */
  marks: Uint8Array;
}

/** Rare members of hits, as bits: a loop passes by the others without looking at the hit itself. */
export const MARKS = { ghost: 1, decided: 2, alone: 4, nudge: 8, ornament: 16 } as const;

const cache = new WeakMap<readonly Hit[], HitColumns>();

/** The columns of a list of hits; made once. They are shared: copy before changing. */
export function columnsOfHits(hits: readonly Hit[]): HitColumns {
  const known = cache.get(hits);
  if (known) return known;
  const n = hits.length;
  const columns: HitColumns = {
    ticks: new Float64Array(n),
    lengths: new Float64Array(n),
    velocities: new Uint8Array(n),
    keys: new Uint8Array(n),
    chokes: new Uint8Array(n),
    marks: new Uint8Array(n),
  };
  for (let i = 0; i < n; i++) {
    const hit = hits[i] as Hit;
    columns.ticks[i] = hit.tick;
    columns.lengths[i] = hit.length;
    columns.velocities[i] = hit.velocity;
    columns.keys[i] = hit.key;
    if (hit.choke) columns.chokes[i] = 1;
    columns.marks[i] = marksOf(hit);
  }
  cache.set(hits, columns);
  return columns;
}

function marksOf({ ghost, decided, alone, nudge, ornament }: Hit): number {
  let marks = 0;
  if (ghost) marks |= MARKS.ghost;
  if (decided) marks |= MARKS.decided;
  if (alone) marks |= MARKS.alone;
  if (nudge) marks |= MARKS.nudge;
  if (ornament) marks |= MARKS.ornament;
  return marks;
}
