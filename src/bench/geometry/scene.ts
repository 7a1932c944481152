import { nearestLine, stepOf } from '@/core/time/grid';
import { meterMapOf } from '@/core/part/part-time';
import type { HitId, Hit, Part } from '@/core/part/part';
import { performPart } from '@/core/feel/perform';
import { ticks, velocity, type Ticks } from '@/core/units';
import type { Ground, Pointer, Rectangle } from '../gestures/types';
import type { BenchState } from '../store/bench-store';
import { hitsBetween, performanceWithin, writtenOf } from '../store/derived';
import { axisOf, detailOf, stepPixels, tickOf, xOf, type Axis, type Detail } from './axis';
import { layoutRows, rowAt, type RowBox } from './rows';
import { layoutStems, stemAt, type Stem } from './stems';
import type { Performance } from '@/core/feel/perform';

/** Everything that is drawn of a state of the Bench, and what a pointer can find in it. */
export interface BenchScene {
  axis: Axis;
  detail: Detail;
  rows: RowBox[];
  /** By row, from left to right; empty from afar. */
  stems: Stem[][];
  performance: Performance;
}

export function makeScene(state: Pick<BenchState, 'part' | 'view' | 'focus' | 'transport'>, width: number, height: number): BenchScene {
  const { part, view } = state;
  const axis = axisOf(view);
  const detail = detailOf(stepPixels(axis));
  const rows = layoutRows(part.rows, height, state.focus, view.scrollRows);
  const asWritten = state.transport.version === 'written';
  const performance = asWritten ? writtenOf(part) : performanceWithin(part, hitsBetween(part, tickOf(axis, 0), tickOf(axis, width)));
  const scene = { part, performance, axis, reach: view.reach, ...(asWritten ? {} : { written: writtenOf(part) }) };
  const stems = rows.map((row) => (detail === 'band' || row.top > height || row.top + row.height < 0 ? [] : layoutStems(scene, row, width)));
  return { axis, detail, rows, stems, performance };
}

/** The stem whose column a pointer is in. */
export function findStem(scene: BenchScene, p: Pick<Pointer, 'x' | 'y'>): Stem | undefined {
  // From afar single stems are too close to take hold of: edits act on ranges.
  if (scene.detail === 'ribbon') return undefined;
  const row = rowAt(scene.rows, p.y);
  return row && stemAt(scene.stems[scene.rows.indexOf(row)] ?? [], p.x, p.y, scene.axis);
}

/** The empty step under a pointer: the nearest line of the grid, as the feel would place a hit on it. */
export function findGround(scene: BenchScene, part: Part, grid: Parameters<typeof stepOf>[0], p: Pick<Pointer, 'x' | 'y'>): (Ground & { x: number }) | undefined {
  const row = rowAt(scene.rows, p.y);
  if (!row || scene.detail === 'band' || scene.detail === 'ribbon') return undefined;
  const map = meterMapOf(part);
  const step = stepOf(grid);
  const at = nearestLine(map, tickOf(scene.axis, p.x), step).tick;
  const lines = [nearestLine(map, ticks(at - step), step).tick, at, nearestLine(map, ticks(at + step), step).tick].filter((t, i, all) => all.indexOf(t) === i && t >= part.origin);
  const places = placesOf(part, row.voice, lines);
  let best: (Ground & { x: number }) | undefined;
  lines.forEach((tick, i) => {
    const x = xOf(scene.axis, places[i] as number);
    if (!best || Math.abs(x - p.x) < Math.abs(best.x - p.x)) best = { voice: row.voice, tick, x };
  });
  const last = map.barOf(part.bars - 1);
  return best && best.tick < last.start + last.length ? best : undefined;
}

/** Where hits on these lines would be performed. */
function placesOf(part: Part, voice: string, lines: readonly Ticks[]): Float64Array {
  const hits = lines.map((tick, i): Hit => ({ id: String(i), voice, key: 0, tick, length: ticks(1), velocity: velocity(96) }));
  return performPart({ ...part, hits }).ticks;
}

/** Hits whose head or foot lies in a rectangle; from afar, all that sound within its time and rows. */
export function hitsInRectangle(scene: BenchScene, part: Part, r: Rectangle): HitId[] {
  const ids: HitId[] = [];
  if (scene.detail === 'band') {
    const from = tickOf(scene.axis, r.left);
    const to = tickOf(scene.axis, r.right);
    const voices = new Set(scene.rows.filter((row) => row.top < r.bottom && row.top + row.height > r.top).map((row) => row.voice));
    for (const hit of part.hits) if (hit.tick >= from && hit.tick < to && voices.has(hit.voice)) ids.push(hit.id);
    return ids;
  }
  const inside = (x: number, y: number): boolean => x >= r.left && x <= r.right && y >= r.top && y <= r.bottom;
  for (const stems of scene.stems) for (const s of stems) if (inside(s.headX, s.headY) || inside(s.footX, s.footY)) ids.push((part.hits[s.index] as Hit).id);
  return ids;
}
