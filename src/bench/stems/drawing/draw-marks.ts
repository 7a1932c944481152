import type { BenchScene } from '../geometry/scene';
import { RULER_HEIGHT, type RowBox } from '../geometry/rows';
import { heightOf } from '../geometry/stems';
import type { Palette } from './palette';

/** A stem that is not there yet: what a click, painting or a suggestion would place. */
export function drawPaleStem(g: CanvasRenderingContext2D, palette: Palette, x: number, baseline: number, height: number) {
  g.strokeStyle = palette.pale;
  g.fillStyle = palette.pale;
  g.lineWidth = 1.5;
  g.beginPath();
  g.moveTo(x, baseline);
  g.lineTo(x, baseline - height);
  g.stroke();
  g.beginPath();
  g.arc(x, baseline - height, 4.5, 0, 2 * Math.PI);
  g.fill();
}

/** A compared version: its stems broad and pale behind the part's own, where they differ. */
export function drawBehind(g: CanvasRenderingContext2D, palette: Palette, scene: BenchScene) {
  if (scene.behind.length === 0) return;
  const placeOf = (s: { headX: number; headY: number }): string => `${Math.round(s.headX)} ${Math.round(s.headY)}`;
  const own = new Set(scene.stems.flat().map(placeOf));
  const different = scene.behind.filter((s) => !own.has(placeOf(s)));
  g.strokeStyle = palette.pale;
  g.fillStyle = palette.pale;
  g.lineWidth = 5;
  g.lineCap = 'butt';
  g.beginPath();
  for (const s of different) {
    g.moveTo(s.footX, s.baseline);
    g.lineTo(s.headX, s.headY);
  }
  g.stroke();
  for (const s of different) {
    g.beginPath();
    g.arc(s.headX, s.headY, 7, 0, 2 * Math.PI);
    g.fill();
  }
}

/** Suggested hits: pale stems with an accent ring, so that they are told apart from written ones. */
export function drawProposed(g: CanvasRenderingContext2D, palette: Palette, scene: BenchScene) {
  for (const p of scene.proposed) {
    const row = scene.rows[p.row] as RowBox;
    const height = heightOf(row, p.velocity);
    drawPaleStem(g, palette, p.x, row.baseline, height);
    g.strokeStyle = palette.accent;
    g.fillStyle = palette.accent;
    g.lineWidth = p.looked ? 2 : 1.2;
    g.beginPath();
    g.arc(p.x, row.baseline - height, p.looked ? 8 : 5.5, 0, 2 * Math.PI);
    g.stroke();
    if (p.looked) g.fillRect(p.x - 7, row.baseline + 3, 14, 2.5);
  }
}

/** The step cursor: a bracket around its column, and a mark on the ruler. */
export function drawCaret(g: CanvasRenderingContext2D, palette: Palette, scene: BenchScene, width: number) {
  const { caret } = scene;
  const row = caret && scene.rows[caret.row];
  if (!caret || !row || caret.x < -20 || caret.x > width + 20) return;
  const half = Math.max(7, Math.min(16, caret.half));
  const top = row.top + 3;
  const bottom = row.baseline + 6;
  g.strokeStyle = palette.accent;
  g.lineWidth = 2;
  g.beginPath();
  for (const side of [-1, 1]) {
    g.moveTo(caret.x + side * (half - 5), top);
    g.lineTo(caret.x + side * half, top);
    g.lineTo(caret.x + side * half, bottom);
    g.lineTo(caret.x + side * (half - 5), bottom);
  }
  g.stroke();
  g.fillStyle = palette.accent;
  g.fillRect(caret.x - half, RULER_HEIGHT - 4, 2 * half, 3);
}

/** A hit further than 20 % of a step from its row's mean: a small arrow under its foot, towards the side it strays to. */
export function drawStray(g: CanvasRenderingContext2D, palette: Palette, x: number, y: number, side: number) {
  g.strokeStyle = palette.strong;
  g.lineWidth = 1.2;
  g.beginPath();
  g.moveTo(x + side * 4, y + 3);
  g.lineTo(x + side * 7, y + 5.5);
  g.lineTo(x + side * 4, y + 8);
  g.stroke();
}

/** A locked hit stands on a square foot. */
export function drawLockedFoot(g: CanvasRenderingContext2D, x: number, y: number) {
  g.fillRect(x - 3.5, y - 3.5, 7, 7);
}

/** A choke is a bare foot with a bar. */
export function drawChoke(g: CanvasRenderingContext2D, palette: Palette, x: number, y: number, selected: boolean) {
  if (selected) {
    g.fillStyle = palette.accent;
    g.beginPath();
    g.roundRect(x - 10, y - 13, 20, 8, 4);
    g.fill();
  }
  g.fillStyle = selected ? palette.onAccent : palette.ink;
  g.fillRect(x - 7, y - 10.5, 14, 3);
}

/** Where quantizing takes heads: an arrow above each, with the lens's magnification. */
export function drawPulls(g: CanvasRenderingContext2D, palette: Palette, scene: BenchScene) {
  g.strokeStyle = palette.accent;
  g.lineWidth = 1.4;
  g.beginPath();
  for (const { from, to, y } of scene.pulls) {
    const side = Math.sign(to - from);
    g.moveTo(from, y);
    g.lineTo(to, y);
    g.lineTo(to - side * 3, y - 2.5);
    g.moveTo(to, y);
    g.lineTo(to - side * 3, y + 2.5);
  }
  g.stroke();
}
