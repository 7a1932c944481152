import { indicesByVoice } from '../part/by-voice';
import { MARKS } from '../part/columns';
import { GRIDS, stepOf, isTriplet } from '../time/grid';
import type { Bar, MeterMap } from '../time/meter-map';
import { ticks, type Ticks } from '../units';
import { MAX_SWING, MIN_SWING, STRAIGHT, type QuantizeMove } from '../model/feel';
import type { MoveContext } from '../feel/work';
import { choice, number, type ApplyMove, type MoveSpec } from '../feel/move-spec';

/** Strokes of one voice closer than this (and than half a step) move as one. */
const FLAM_MS = 45;

/** The line of a grid that a hit is pulled to, where that line is straight, and half the gap to the next line on the hit's side. */
export interface QuantizePull {
  line: number;
  straight: number;
  halfGap: number;
}

/** Place of the n-th line within a bar: every second one swung, the last incomplete pair of a bar straight. */
function linePlace(n: number, step: number, swingPercent: number, barLength: number): number {
  const place = n * step;
  if (place >= barLength) return barLength;
  if (swingPercent === STRAIGHT || n % 2 === 0) return place;
  const pairStart = (n - 1) * step;
  return pairStart + 2 * step > barLength ? place : pairStart + 2 * step * (swingPercent / 100);
}

/** The lines of a grid at or before a tick, and after it: as swung, and where they are straight. */
export interface LinesAround {
  before: number;
  after: number;
  straightBefore: number;
  straightAfter: number;
}

/** The two lines around a tick, as swung by `swingPercent` on pairs of the grid's steps; lines restart at each bar line. */
export function linesAround(map: MeterMap, tick: number, step: Ticks, swingPercent: number): LinesAround {
  const bar: Bar = map.barAt(ticks(tick));
  const place = tick - bar.start;
  if (swingPercent === STRAIGHT) {
    const line = Math.floor(place / step);
    const before = bar.start + line * step;
    const after = bar.start + Math.min(bar.length, (line + 1) * step);
    return { before, after, straightBefore: before, straightAfter: after };
  }
  // The line at or before the place: a swung one may lie up to a step off its straight place.
  let n = Math.max(0, Math.floor(place / step) - 1);
  while (linePlace(n + 1, step, swingPercent, bar.length) <= place && linePlace(n + 1, step, swingPercent, bar.length) < bar.length) n++;
  return {
    before: bar.start + linePlace(n, step, swingPercent, bar.length),
    after: bar.start + linePlace(n + 1, step, swingPercent, bar.length),
    straightBefore: bar.start + n * step,
    straightAfter: bar.start + Math.min(bar.length, (n + 1) * step),
  };
}

/**
 * The nearest line of a grid to a tick, as swung by `swingPercent` on pairs of its steps.
 * @returns null exactly between two lines
 */
export function pullOf(map: MeterMap, tick: number, step: Ticks, swingPercent: number): QuantizePull | null {
  const { before, after, straightBefore, straightAfter } = linesAround(map, tick, step, swingPercent);
  const halfGap = (after - before) / 2;
  if (tick === before) return { line: tick, straight: straightBefore, halfGap };
  if (tick - before === after - tick) return null;
  return tick - before < after - tick
    ? { line: before, straight: straightBefore, halfGap }
    : { line: after, straight: straightAfter, halfGap };
}

/** How much of the way a hit goes: full strength from 2k to 0.8 of the window, falling to 0 at its end; 0 up to k, rising to 2k. */
export function pullStrength(
  distance: number,
  distanceMs: number,
  halfGap: number,
  { strength, outer, innerMs }: Pick<QuantizeMove, 'strength' | 'outer' | 'innerMs'>,
): number {
  let e = strength;
  if (outer < 1) {
    const end = outer * halfGap;
    if (distance >= end) e = 0;
    else if (distance > 0.8 * end) e = (strength * (end - distance)) / (0.2 * end);
  }
  if (innerMs > 0) {
    if (distanceMs <= innerMs) return 0;
    if (distanceMs < 2 * innerMs) e = Math.min(e, (strength * (distanceMs - innerMs)) / innerMs);
  }
  return e;
}

