import type { HitId } from '@/core/model/part';
import type { Detail } from '../geometry/axis';
import type { OrnamentMark } from '../geometry/ornaments';
import { CANVAS_FONT, type Palette } from './palette';

interface Look {
  detail: Detail;
  selection: ReadonlySet<HitId>;
}

/** Room that the number of strokes needs on a bracket. */
const NUMBER_ROOM = 26;

/** Strokes as thin stems on their hit's row, and one bracket over them: it leans as the velocities do. */
export function drawOrnaments(g: CanvasRenderingContext2D, palette: Palette, marks: readonly OrnamentMark[], { detail, selection }: Look) {
  const heads = detail === 'full' || detail === 'small';
  for (const mark of marks) {
    const selected = selection.has(mark.id);
    g.strokeStyle = selected && !heads ? palette.accent : palette.strong;
    g.fillStyle = g.strokeStyle;
    g.lineWidth = detail === 'full' ? 1.4 : 1;
    g.setLineDash(mark.drawn === 'under' ? [3, 2] : []);
    g.beginPath();
    for (const s of mark.strokes) {
      // Grace strokes share their hit's foot.
      g.moveTo(mark.drawn === 'before' ? mark.from.x - (mark.from.x - s.x) * 0.35 : s.x, s.baseline);
      g.lineTo(s.x, s.top);
    }
    g.stroke();
    g.setLineDash([]);
    if (!heads) continue;
    for (const s of mark.strokes) {
      g.beginPath();
      g.arc(s.x, s.top, detail === 'full' ? 2.4 : 1.7, 0, 2 * Math.PI);
      g.fill();
    }
    drawBracket(g, palette, mark, selected, detail === 'full');
  }
}

function drawBracket(
  g: CanvasRenderingContext2D,
  palette: Palette,
  { drawn, from, to, count }: OrnamentMark,
  selected: boolean,
  numbered: boolean,
) {
  // Its ends point to the strokes.
  const end = drawn === 'under' ? -4 : 4;
  if (Math.abs(to.x - from.x) < 3) return;
  g.strokeStyle = selected ? palette.accent : palette.ink;
  g.lineWidth = selected ? 1.8 : 1.2;
  g.beginPath();
  g.moveTo(from.x, from.y + end);
  g.lineTo(from.x, from.y);
  g.lineTo(to.x, to.y);
  g.lineTo(to.x, to.y + end);
  g.stroke();
  if (numbered && Math.abs(to.x - from.x) >= NUMBER_ROOM) {
    const [x, y] = [(from.x + to.x) / 2, (from.y + to.y) / 2];
    g.fillStyle = palette.ground;
    g.fillRect(x - 8, y - 6, 16, 12);
    g.font = `italic 600 11px ${CANVAS_FONT}`;
    g.fillStyle = selected ? palette.accent : palette.ink;
    g.textAlign = 'center';
    g.textBaseline = 'middle';
    g.fillText(String(count), x, y + 0.5);
    g.textBaseline = 'alphabetic';
  }
  if (!selected) return;
  g.fillStyle = palette.accent;
  g.beginPath();
  g.arc(to.x, to.y, 4, 0, 2 * Math.PI);
  g.fill();
}
