import type { BreakStroke } from '@/core/breaks/strokes';
import type { Break } from '@/core/model/break';
import type { Part } from '@/core/model/part';
import { meterMapOf } from '@/core/part/part-time';
import { ticks } from '@/core/units';
import type { Outline } from '@/workers/break.worker';
import { CANVAS_FONT, type Palette } from '../stems/drawing/palette';
import { tickOf, xOf, type Axis } from '../stems/geometry/axis';
import { FLAGS, FOOT, heightOf, kindWords, momentAtX, PICTURE_HEIGHT, UNSURE, thresholdHeight, xOfMoment } from './geometry';

export interface BreakScene {
  part: Part;
  of: Break;
  /** The lines that moments are placed by: while one is dragged, those of before. */
  placed: Pick<Break, 'lines' | 'bar'>;
  strokes: readonly BreakStroke[];
  outline: Outline | null;
  axis: Axis;
  chosen: string | null;
  marked: readonly string[];
}

/** Of the outline: its ink, and what it fills. */
const OUTLINE_ROOM = FOOT - FLAGS - 18;
const HEAD = 4.5;
/** Words stand so far apart. */
const WORD_GAP = 6;

/**
 * Draws the upper half of the sound on the lines of the grid, a stem at each stroke, and the sensitivity threshold that leaves out the
 * softest.
 */
export function drawBreak(g: CanvasRenderingContext2D, palette: Palette, scene: BreakScene, width: number) {
  g.fillStyle = palette.ground;
  g.fillRect(0, 0, width, PICTURE_HEIGHT);
  drawLines(g, palette, scene, width);
  drawOutline(g, palette, scene, width);
  const threshold = FOOT - thresholdHeight(scene.of.sensitivity);
  g.fillStyle = palette.early;
  g.globalAlpha = 0.1;
  g.fillRect(0, threshold, width, FOOT - threshold);
  g.globalAlpha = 1;
  g.fillStyle = palette.strong;
  g.fillRect(0, FOOT, width, 1);
  drawStrokes(g, palette, scene, width);
  g.strokeStyle = palette.ink;
  g.setLineDash([2, 3]);
  g.beginPath();
  g.moveTo(0, Math.round(threshold) + 0.5);
  g.lineTo(width, Math.round(threshold) + 0.5);
  g.stroke();
  g.setLineDash([]);
}

/** Bar and beat lines where the stems have them. */
function drawLines(g: CanvasRenderingContext2D, palette: Palette, { part, axis }: BreakScene, width: number) {
  const map = meterMapOf(part);
  const [from, to] = [map.barAt(tickOf(axis, 0)).index, map.barAt(tickOf(axis, width)).index];
  for (let b = Math.max(0, from); b <= Math.min(part.bars, to); b++) {
    const bar = map.barOf(b);
    const beats = bar.meter.numerator;
    const each = bar.length / beats;
    for (let k = 0; k < (b < part.bars ? beats : 1); k++) {
      if (k > 0 && each * axis.pixelsPerTick < 10) break;
      g.fillStyle = k === 0 ? palette.strong : palette.step;
      g.fillRect(Math.round(xOf(axis, ticks(bar.start + k * each))), FLAGS, 1, FOOT - FLAGS);
    }
  }
}

function drawOutline(g: CanvasRenderingContext2D, palette: Palette, { part, placed, outline, axis }: BreakScene, width: number) {
  if (!outline) return;
  const { peaks, perSecond } = outline;
  const most = peaks.reduce((high, p) => Math.max(high, p), 1e-6);
  const left = Math.max(0, Math.floor(xOfMoment(part, placed, axis, 0)));
  const right = Math.min(width, Math.ceil(xOfMoment(part, placed, axis, peaks.length / perSecond)));
  if (right <= left) return;
  g.beginPath();
  g.moveTo(left, FOOT);
  let before = momentAtX(part, placed, axis, left);
  const step = 0.5;
  for (let x = left; x <= right; x += step) {
    const next = momentAtX(part, placed, axis, x + step);
    let high = 0;
    for (let i = Math.max(0, Math.floor(before * perSecond)); i <= Math.min(peaks.length - 1, Math.floor(next * perSecond)); i++)
      high = Math.max(high, peaks[i] as number);
    before = next;
    // Soft tails are seen as well: the root brings them up.
    g.lineTo(x, FOOT - OUTLINE_ROOM * Math.sqrt(high / most) * 0.92);
  }
  g.lineTo(right, FOOT);
  g.fillStyle = palette.sunk;
  g.fill();
  g.strokeStyle = palette.faint;
  g.lineWidth = 1;
  g.stroke();
}

function drawStrokes(
  g: CanvasRenderingContext2D,
  palette: Palette,
  { part, placed, strokes, axis, chosen, marked, of }: BreakScene,
  width: number,
) {
  g.font = `12px ${CANVAS_FONT}`;
  g.textAlign = 'center';
  const [first, last] = [of.lines[0] as number, of.lines.at(-1) as number];
  let wordEnd = -Infinity;
  const isMarked = new Set(marked);
  for (const stroke of strokes) {
    const x = xOfMoment(part, placed, axis, stroke.at);
    if (x < -10 || x > width + 10) continue;
    const outside = stroke.at < first - 0.06 || stroke.at >= last;
    const isPale = stroke.belowThreshold || outside;
    const top = FOOT - heightOf(stroke.over);
    g.fillStyle = isPale ? palette.pale : stroke.id === chosen || isMarked.has(stroke.id) ? palette.accent : palette.ink;
    g.fillRect(x - 0.75, top, 1.5, FOOT - top);
    g.beginPath();
    g.arc(x, top, stroke.id === chosen ? HEAD + 1.5 : isPale ? HEAD - 1 : HEAD, 0, 2 * Math.PI);
    g.fill();
    if (isMarked.has(stroke.id)) {
      g.strokeStyle = palette.accent;
      g.lineWidth = 1;
      g.beginPath();
      g.arc(x, top, HEAD + 3.5, 0, 2 * Math.PI);
      g.stroke();
    }
    if (stroke.byHand) {
      // Held by the hand: a foot under it.
      g.fillRect(x - 4, FOOT, 8, 2);
    }
    if (isPale) continue;
    // All that is struck where there is room, else what it is above all.
    const { kind, sure } = stroke;
    const words = [kindWords(stroke), kindWords({ kind, sure })].find((w) => x - g.measureText(w).width / 2 >= wordEnd + WORD_GAP);
    if (words === undefined) continue;
    g.fillStyle = sure < UNSURE ? palette.lateText : palette.faint;
    g.fillText(words, x, FOOT + 15);
    wordEnd = x + g.measureText(words).width / 2;
  }
}
