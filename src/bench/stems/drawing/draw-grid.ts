import { meterMapOf } from '@/core/part/part-time';
import type { Part } from '@/core/model/part';
import { isSwungByRow, placeLines } from '@/core/perform/line-places';
import { stepOf, type GridName } from '@/core/time/grid';
import type { Bar, MeterMap } from '@/core/time/meter-map';
import { ticks, TICKS_PER_QUARTER, type Ticks } from '@/core/units';
import { tickOf, xOf, type Axis } from '../geometry/axis';
import { RULER_HEIGHT, type RowBox } from '../geometry/rows';
import { CANVAS_FONT, type Palette } from './palette';

/** Bars closer than this many pixels are not drawn one by one. */
const CLOSEST_BARS = 38;
const CLOSEST_COUNTS = 17;
const CLOSEST_LINES = 7;
const CLOSEST_BEATS = 14;
/** Narrower bars have room for their number alone. */
const SHORT_FLAGS = 60;

interface Scene {
  part: Part;
  /** As its lines are shown. */
  lined: Part;
  axis: Axis;
  width: number;
  height: number;
  grid: GridName;
  rows: readonly RowBox[];
  focusIndex: number;
  /** Below 0 where hits lie before the first bar. */
  firstBar: number;
}

/** Paper, rows' ground lines, bar, beat and grid lines (where swing puts them), the ruler with bar flags and counts. */
export function drawGrid(g: CanvasRenderingContext2D, palette: Palette, scene: Scene) {
  const { axis, width, height, rows } = scene;
  g.fillStyle = palette.ground;
  g.fillRect(0, 0, width, height);
  const focused = rows[scene.focusIndex];
  if (focused) {
    g.fillStyle = palette.surface;
    g.fillRect(0, focused.top, width, focused.height);
    drawLevels(g, palette, focused, width);
  }
  g.fillStyle = palette.step;
  for (const row of rows) g.fillRect(0, Math.round(row.baseline), width, 1);

  const map = meterMapOf(scene.part);
  const first = Math.max(scene.firstBar, map.barAt(tickOf(axis, 0)).index);
  const last = Math.min(scene.part.bars, map.barAt(tickOf(axis, width)).index + 1);
  const widest = xOf(axis, map.barOf(first).start + map.barOf(first).length) - xOf(axis, map.barOf(first).start);
  const every = widest >= CLOSEST_BARS ? 1 : 2 ** Math.ceil(Math.log2(CLOSEST_BARS / widest));
  g.textBaseline = 'alphabetic';
  if (every === 1) drawLines(g, palette, scene, map, first, Math.min(last, scene.part.bars - 1));
  for (let b = first; b <= last; b++) {
    if (every > 1 && ((b % every) + every) % every !== 0) continue;
    drawBar(g, palette, scene, map, map.barOf(b), every > 1, b === last && b === scene.part.bars);
  }
}

/** Light level notches at every 32nd velocity, on the focused row alone. */
function drawLevels(g: CanvasRenderingContext2D, palette: Palette, row: RowBox, width: number) {
  g.font = `10px ${CANVAS_FONT}`;
  g.textAlign = 'left';
  for (const v of [32, 64, 96, 127]) {
    const y = Math.round(row.baseline - (10 + ((row.tallest - 10) * (v - 1)) / 126));
    g.fillStyle = palette.line;
    g.fillRect(0, y, width, 1);
    g.fillStyle = palette.faint;
    g.fillText(String(v), 3, y - 2);
  }
}

