import type { Performance } from '@/core/perform/perform';
import { strokesOfHit } from '@/core/ornament/strokes';
import type { Hit, HitId, Part } from '@/core/model/part';
import { endOfPart } from '@/core/part/part-time';
import { ornamentHandOf } from '../ornaments/all';
import type { Drawn } from '../ornaments/ornament-handles';
import { xOf, type Axis } from './axis';
import type { RowBox } from './rows';
import { heightOf, type Stem } from './stems';

/** A stroke beside the hit's own, in canvas pixels. */
export interface StrokeMark {
  x: number;
  /** Its row's ground line. */
  baseline: number;
  top: number;
  /** 1 to 127. */
  velocity: number;
}

/** An ornament as drawn: strokes without heads of their own, and one bracket over them. */
export interface OrnamentMark {
  id: HitId;
  /** Index of the hit in the part. */
  index: number;
  drawn: Drawn;
  /** In the order of their number; the hit's own stem is not among them. */
  strokes: StrokeMark[];
  /** How many strokes there are, the hit's own included. */
  count: number;
  /** The bracket, from the hit to its far end; it leans as the velocities do. */
  from: { x: number; y: number };
  to: { x: number; y: number };
}

/** Space between the heads and the bracket. */
const ABOVE = 11;
/** Under the feet. */
const BELOW = 10;

/** The ornaments of the stems in sight, by row as the stems are. */
export function layoutOrnaments(
  part: Part,
  performance: Performance,
  axis: Axis,
  rows: readonly RowBox[],
  stems: readonly (readonly Stem[])[],
): OrnamentMark[] {
  return rows.flatMap((row, r) =>
    (stems[r] ?? []).flatMap((stem) =>
      (part.hits[stem.index] as Hit).ornament ? (markOf(part, performance, axis, rows, row, stem) ?? []) : [],
    ),
  );
}

function markOf(part: Part, performance: Performance, axis: Axis, rows: readonly RowBox[], row: RowBox, stem: Stem): OrnamentMark | null {
  const hit = part.hits[stem.index] as Hit;
  if (!hit.ornament || hit.choke) return null;
  const hand = ornamentHandOf(hit.ornament.kind);
  const { drawn } = hand;
  const [main, ...others] = strokesOfHit(part, performance, stem.index);
  if (!main) return null;
  const mainX = xOf(axis, main.tick);
  const spacing = hand.apart?.(hit.ornament) ?? 0;
  const end = endOfPart(part);
  const strokes = others.flatMap((stroke, k): StrokeMark[] => {
    if (stroke.tick >= end) return [];
    const own = stroke.voice === hit.voice ? row : rows.find((b) => b.voice === stroke.voice);
    if (!own) return [];
    // Strokes stand where they sound, seen from the head; grace strokes further apart than they are.
    const apart =
      drawn === 'before'
        ? -(others.length - k) * Math.max(spacing, xPerGrace(axis, main.tick, stroke.tick, others.length - k))
        : xOf(axis, stroke.tick) - mainX;
    return [
      {
        x: (drawn === 'before' ? stem.headX : stem.footX) + apart,
        baseline: own.baseline,
        top: own.baseline - heightOf(own, stroke.velocity),
        velocity: stroke.velocity,
      },
    ];
  });
  const last = drawn === 'before' ? strokes[0] : strokes.at(-1);
  // What reaches over other hits has a bracket that lies flat under the ground line.
  if (drawn === 'under') {
    const y = row.baseline + BELOW;
    return {
      id: hit.id,
      index: stem.index,
      drawn,
      strokes,
      count: others.length + 1,
      from: { x: stem.footX, y },
      to: { x: last?.x ?? stem.footX, y },
    };
  }
  const from = { x: stem.headX, y: stem.headY - ABOVE };
  return {
    id: hit.id,
    index: stem.index,
    drawn,
    strokes,
    count: others.length + 1,
    from,
    to: last ? { x: last.x, y: last.top - ABOVE } : from,
  };
}

const xPerGrace = (axis: Axis, main: number, stroke: number, strokes: number): number => (xOf(axis, main) - xOf(axis, stroke)) / strokes;

/** What of an ornament a pointer holds: its end, or the bracket between. */
export interface OrnamentGrip {
  mark: OrnamentMark;
  part: 'end' | 'bracket';
}

const END_REACH = 9;
const BRACKET_REACH = 6;
/** Of a short bracket the end takes this share of its length, so that the bracket itself can be held, too. */
const END_SHARE = 0.4;

/** The grip of a selected ornament under a pointer: only what is selected has grips, so that nothing else is caught by accident. */
export function gripAt(
  marks: readonly OrnamentMark[],
  selection: ReadonlySet<HitId>,
  p: { x: number; y: number },
): OrnamentGrip | undefined {
  for (const mark of marks) {
    if (!selection.has(mark.id)) continue;
    if (isOnEnd(mark, p)) return { mark, part: 'end' };
    const [left, right] = mark.from.x < mark.to.x ? [mark.from, mark.to] : [mark.to, mark.from];
    if (p.x < left.x || p.x > right.x || right.x - left.x < 1) continue;
    const y = left.y + ((p.x - left.x) / (right.x - left.x)) * (right.y - left.y);
    if (Math.abs(p.y - y) <= BRACKET_REACH) return { mark, part: 'bracket' };
  }
  return undefined;
}

/** Outside the bracket its end is held as far as a pointer may miss; inside, short brackets keep room for themselves. */
function isOnEnd({ from, to }: OrnamentMark, p: { x: number; y: number }): boolean {
  const inward = (p.x - to.x) * (from.x - to.x) > 0;
  return Math.hypot(p.x - to.x, p.y - to.y) <= (inward ? Math.min(END_REACH, END_SHARE * Math.abs(from.x - to.x)) : END_REACH);
}
