import { leanOf, type Performance } from '@/core/feel/perform';
import { indicesByVoice } from '@/core/part/by-voice';
import type { Hit, HitId, Part } from '@/core/part/part';
import { TICKS_PER_QUARTER } from '@/core/units';
import { tickOf, xOf, type Axis } from '../geometry/axis';
import type { RowBox } from '../geometry/rows';
import { ON_LINE_MS } from '../geometry/stems';
import type { Palette } from './palette';

/** What is drawn of a row from far away: means over a quarter. */
interface Mean {
  quarter: number;
  hits: number;
  velocity: number;
  lean: number;
  selected: number;
}

interface Far {
  part: Part;
  performance: Performance;
  selection: ReadonlySet<HitId>;
  axis: Axis;
  width: number;
}

function meansOf(far: Far, row: RowBox): Mean[] {
  const { part, performance, axis, width, selection } = far;
  const from = tickOf(axis, 0) - TICKS_PER_QUARTER;
  const to = tickOf(axis, width) + TICKS_PER_QUARTER;
  const means: Mean[] = [];
  for (const i of indicesByVoice(part.hits).get(row.voice) ?? []) {
    const hit = part.hits[i] as Hit;
    if (hit.tick < from) continue;
    if (hit.tick > to) break;
    const quarter = Math.floor(((performance.homes.ticks[i] as number) - part.origin) / TICKS_PER_QUARTER);
    let mean = means[means.length - 1];
    if (mean?.quarter !== quarter) means.push((mean = { quarter, hits: 0, velocity: 0, lean: 0, selected: 0 }));
    mean.hits++;
    mean.velocity += performance.velocities[i] as number;
    mean.lean += leanOf(part, performance, i);
    if (selection.size > 0 && selection.has(hit.id)) mean.selected++;
  }
  return means;
}

const tone = (palette: Palette, lean: number): string => (lean <= -ON_LINE_MS ? palette.early : lean >= ON_LINE_MS ? palette.late : palette.strong);

/** A thin ribbon under the stems: early lies above its middle, late below. */
export function drawRibbon(g: CanvasRenderingContext2D, palette: Palette, row: RowBox, far: Far) {
  for (const m of meansOf(far, row)) {
    const lean = m.lean / m.hits;
    const x = xOf(far.axis, far.part.origin + m.quarter * TICKS_PER_QUARTER);
    g.fillStyle = tone(palette, lean);
    g.fillRect(x, row.baseline + 4 + Math.max(-3, Math.min(3, lean / 5)), TICKS_PER_QUARTER * far.axis.pixelsPerTick - 1, 2);
  }
}

/** Thickness of a band's upper edge, which shows the lean. */
const CAP = 3;

/** One band a quarter: its height is the mean velocity, its edge's colour the mean lean. */
export function drawBand(g: CanvasRenderingContext2D, palette: Palette, row: RowBox, far: Far) {
  const wide = Math.max(1, TICKS_PER_QUARTER * far.axis.pixelsPerTick - (TICKS_PER_QUARTER * far.axis.pixelsPerTick > 4 ? 1 : 0));
  for (const m of meansOf(far, row)) {
    const lean = m.lean / m.hits;
    const height = Math.max(3, (row.tallest * m.velocity) / m.hits / 127);
    const x = xOf(far.axis, far.part.origin + m.quarter * TICKS_PER_QUARTER);
    g.fillStyle = palette.line;
    g.fillRect(x, row.baseline - height, wide, height);
    g.fillStyle = m.selected > 0 ? palette.accent : tone(palette, lean);
    g.fillRect(x, row.baseline - height - 1, wide, CAP);
  }
}