function drawBar(g: CanvasRenderingContext2D, palette: Palette, scene: Scene, map: MeterMap, bar: Bar, coarse: boolean, isEnd: boolean) {
  const { axis, height, rows } = scene;
  const x = xOf(axis, bar.start);
  const bottom = Math.min(height, rows.at(-1)?.baseline ?? height);
  const line = (at: number, colour: string, thickness: number, from: number) => {
    g.fillStyle = colour;
    g.fillRect(Math.round(at - thickness / 2), from, thickness, bottom - from);
  };
  if (!isEnd && !coarse) drawCounts(g, palette, scene, map, bar, scene.grid);
  // The line leaves the count of its beat readable.
  line(x, palette.strong, isEnd ? 3 : 1.5, RULER_HEIGHT - 5);
  if (isEnd) return;
  const text = coarse || bar.length * axis.pixelsPerTick < SHORT_FLAGS ? String(bar.index + 1) : `bar ${bar.index + 1}`;
  g.font = `600 11px ${CANVAS_FONT}`;
  g.textAlign = 'left';
  const flag = g.measureText(text).width + 10;
  if (x + flag > scene.width) return;
  g.fillStyle = bar.index < 0 ? palette.faint : palette.ink;
  g.beginPath();
  g.roundRect(x, 2, flag, 16, [0, 3, 3, 0]);
  g.fill();
  g.fillStyle = palette.ground;
  g.fillText(text, x + 5, 14);
}

/**
 * The lines of the placing grid and of the beats: what is clicked is what is placed. Swing puts them where hits on them sound; rows that
 * are swung differently have lines of their own.
 */
function drawLines(g: CanvasRenderingContext2D, palette: Palette, scene: Scene, map: MeterMap, first: number, last: number) {
  const { lined: part, axis, rows } = scene;
  const pixels = stepOf(scene.grid) * axis.pixelsPerTick;
  const steps: Ticks[] = [];
  const beats: Ticks[] = [];
  for (let b = first; b <= last; b++) {
    const bar = map.barOf(b);
    if (pixels >= CLOSEST_LINES)
      for (let t = stepOf(scene.grid) as number; t < bar.length; t += stepOf(scene.grid)) steps.push(ticks(bar.start + t));
    for (const beat of map.beatsOf(bar)) if (beat.index > 0 && beat.length * axis.pixelsPerTick >= CLOSEST_BEATS) beats.push(beat.start);
  }
  const bottom = Math.min(scene.height, rows.at(-1)?.baseline ?? scene.height);
  const draw = (voice: string, top: number, end: number) => {
    g.fillStyle = palette.step;
    for (const place of placeLines(part, voice, steps)) g.fillRect(Math.round(xOf(axis, place) - 0.5), top, 1, end - top);
    g.fillStyle = palette.strong;
    for (const place of placeLines(part, voice, beats)) g.fillRect(Math.round(xOf(axis, place) - 0.3), top, 0.6, end - top);
  };
  if (!isSwungByRow(part)) return draw(rows[0]?.voice ?? '', RULER_HEIGHT - 2, bottom);
  for (const row of rows)
    if (row.top < scene.height && row.top + row.height > RULER_HEIGHT) draw(row.voice, Math.max(RULER_HEIGHT, row.top), row.baseline);
}

/** Between the beats: in sixteenths, or in threes where the grid is one of triplets. */
const BETWEEN = { straight: ['', 'e', '&', 'a'], triplets: ['', '&', 'a'] } as const;

/** How the bar is counted, on the ruler. */
function drawCounts(g: CanvasRenderingContext2D, palette: Palette, { axis }: Scene, map: MeterMap, bar: Bar, grid: GridName) {
  const beats = map.beatsOf(bar);
  g.textAlign = 'center';
  const eighths = bar.meter.denominator === 8;
  const unit = eighths ? TICKS_PER_QUARTER / 2 : TICKS_PER_QUARTER;
  const names = eighths ? ['', '&'] : grid.endsWith('T') ? BETWEEN.triplets : BETWEEN.straight;
  const step = unit / names.length;
  const heads = new Set(beats.map((b) => b.start - bar.start));
  for (let n = 0; n * step < bar.length; n++) {
    const t = n * step;
    const isUnit = n % names.length === 0;
    const room = (isUnit ? unit : step) * axis.pixelsPerTick;
    if (room < CLOSEST_COUNTS) continue;
    const text = isUnit ? String(n / names.length + 1) : (names[n % names.length] as string);
    g.font = isUnit && heads.has(t) ? `700 14px ${CANVAS_FONT}` : `${isUnit ? '600 ' : ''}12px ${CANVAS_FONT}`;
    g.fillStyle = isUnit ? palette.ink : palette.faint;
    g.fillText(text, xOf(axis, bar.start + t), RULER_HEIGHT - 9);
  }
}
