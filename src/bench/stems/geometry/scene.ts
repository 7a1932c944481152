import { placeLines } from '@/core/perform/line-places';
import { linesOf } from '@/core/commands/place';
import { stepOf, type GridName } from '@/core/time/grid';
import { endOfPart, meterMapOf, tempoMapOf } from '@/core/part/part-time';
import type { Strays } from '@/core/analysis/strays';
import type { CellHit } from '@/core/cells/cells';
import type { LinePoint } from '@/core/shaping/shapes';
import type { HitId, Hit, Part } from '@/core/model/part';
import { performPart, type HitRange } from '@/core/perform/perform';
import { isPlain, soundingPart } from '@/core/song/sounding';
import { clamp, ticks, type Ticks } from '@/core/units';
import type { VoiceName } from '@/core/row-names';
import type { Performance } from '@/core/perform/perform';
import type { BenchState } from '../../store/bench-store';
import { hitsBetween, otherOf, performanceWithin, linedPart, onShownLines, writtenOf } from '../../store/derived';
import type { GroundPoint, Pointer, Rectangle } from './pointer';
import { axisOf, detailOf, stepPixels, tickOf, xOf, type Axis, type Detail } from './axis';
import { gripAt, layoutOrnaments, type OrnamentGrip, type OrnamentMark } from './ornaments';
import { layoutRows, rowAt, rowsInView, type RowBox } from './rows';
import { heightOf, layoutStems, pixelsPerMs, stemAt, velocityAtHeight, type Stem } from './stems';

/** A head's way under a quantize move. */
export interface PullArrow {
  from: number;
  to: number;
  y: number;
}

/** A stem of another version of the part. */
export interface BehindStem {
  footX: number;
  headX: number;
  headY: number;
  baseline: number;
}

/** Everything that is drawn of a state of the Bench, and what a pointer can find in it. */
export interface BenchScene {
  axis: Axis;
  detail: Detail;
  rows: RowBox[];
  /** By row, from left to right; empty from afar. */
  stems: Stem[][];
  performance: Performance;
  /** Stems of the version that is compared with, behind the part's own. */
  behind: BehindStem[];
  /** Suggested hits in sight. */
  proposed: { row: number; x: number; velocity: number; looked: boolean }[];
  /** The step cursor; `half` is half a step of the grid. */
  caret: { row: number; x: number; half: number } | null;
  /** While a quantize move is open: where it takes the heads in sight, on or off. */
  pulls: PullArrow[];
  /** Rolls, flams and echoes in sight. */
  ornaments: OrnamentMark[];
  /** The part as its lines are shown. */
  lined: Part;
  /** Which hits stray from their row; not known while the part is being changed. */
  strays: Strays | null;
  /** Written hits that do not sound in pass 1. */
  unheard: ReadonlySet<HitId>;
  /** 1 for each hit whose line is doubtful, parallel to the part's hits. */
  doubtful: Uint8Array;
}

export function makeScene(
  state: Pick<BenchState, 'part' | 'view' | 'focus' | 'transport' | 'ui' | 'whole'>,
  width: number,
  height: number,
): BenchScene {
  const { part, view } = state;
  const axis = axisOf(view);
  const detail = detailOf(stepPixels(axis));
  const rows = layoutRows(rowsInView(part, view.hideEmpty), height, state.focus, view.scrollRows);
  const asWritten = state.transport.version === 'written';
  const inSight = hitsBetween(part, tickOf(axis, 0), tickOf(axis, width));
  const other = state.transport.version === 'other' ? state.ui.other : null;
  const lined = other ? part : linedPart(state);
  const performance = onShownLines(
    asWritten ? writtenOf(part) : other ? otherOf(part, other).performance : performanceWithin(part, inSight),
    part,
    lined,
  );
  const scene = {
    part,
    performance,
    axis,
    reach: view.reach,
    ...(asWritten || lined !== part ? {} : { written: writtenOf(part, inSight) }),
  };
  const stems = rows.map((row) =>
    detail === 'band' || row.top > height || row.top + row.height < 0 ? [] : layoutStems(scene, row, width),
  );
  const measured = !asWritten && !other && state.whole?.part === part ? state.whole : null;
  const strays = measured?.strays ?? null;
  const ornaments = detail === 'band' ? [] : layoutOrnaments(part, performance, axis, rows, stems);
  return {
    axis,
    detail,
    rows,
    stems,
    performance,
    lined,
    ornaments,
    unheard: unheardIn(part),
    behind: detail === 'band' || other ? [] : behindIn(state, axis, rows, width),
    doubtful: measured?.doubtful ?? performance.homes.doubtful,
    proposed: proposedIn(state, lined, axis, rows),
    caret: caretIn(state, lined, axis, rows),
    strays,
    pulls: detail === 'band' || asWritten || other ? [] : pullsIn(state, axis, stems, inSight),
  };
}