/**
 * How far a hit is pulled, in ticks, and to which line; null where it stays. A hit whose line was decided goes to that, however far it is;
 * one left alone stays.
 */
function shiftOf(i: number, move: QuantizeMove, work: MoveContext, step: Ticks): { by: number; line: number } | null {
  const { homes, written, times, map, tempo } = work;
  const marks = written.marks[i] as number;
  if (marks & MARKS.alone) return null;
  const tick = times[i] as number;
  const swingPercent = isTriplet(move.grid) ? STRAIGHT : move.swingPercent;
  const pinned = (marks & MARKS.decided) !== 0;
  const pull = pinned ? pinnedPull(map, homes.ticks[i] as Ticks, step, swingPercent) : pullOf(map, tick, step, swingPercent);
  if (!pull) return null;
  const d = tick - pull.line;
  const ms = Math.abs(tempo.between(ticks(pull.line), ticks(tick)));
  const e = pullStrength(Math.abs(d), ms, pull.halfGap, pinned ? { ...move, outer: 1 } : move);
  // On its line already it is on it, however strong the pull.
  return e > 0 || (d === 0 && move.strength > 0) ? { by: -d * e, line: pull.straight } : null;
}

/** The line that a home stands for: the straight one it is nearest to, as swung. */
export function pinnedPull(map: MeterMap, home: Ticks, step: Ticks, swingPercent: number): QuantizePull {
  const bar = map.barAt(home);
  const n = Math.floor((home - bar.start) / step + 0.5);
  return {
    line: bar.start + linePlace(n, step, swingPercent, bar.length),
    straight: bar.start + Math.min(bar.length, n * step),
    halfGap: step / 2,
  };
}

/** Pulls hits to the grid; strokes of one voice that fall together (flams) move by the shift of the loudest. */
const applyQuantize: ApplyMove<QuantizeMove> = (move, work, inScope) => {
  const { hits, range, times, loudness, tempo, placedHomes } = work;
  const lines = work.lines.slice();
  const step = stepOf(move.grid);
  for (const indices of indicesByVoice(hits).values()) {
    const chosen = indices.filter((i) => i >= range.from && i < range.to && inScope(i));
    let from = 0;
    while (from < chosen.length) {
      let to = from + 1;
      let loudest = chosen[from] as number;
      while (to < chosen.length && near(times[chosen[to - 1] as number] as number, times[chosen[to] as number] as number)) {
        const i = chosen[to] as number;
        if ((loudness[i] as number) > (loudness[loudest] as number)) loudest = i;
        to++;
      }
      const shift = shiftOf(loudest, move, work, step);
      for (let k = from; k < to && shift; k++) {
        const i = chosen[k] as number;
        times[i] = (times[i] as number) + shift.by;
        lines[i] = placedHomes[i] = shift.line;
      }
      from = to;
    }
  }
  work.lines = lines;

  function near(before: number, after: number): boolean {
    const gap = Math.abs(after - before);
    return gap < step / 2 && Math.abs(tempo.between(ticks(before), ticks(after))) < FLAM_MS;
  }
};

export const quantizeMove: MoveSpec<QuantizeMove> = {
  kind: 'quantize',
  members: {
    grid: choice(GRIDS),
    strength: number(0, 1),
    outer: number(0, 1),
    innerMs: number(0, 50),
    swingPercent: number(MIN_SWING, MAX_SWING),
  },
  plain: { kind: 'quantize', grid: '1/16', strength: 0.75, outer: 1, innerMs: 0, swingPercent: STRAIGHT },
  problem: ({ grid, swingPercent }) =>
    isTriplet(grid) && swingPercent !== STRAIGHT ? 'swingPercent: triplet grids are straight, 50 only' : null,
  salt: 'tighten',
  draws: false,
  apply: applyQuantize,
};
