/** What follows from a part: computed when first asked for, kept as long as the part, never stored. */
import { bisector } from 'd3-array';
import { fitsNoGrid } from '@/core/free-takes/fits-its-grid';
import type { Feel } from '@/core/model/feel';
import { EMPTY_FEEL, type Move, type SwingMove } from '@/core/model/feel';
import { foundSwings } from '@/core/homes/swings';
import { followSwing, performPart, swungFrom, writtenPerformance, type HitRange, type Performance } from '@/core/perform/perform';
import { performanceSeen } from '@/core/song/seen';
import { findOrigin, type OriginFinding } from '@/core/homes/origin';
import type { Hit, Part } from '@/core/model/part';
import { meterMapOf } from '@/core/part/part-time';
import { ticks } from '@/core/units';
import type { BenchState } from './bench-store';
import type { Other } from './ui-state';

function memo<V>(compute: (part: Part) => V): (part: Part) => V {
  const cache = new WeakMap<Part, V>();
  return (part) => {
    let value = cache.get(part);
    if (value === undefined) cache.set(part, (value = compute(part)));
    return value;
  };
}

/** Whether the part was played without regard to its own lines. */
export const fitsNoGridOf = memo(fitsNoGrid);

const complete = new WeakMap<Part, Performance>();

/** All performed hits. */
export function performanceOf(part: Part): Performance {
  let value = complete.get(part);
  if (!value) complete.set(part, (value = performanceSeen(part)));
  return value;
}

const excerpts = new WeakMap<Part, { range: HitRange; performance: Performance }>();

/** The performed hits of an excerpt at least: while an amount is swept, only what is in sight or in the loop is performed. */
export function performanceWithin(part: Part, range: HitRange): Performance {
  const known = complete.get(part);
  if (known) return known;
  const excerpt = excerpts.get(part);
  if (excerpt && excerpt.range.from <= range.from && excerpt.range.to >= range.to) return excerpt.performance;
  const performance = performanceSeen(part, range);
  excerpts.set(part, { range, performance });
  return performance;
}

interface Written {
  meter: unknown;
  origin: number;
  range: HitRange;
  performance: Performance;
}

const written = new WeakMap<readonly Hit[], Written>();

/** The written hits, of an excerpt at least; they depend on no feel, so a sweep of one computes them once. */
export function writtenOf(part: Part, range: HitRange = { from: 0, to: part.hits.length }): Performance {
  const known = written.get(part.hits);
  if (known && known.meter === part.meter && known.origin === part.origin && known.range.from <= range.from && known.range.to >= range.to)
    return known.performance;
  const performance = writtenPerformance(part, range);
  written.set(part.hits, { meter: part.meter, origin: part.origin, range, performance });
  return performance;
}

/** Indices of the hits written in `[from, to)`, and a bar more on either side. */
export function hitsBetween(part: Part, from: number, to: number): HitRange {
  const map = meterMapOf(part);
  const first = map.barAt(ticks(from));
  const last = map.barAt(ticks(to));
  return { from: firstAt(part.hits, first.start - first.length), to: firstAt(part.hits, last.start + 2 * last.length) };
}

const { left: firstAt } = bisector((hit: Hit) => hit.tick);

export const originFindingOf: (part: Part) => OriginFinding = memo(findOrigin);

/** The part as it was before the edit under way: what words and tables show, so that they need not follow every frame. */
export const calmPart = (state: Pick<BenchState, 'part' | 'underway'>): Part => state.underway?.base ?? state.part;

/** Up to so many hits everything follows every frame of an edit. */
export const FEW_HITS = 2000;

/** The hits that numbers and charts of the side panel follow: of a large part those before a drag, since a sweep comes first. */
export const shownHits = (state: Pick<BenchState, 'part' | 'underway'>): readonly Hit[] =>
  state.underway && state.underway.kind !== 'trial' && state.part.hits.length > FEW_HITS ? state.underway.base.hits : state.part.hits;

const others = new WeakMap<Part, { feel: Feel; performance: Performance }>();

/** What is compared with: the part with another feel, or a version of it; and how that is performed. */
export function otherOf(part: Part, { feel, part: version }: Other): { part: Part; performance: Performance } {
  if (version) return { part: version, performance: performanceOf(version) };
  let known = others.get(part);
  if (known?.feel !== feel) others.set(part, (known = { feel, performance: performPart({ ...part, feel }) }));
  return { part, performance: known.performance };
}

/** The part that is seen: a version while it is heard, else the one that is worked on. */
export const shownPart = ({ part, transport, ui }: Pick<BenchState, 'part' | 'transport' | 'ui'>): Part =>
  transport.version === 'other' && ui.other?.part ? ui.other.part : part;

const asRead = new WeakMap<readonly Hit[], { meter: unknown; origin: number; moves: readonly SwingMove[] }>();

/** Swing moves that place lines as the part swings by itself, bars that swing alike in one. */
function swingsAsRead(part: Part): readonly SwingMove[] {
  const known = asRead.get(part.hits);
  if (known && known.meter === part.meter && known.origin === part.origin) return known.moves;
  const swings = foundSwings(part);
  const moves = (swings?.bars ?? []).map(({ fromBar, toBar, percent }): SwingMove => ({
    kind: 'swing',
    division: swings?.division ?? '1/16',
    percent,
    scope: { bars: { from: fromBar, to: toBar } },
  }));
  asRead.set(part.hits, { meter: part.meter, origin: part.origin, moves });
  return moves;
}

/** The part as its lines are shown: with the swing that it has by itself, where that is asked for and no move swings it. */
export function linedPart({ part, view }: { part: Part; view: Pick<BenchState['view'], 'swungGrid'> }): Part {
  if (!view.swungGrid || part.feel.moves.some((m) => m.kind === 'swing' && m.on !== false)) return part;
  const moves = swingsAsRead(part);
  return moves.length === 0 ? part : { ...part, feel: { ...EMPTY_FEEL, moves } };
}

const feet = new WeakMap<readonly Move[], Float64Array>();

/** What is performed, its feet where the lines are shown. */
export function onShownLines(performance: Performance, part: Part, lined: Part): Performance {
  if (lined === part) return performance;
  const { moves } = lined.feel;
  let placedHomes = feet.get(moves);
  if (!placedHomes) {
    placedHomes = performPart(lined).placedHomes;
    feet.set(moves, placedHomes);
  }
  return followSwing({ ...performance, placedHomes }, (index) => swungFrom(performance, index));
}
