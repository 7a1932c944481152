import { stretchOf } from '@/core/part/sections';
import { endOfPart } from '@/core/part/part-time';
import type { Part, Hit } from '@/core/model/part';
import { cycledHits, roundOf, writtenId } from '@/core/song/sounding';
import { heightOf } from '../geometry/stems';
import type { RowBox } from '../geometry/rows';
import { xOf, type Axis } from '../geometry/axis';
import type { Palette } from './palette';

/** Row with its own loop length: its copies, pale, and the sign of repetition where its first round ends. */
export function drawRounds(g: CanvasRenderingContext2D, palette: Palette, row: RowBox, part: Part, axis: Axis, width: number) {
  const own = part.rows.find((r) => r.voice === row.voice);
  if (!own?.cycle) return;
  const stretches = part.sections?.map((s) => stretchOf(part, s)) ?? [{ start: part.origin as number, end: endOfPart(part) as number }];
  g.strokeStyle = palette.pale;
  g.fillStyle = palette.pale;
  g.lineWidth = 1.5;
  for (const hit of cycledHits(part)) {
    if (hit.voice === row.voice && isCopy(hit)) drawCopy(g, row, xOf(axis, hit.tick), hit, width);
  }
  for (const { start, end } of stretches) if (start + roundOf(own) < end) drawSign(g, palette, xOf(axis, start + roundOf(own)), row, width);
}

const isCopy = (hit: Hit): boolean => writtenId(hit.id) !== hit.id;

function drawCopy(g: CanvasRenderingContext2D, row: RowBox, x: number, hit: Hit, width: number) {
  if (x < 0 || x > width) return;
  const y = row.baseline - heightOf(row, hit.velocity);
  g.beginPath();
  g.moveTo(x, row.baseline);
  g.lineTo(x, y);
  g.stroke();
  g.beginPath();
  g.arc(x, y, 3.4, 0, 2 * Math.PI);
  g.fill();
}

/** As in notation: two dots before a thin and a thick line. */
function drawSign(g: CanvasRenderingContext2D, palette: Palette, x: number, row: RowBox, width: number) {
  if (x < 0 || x > width) return;
  const top = row.baseline - 16;
  g.fillStyle = palette.strong;
  g.fillRect(x - 2, top, 2.4, 16);
  g.fillRect(x - 4.6, top, 1, 16);
  for (const y of [top + 5, top + 11]) {
    g.beginPath();
    g.arc(x - 8, y, 1.5, 0, 2 * Math.PI);
    g.fill();
  }
  g.fillStyle = palette.pale;
}
