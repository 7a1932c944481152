import { letterOf, type PhraseBar } from '@/core/analysis/phrase';
import type { PhraseStem } from '../geometry/phrase-stems';
import { CANVAS_FONT, type Palette } from './palette';

export interface PhraseScene {
  bars: readonly PhraseBar[];
  /** Empty where bars are too narrow for them. */
  stems: readonly PhraseStem[];
  width: number;
  height: number;
  /** Bars, without the second. */
  loop: readonly [number, number] | null;
  /** Bars in view on the Bench, fractional. */
  window: readonly [number, number];
}

/** Cells no wider than this, so that short parts do not fill the strip with air. */
const WIDEST_CELL = 92;
const LETTER_ROOM = 15;
/** Narrower bars are drawn as how full they are. */
export const STEMS_ROOM = 26;

export const cellWidth = (bars: number, width: number): number => Math.min(WIDEST_CELL, width / Math.max(1, bars));

/** The whole part in one line: a cell a bar, its letter where the shape changes, density, lean drift, loop and view. */
export function drawPhrase(g: CanvasRenderingContext2D, palette: Palette, scene: PhraseScene) {
  const { bars, width, height } = scene;
  const cell = cellWidth(bars.length, width);
  const densest = Math.max(1, ...bars.map((b) => b.hits));
  const top = 16;
  const floor = height - 16;
  g.fillStyle = palette.ground;
  g.fillRect(0, 0, width, height);
  g.fillStyle = palette.sunk;
  g.fillRect(scene.window[0] * cell, top - 4, Math.max(2, (scene.window[1] - scene.window[0]) * cell), floor - top + 8);

  const seen = new Set<number>();
  const shapes = new Map<number, boolean>();
  bars.forEach((bar, i) => {
    const x = i * cell;
    const gap = cell > 8 ? 2 : cell > 3 ? 0.5 : 0;
    if (bar.hits > 0) {
      const h = Math.max(2, ((floor - top) * bar.hits) / densest);
      const isNew = !seen.has(bar.shape);
      seen.add(bar.shape);
      shapes.set(i, isNew);
      g.fillStyle = isNew ? palette.strong : palette.step;
      if (cell < STEMS_ROOM) g.fillRect(x + gap, floor - h, Math.max(0.8, cell - 2 * gap), h);
      // The drift: a short ink line, left of the middle early, right of it late; from afar above and below.
      const drift = Math.max(-1, Math.min(1, bar.lean / 20));
      g.fillStyle = palette.ink;
      if (cell > 16) g.fillRect(x + cell / 2 + (drift * cell) / 3 - 1, floor + 2, 2, 5);
      else g.fillRect(x, floor + 4 + drift * 3, Math.max(0.8, cell), 1.2);
      if (bar.doubtful > 0) drawDoubt(g, palette, x + cell - gap, cell >= LETTER_ROOM ? 10 : top + 1, cell);
    }
    const changed = bar.shape !== bars[i - 1]?.shape;
    if (changed && (cell >= LETTER_ROOM || i === 0)) {
      g.fillStyle = palette.faint;
      g.font = `600 11px ${CANVAS_FONT}`;
      g.textAlign = 'left';
      g.textBaseline = 'alphabetic';
      g.fillText(letterOf(bar.shape), x + gap + 1, 10);
    }
  });

  if (cell >= STEMS_ROOM) drawTiny(g, palette, scene.stems, shapes, { cell, top: top + 1, floor });

  if (scene.loop) {
    const [from, to] = scene.loop;
    g.strokeStyle = palette.accent;
    g.lineWidth = 2;
    g.beginPath();
    g.moveTo(from * cell + 1, top);
    g.lineTo(from * cell + 1, top - 3);
    g.lineTo(to * cell - 1, top - 3);
    g.lineTo(to * cell - 1, top);
    g.moveTo(from * cell + 1, floor + 8);
    g.lineTo(from * cell + 1, floor + 11);
    g.lineTo(to * cell - 1, floor + 11);
    g.lineTo(to * cell - 1, floor + 8);
    g.stroke();
  }
}

/** A bar with hits between two lines: a question mark, from afar a dot. */
function drawDoubt(g: CanvasRenderingContext2D, palette: Palette, right: number, y: number, cell: number) {
  g.fillStyle = palette.accent;
  if (cell < LETTER_ROOM) return g.fillRect(right - Math.max(1, cell), y - 4, Math.max(1, cell - 0.5), 2);
  g.font = `700 11px ${CANVAS_FONT}`;
  g.textAlign = 'right';
  g.textBaseline = 'alphabetic';
  g.fillText('?', right, y);
}

/** Bars as a tiny picture, all of them as if they were new. */
export function drawTinyBars(
  g: CanvasRenderingContext2D,
  palette: Palette,
  { stems, bars, width, height }: Pick<PhraseScene, 'stems' | 'width' | 'height'> & { bars: number },
) {
  g.fillStyle = palette.surface;
  g.fillRect(0, 0, width, height);
  const cell = width / Math.max(1, bars);
  g.fillStyle = palette.step;
  for (let b = 1; b < bars; b++) g.fillRect(Math.round(b * cell), 2, 1, height - 4);
  drawTiny(g, palette, stems, new Map(Array.from({ length: bars }, (_, b) => [b, true])), { cell, top: 1, floor: height - 2 });
}

/** Pixels that a ms leans here, at most so many. */
const TINY_LEAN = 0.12;
const MOST_TINY = 2.5;

/** The hits themselves, tiny; bars that were there before are paler. */
function drawTiny(
  g: CanvasRenderingContext2D,
  palette: Palette,
  stems: readonly PhraseStem[],
  shapes: ReadonlyMap<number, boolean>,
  { cell, top, floor }: { cell: number; top: number; floor: number },
) {
  const tall = (floor - top) / 3;
  g.lineWidth = 1.1;
  g.lineCap = 'butt';
  for (const isNew of [false, true]) {
    g.strokeStyle = isNew ? palette.ink : palette.strong;
    g.beginPath();
    for (const s of stems) {
      if (shapes.get(s.bar) !== isNew) continue;
      const x = s.bar * cell + 4 + s.place * (cell - 7);
      const foot = top + tall + s.row * (floor - top - tall);
      g.moveTo(x, foot);
      g.lineTo(x + Math.max(-MOST_TINY, Math.min(MOST_TINY, s.lean * TINY_LEAN)), foot - 2 - s.height * (tall - 3));
    }
    g.stroke();
  }
}
