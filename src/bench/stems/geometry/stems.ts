import { bisector } from 'd3-array';
import type { Performance } from '@/core/perform/perform';
import { indicesByVoice } from '@/core/part/by-voice';
import { tempoMapOf } from '@/core/part/part-time';
import type { Hit, Part } from '@/core/model/part';
import { milliseconds, ticks, TICKS_PER_QUARTER, type Milliseconds } from '@/core/units';
import type { LensReach } from '../../store/view';
import { stepPixels, tickOf, xOf, type Axis } from './axis';
import type { RowBox } from './rows';

/** A head is never further from its foot than this part of a step or of the gap to the next foot. */
export const MOST_LEAN = 0.45;
export const SHORTEST_STEM = 10;
/** Strokes of one voice closer than this share one foot. */
export const FAN_MS = 45;
/** Below this a lean counts as on the line. */
export const ON_LINE_MS = 2;

/** Ms beyond the reach that are rounding. */
const REACH_SLACK = 0.05;

/** A hit that the feel moves by less has no pale stem. */
const LEAST_SHOWN_MS = 0.5;

/** One hit as drawn, in canvas pixels. */
export interface Stem {
  /** Index of the hit in the part. */
  index: number;
  footX: number;
  footY: number;
  headX: number;
  headY: number;
  /** Lean in ms, against the foot it stands on; negative = early. */
  lean: number;
  /** It leans beyond the lens's reach: a break mark across the stem, and its number. */
  broken: boolean;
  /** Most pixels the head may be displaced, early and late. */
  room: { early: number; late: number };
  /** Where the straight line is, where swing moved the foot. */
  straightX: number | null;
  /** The written head, where the feel moved or changed the hit. */
  pale: { footX: number; headX: number; headY: number } | null;
  /** Another hit stands at exactly the same place. */
  duplicate: boolean;
}

export interface StemScene {
  part: Pick<Part, 'hits' | 'tempo'>;
  performance: Performance;
  axis: Axis;
  reach: LensReach;
  /** Without it no pale stems are made. */
  written?: Performance;
}

/** Height of a stem: velocity 1 stands at 10 px, 127 at the row's tallest. */
export const heightOf = (row: Pick<RowBox, 'tallest'>, velocity: number): number =>
  SHORTEST_STEM + ((row.tallest - SHORTEST_STEM) * (velocity - 1)) / 126;

/** The velocity whose stem is so many pixels high; limiter idle. */
export const velocityAtHeight = (row: Pick<RowBox, 'tallest'>, height: number): number =>
  1 + ((height - SHORTEST_STEM) * 126) / (row.tallest - SHORTEST_STEM);

/** Pixels that a ms of lean displaces a head. */
export const pixelsPerMs = (axis: Axis, reach: LensReach): number => (MOST_LEAN * stepPixels(axis)) / reach;

/** The stems of one row that are in sight, from left to right. */
export function layoutStems(scene: StemScene, row: RowBox, width: number): Stem[] {
  const { part, axis } = scene;
  const indices = indicesByVoice(part.hits).get(row.voice);
  if (!indices) return [];
  const from = tickOf(axis, 0) - TICKS_PER_QUARTER;
  const to = tickOf(axis, width) + TICKS_PER_QUARTER;
  const first = firstWritten(part.hits, indices, from);
  const last = firstWritten(part.hits, indices, to);
  return placeHeads(groupFeet(scene, indices.slice(first, last)), scene, row);
}

/** Hits that stand on one foot, in time order. */
interface Foot {
  tick: number;
  hits: number[];
}

/** Hits of one line share a foot; feet from left to right. */
function groupFeet({ performance }: StemScene, indices: readonly number[]): Foot[] {
  const feet = new Map<number, Foot>();
  for (const i of indices) {
    const tick = performance.placedHomes[i] as number;
    // Swing places lines on fractions of ticks.
    const key = Math.round(tick);
    const foot = feet.get(key);
    if (foot) foot.hits.push(i);
    else feet.set(key, { tick, hits: [i] });
  }
  return [...feet.values()].sort((x, y) => x.tick - y.tick);
}

