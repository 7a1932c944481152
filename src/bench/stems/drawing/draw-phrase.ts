import { letterOf, type PhraseBar } from '@/core/analysis/phrase';
import { CANVAS_FONT, type Palette } from './palette';

export interface PhraseScene {
  bars: readonly PhraseBar[];
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
  bars.forEach((bar, i) => {
    const x = i * cell;
    const gap = cell > 8 ? 2 : cell > 3 ? 0.5 : 0;
    if (bar.hits > 0) {
      const h = Math.max(2, ((floor - top) * bar.hits) / densest);
      const isNew = !seen.has(bar.shape);
      seen.add(bar.shape);
      g.fillStyle = isNew ? palette.strong : palette.pale;
      g.fillRect(x + gap, floor - h, Math.max(0.8, cell - 2 * gap), h);
      // The drift: a short ink line, left of the middle early, right of it late; from afar above and below.
      const drift = Math.max(-1, Math.min(1, bar.lean / 20));
      g.fillStyle = palette.ink;
      if (cell > 16) g.fillRect(x + cell / 2 + (drift * cell) / 3 - 1, floor + 2, 2, 5);
      else g.fillRect(x, floor + 4 + drift * 3, Math.max(0.8, cell), 1.2);
      if (bar.doubtful > 0) {
        g.fillStyle = palette.accent;
        g.fillRect(x + gap, floor - 1.5, Math.max(1, cell - 2 * gap), 2.5);
      }
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