const unheard = new WeakMap<Part, ReadonlySet<HitId>>();
const ALL_HEARD: ReadonlySet<HitId> = new Set();

function unheardIn(part: Part): ReadonlySet<HitId> {
  if (isPlain(part)) return ALL_HEARD;
  let known = unheard.get(part);
  if (!known) {
    const heard = new Set(soundingPart(part).hits.map((h) => h.id));
    unheard.set(part, (known = new Set(part.hits.map((h) => h.id).filter((id) => !heard.has(id)))));
  }
  return known;
}

/** The version that is compared with, by eye: its performed stems on the rows of this part. */
function behindIn({ part, view, ui }: DrawnUiState, axis: Axis, rows: readonly RowBox[], width: number): BehindStem[] {
  if (!ui.other?.part) return [];
  const other = otherOf(part, ui.other);
  return rows.flatMap((row) =>
    layoutStems({ part: other.part, performance: other.performance, axis, reach: view.reach }, row, width).map(
      ({ footX, headX, headY }) => ({ footX, headX, headY, baseline: row.baseline }),
    ),
  );
}

/** A pull by less is not worth an arrow. */
const LEAST_PULL = 2;

function pullsIn({ part, view, ui }: DrawnUiState, axis: Axis, stems: readonly Stem[][], inSight: HitRange): PullArrow[] {
  const index = ui.openMove;
  const move = index === null ? undefined : part.feel.moves[index];
  if (move?.kind !== 'quantize') return [];
  const withMove = (on: boolean) =>
    performPart({ ...part, feel: { ...part.feel, moves: part.feel.moves.map((m, i) => (i === index ? { ...m, on } : m)) } }, inSight);
  const [before, after] = [withMove(false), withMove(true)];
  const scale = pixelsPerMs(axis, view.reach);
  const tempo = tempoMapOf(part);
  return stems.flatMap((row) =>
    row.flatMap((s) => {
      const headAt = (p: Performance): number => {
        const lean = tempo.between(ticks(p.placedHomes[s.index] as number), ticks(p.ticks[s.index] as number)) * scale;
        return s.footX + clamp(lean, -s.room.early, s.room.late);
      };
      const [from, to] = [headAt(before), headAt(after)];
      return Math.abs(to - from) < LEAST_PULL ? [] : [{ from, to, y: s.headY - 11 }];
    }),
  );
}

type DrawnUiState = Pick<BenchState, 'part' | 'view' | 'ui'>;

function proposedIn({ ui }: DrawnUiState, lined: Part, axis: Axis, rows: readonly RowBox[]): BenchScene['proposed'] {
  if (!ui.proposal) return [];
  const byVoice = new Map<VoiceName, CellHit[]>();
  const looked = ui.proposal.owner === 'ghosts' ? ui.proposal.hits[ui.proposal.at] : undefined;
  for (const hit of ui.proposal.hits) byVoice.set(hit.voice, [...(byVoice.get(hit.voice) ?? []), hit]);
  return [...byVoice].flatMap(([voice, hits]) => {
    const row = rows.findIndex((r) => r.voice === voice);
    const places = placeLines(
      lined,
      voice,
      hits.map((h) => h.tick),
    );
    return row < 0 ? [] : hits.map((h, i) => ({ row, x: xOf(axis, places[i] as number), velocity: h.velocity, looked: h === looked }));
  });
}

function caretIn({ view, ui }: DrawnUiState, lined: Part, axis: Axis, rows: readonly RowBox[]): BenchScene['caret'] {
  const { step } = ui;
  const row = step ? rows.findIndex((r) => r.voice === step.voice) : -1;
  if (!step || row < 0) return null;
  return { row, x: xOf(axis, placeLines(lined, step.voice, [step.tick])[0] as number), half: (stepOf(view.grid) * axis.pixelsPerTick) / 2 };
}