function placeHeads(feet: readonly Foot[], scene: StemScene, row: RowBox): Stem[] {
  const { part, performance, written, axis, reach } = scene;
  const tempo = tempoMapOf(part);
  const full = MOST_LEAN * stepPixels(axis);
  const scale = pixelsPerMs(axis, reach);
  const stems: Stem[] = [];
  feet.forEach((foot, f) => {
    const footX = xOf(axis, foot.tick);
    const before = feet[f - 1];
    const after = feet[f + 1];
    const roomEarly = Math.min(full, before ? MOST_LEAN * (footX - xOf(axis, before.tick)) : full);
    const roomLate = Math.min(full, after ? MOST_LEAN * (xOf(axis, after.tick) - footX) : full);
    // A choke sounds nothing: its velocity has no height.
    const heights = foot.hits.map((index) =>
      (part.hits[index] as Hit).choke ? SHORTEST_STEM : heightOf(row, performance.velocities[index] as number),
    );
    const leans = foot.hits.map((index) => tempo.between(ticks(foot.tick), ticks(performance.ticks[index] as number)));
    // 45 degrees: no head further aside than its stem is high.
    const rooms = heights.map((height) => ({ early: Math.min(roomEarly, height), late: Math.min(roomLate, height) }));
    const shifts = inOrder(leans.map((lean, k) => Math.max(-rooms[k]!.early, Math.min(rooms[k]!.late, lean * scale))));
    foot.hits.forEach((index, k) => {
      const height = heights[k] as number;
      const lean = leans[k] as Milliseconds;
      const room = rooms[k] as Stem['room'];
      const shown = shifts[k] as number;
      const home = performance.homes.ticks[index] as number;
      stems.push({
        index,
        footX,
        footY: row.baseline,
        headX: footX + shown,
        headY: row.baseline - height,
        lean,
        broken: Math.abs(lean) > reach + REACH_SLACK,
        room,
        straightX: Math.abs(foot.tick - home) > 1 && foot.hits.length === 1 ? xOf(axis, home) : null,
        pale: written ? paleOf(scene, written, row, index) : null,
        duplicate: foot.hits.some((other, o) => o !== k && performance.ticks[other] === performance.ticks[index]),
      });
    });
  });
  return stems;
}

/** Strokes on one foot lean in time order; where a short stem limits one, its neighbours on that side keep behind it. */
function inOrder(shifts: number[]): number[] {
  for (let k = 1; k < shifts.length; k++) if ((shifts[k] as number) < 0) shifts[k] = Math.max(shifts[k] as number, shifts[k - 1] as number);
  for (let k = shifts.length - 2; k >= 0; k--)
    if ((shifts[k] as number) > 0) shifts[k] = Math.min(shifts[k] as number, shifts[k + 1] as number);
  return shifts;
}

/** The written stem stands on the straight home, behind a hit that the feel moved or changed. */
function paleOf(scene: StemScene, written: Performance, row: RowBox, index: number): Stem['pale'] {
  const { performance, axis, reach, part } = scene;
  const hit = part.hits[index] as Hit;
  const homeMoved = Math.abs((performance.placedHomes[index] as number) - (performance.homes.ticks[index] as number)) > 1;
  const levelMoved = (performance.velocities[index] as number) !== (written.velocities[index] as number) + (hit.nudge?.velocity ?? 0);
  const home = performance.homes.ticks[index] as number;
  const tempo = tempoMapOf(part);
  // What the feel did to the time, beside moving the home: the nudge is the hand's.
  const byHand = tempo.shift(hit.tick, hit.nudge?.ms ?? milliseconds(0)) + (performance.placedHomes[index] as number) - home;
  const timeMoved = Math.abs(tempo.between(ticks(byHand), ticks(performance.ticks[index] as number))) > LEAST_SHOWN_MS;
  if (!homeMoved && !levelMoved && !timeMoved) return null;
  const footX = xOf(axis, home);
  const height = heightOf(row, written.velocities[index] as number);
  const most = Math.min(MOST_LEAN * stepPixels(axis), height);
  const lean = tempo.between(ticks(home), hit.tick) * pixelsPerMs(axis, reach);
  return { footX, headX: footX + Math.max(-most, Math.min(most, lean)), headY: row.baseline - height };
}

/** First position in `indices` whose hit is written at or after `tick`. */
const firstWritten = (hits: readonly Hit[], indices: readonly number[], tick: number): number =>
  bisector((i: number) => (hits[i] as Hit).tick).left(indices, tick);

/** The stem whose column a point is in: the nearest of its row within half a step (at least 8 px). */
export function stemAt(stems: readonly Stem[], x: number, y: number, axis: Axis): Stem | undefined {
  const reach = Math.max(8, stepPixels(axis) * 0.42);
  let best: Stem | undefined;
  let nearest = Infinity;
  for (const s of stems) {
    const aside = Math.min(Math.abs(x - s.footX), Math.abs(x - s.headX));
    if (aside > reach) continue;
    // Among strokes of one column the head that is nearest counts.
    const distance = aside + 0.01 * Math.hypot(x - s.headX, y - s.headY);
    if (distance < nearest) {
      nearest = distance;
      best = s;
    }
  }
  return best;
}
