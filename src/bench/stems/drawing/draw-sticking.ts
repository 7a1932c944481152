import { BEYOND, limbName } from '@/core/analysis/hands-of-part';
import type { Stem } from '../geometry/stems';
import { CANVAS_FONT, type Palette } from './palette';

/** Under the foot, in pixels. */
const BELOW = 10;

/**
 * Under each stem the hand that plays it, or a foot: the right one a filled half circle, the left one an open one; a cross where nobody
 * can.
 */
export function drawSticking(g: CanvasRenderingContext2D, palette: Palette, stems: readonly Stem[], limbs: Uint8Array) {
  g.save();
  g.font = `600 10.5px ${CANVAS_FONT}`;
  g.textAlign = 'center';
  g.lineWidth = 1.4;
  for (const { index, footX: x, footY } of stems) {
    const limb = limbs[index] ?? 0;
    const y = footY + BELOW;
    if (limb === BEYOND) {
      g.strokeStyle = palette.lateText;
      g.beginPath();
      for (const d of [-1, 1]) {
        g.moveTo(x - 3.5, y - 4 - 3.5 * d);
        g.lineTo(x + 3.5, y - 4 + 3.5 * d);
      }
      g.stroke();
      continue;
    }
    const name = limbName(limb);
    if (name === null) continue;
    g.fillStyle = palette.faint;
    g.strokeStyle = palette.faint;
    if (name === 'R' || name === 'L') g.fillText(name, x, y);
    else {
      g.beginPath();
      g.arc(x, y - 5, 3.6, 0, Math.PI);
      g.closePath();
      if (name === 'RF') g.fill();
      else g.stroke();
    }
  }
  g.restore();
}