/** The grip of a selected ornament under a pointer. */
export const findGrip = (scene: BenchScene, selection: ReadonlySet<HitId>, p: Pick<Pointer, 'x' | 'y'>): OrnamentGrip | undefined =>
  scene.detail === 'full' || scene.detail === 'small' ? gripAt(scene.ornaments, selection, p) : undefined;

/** The stem whose column a pointer is in. */
export function findStem(scene: BenchScene, p: Pick<Pointer, 'x' | 'y'>): Stem | undefined {
  // From afar single stems are too close to take hold of: edits act on ranges.
  if (scene.detail === 'ribbon') return undefined;
  const row = rowAt(scene.rows, p.y);
  return row && stemAt(scene.stems[scene.rows.indexOf(row)] ?? [], p.x, p.y, scene.axis);
}

/**
 * The empty step under a pointer: the nearest line of the grid, where swing draws it; undefined outside the part.
 * @param from from how far away: single hits are placed only where steps can be told apart, painting fills ranges at any zoom
 */
export function findGround(
  scene: BenchScene,
  part: Part,
  grid: GridName,
  p: Pick<Pointer, 'x' | 'y'>,
  from: 'near' | 'anywhere' = 'near',
): (GroundPoint & { x: number }) | undefined {
  const row = rowAt(scene.rows, p.y);
  if (!row || (from === 'near' && (scene.detail === 'band' || scene.detail === 'ribbon'))) return undefined;
  const half = stepOf(grid) / 2;
  const tick = tickOf(scene.axis, p.x);
  if (tick < part.origin - half || tick >= endOfPart(part)) return undefined;
  return { voice: row.voice, ...findLine(scene, part, grid, row.voice, p.x) };
}

/** The line of the grid nearest to a place, where it is drawn for the row; the part's first or last outside of it. */
export function findLine(scene: BenchScene, part: Part, grid: GridName, voice: VoiceName, x: number): { tick: Ticks; x: number } {
  const map = meterMapOf(part);
  const last = ticks(endOfPart(part) - 1);
  const bar = map.barAt(ticks(clamp(tickOf(scene.axis, x), part.origin, last))).index;
  // Swing keeps lines within their bar: the next bar's line may be the nearest all the same.
  const lines = linesOf(part, grid, {
    start: map.barOf(Math.max(0, bar - 1)).start,
    end: ticks(Math.min(last + 1, map.barOf(bar + 2).start)),
  });
  const places = placeLines(scene.lined, voice, lines);
  let best = 0;
  const away = (i: number): number => Math.abs(xOf(scene.axis, places[i] as number) - x);
  for (let i = 1; i < lines.length; i++) if (away(i) < away(best)) best = i;
  return { tick: lines[best] ?? ticks(part.origin), x: xOf(scene.axis, places[best] ?? part.origin) };
}

/** A stem's column: its hit and where its foot stands. */
export interface Column {
  id: HitId;
  x: number;
}

/** The columns of a row that are in sight, in time order. */
export function columnsOf(scene: BenchScene, part: Part, voice: VoiceName): Column[] {
  const row = scene.rows.findIndex((r) => r.voice === voice);
  return (scene.stems[row] ?? []).map((s) => ({ id: (part.hits[s.index] as Hit).id, x: s.footX }));
}

/** The written tick and the velocity that a place in a row stands for. */
export function pointAt(scene: BenchScene, voice: VoiceName, p: Pick<Pointer, 'x' | 'y'>): LinePoint {
  const row = scene.rows.find((r) => r.voice === voice);
  return { place: tickOf(scene.axis, p.x), value: row ? clamp(velocityAtHeight(row, row.baseline - p.y), 1, 127) : 1 };
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
  const drawn = new Set<number>();
  for (const stems of scene.stems) {
    for (const s of stems) {
      drawn.add(s.index);
      if (inside(s.headX, s.headY) || inside(s.footX, s.footY)) ids.push((part.hits[s.index] as Hit).id);
    }
  }
  // What was scrolled out of sight counts where it would stand.
  const rows = new Map(scene.rows.map((row) => [row.voice, row]));
  part.hits.forEach((hit, i) => {
    const row = drawn.has(i) ? undefined : rows.get(hit.voice);
    const x = row && xOf(scene.axis, hit.tick);
    if (row && x !== undefined && (inside(x, row.baseline) || inside(x, row.baseline - heightOf(row, hit.velocity)))) ids.push(hit.id);
  });
  return ids;
}
