import type { Hit } from '@/core/model/part';
import type { Stem } from '../geometry/stems';
import type { Palette } from './palette';

/** How far above the head the marks stand. */
const ABOVE = 4;

/** Marks a hit's timbre on its head: a tick above it to the side of its pan, a wedge for its pitch, a light or dark core for brightness. */
export function drawTimbre(
  g: CanvasRenderingContext2D,
  palette: Palette,
  { headX, headY }: Stem,
  hit: Hit,
  radius: number,
  colour: string,
) {
  const top = headY - radius - ABOVE;
  const { pan = 0, pitch = 0, brightness = 0 } = hit;
  g.fillStyle = colour;
  if (pan !== 0) g.fillRect(pan > 0 ? headX + 3.5 : headX - 8.5, top, 5, 1.6);
  if (pitch !== 0) {
    const up = pitch > 0 ? -1 : 1;
    g.beginPath();
    g.moveTo(headX - 2.2, top - up * 1.2);
    g.lineTo(headX + 2.2, top - up * 1.2);
    g.lineTo(headX, top + up * 2.6);
    g.fill();
  }
  if (brightness !== 0) {
    g.fillStyle = hit.ghost ? colour : palette.ground;
    if (brightness > 0) {
      g.beginPath();
      g.arc(headX, headY, 2, 0, 2 * Math.PI);
      g.fill();
    } else g.fillRect(headX - 2.5, headY - 0.8, 5, 1.6);
  }
}
