import { leanOf, type Performance } from '@/core/perform/perform';
import { indicesByVoice } from '@/core/part/by-voice';
import type { Hit, HitId, Part } from '@/core/model/part';
import { TICKS_PER_QUARTER } from '@/core/units';
import type { VoiceName } from '@/core/row-names';
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

interface Summary {
  selection: ReadonlySet<HitId>;
  /** Ticks that it covers. */
  from: number;
  to: number;
  rows: Map<VoiceName, readonly Mean[]>;
}

/** Kept as long as what is performed: scrolling and zooming in sum up little anew. */
const summaries = new WeakMap<Performance, Summary>();

function meansOf({ part, performance, selection, axis, width }: Far, { voice }: RowBox): readonly Mean[] {
  const from = tickOf(axis, 0) - TICKS_PER_QUARTER;
  const to = tickOf(axis, width) + TICKS_PER_QUARTER;
  let summary = summaries.get(performance);
  if (summary?.selection !== selection || summary.from > from || summary.to < to) {
    // As much again on either side, for the next frames of a scroll.
    summary = { selection, from: from - (to - from) / 2, to: to + (to - from) / 2, rows: new Map() };
    summaries.set(performance, summary);
  }
  let means = summary.rows.get(voice);
  if (!means) summary.rows.set(voice, (means = sumUp(part, performance, summary, indicesByVoice(part.hits).get(voice) ?? [])));
  return means;
}

function sumUp(part: Part, performance: Performance, { from, to, selection }: Summary, indices: readonly number[]): Mean[] {
  const means: Mean[] = [];
  for (const i of indices) {
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

/** The quarters in sight, several taken as one where they would be narrower than two pixels. */
function spansInView(far: Far, row: RowBox): Mean[] {
  const { axis, width, part } = far;
  const first = Math.floor((tickOf(axis, 0) - part.origin) / TICKS_PER_QUARTER) - 1;
  const last = Math.ceil((tickOf(axis, width) - part.origin) / TICKS_PER_QUARTER) + 1;
  const wide = quartersASpan(axis);
  const spans: Mean[] = [];
  for (const m of meansOf(far, row)) {
    if (m.quarter < first) continue;
    if (m.quarter > last) break;
    const quarter = Math.floor(m.quarter / wide) * wide;
    const span = spans[spans.length - 1];
    if (span?.quarter !== quarter) spans.push({ ...m, quarter });
    else {
      span.hits += m.hits;
      span.velocity += m.velocity;
      span.lean += m.lean;
      span.selected += m.selected;
    }
  }
  return spans;
}

const NARROWEST = 2;
const quartersASpan = (axis: Axis): number => 2 ** Math.max(0, Math.ceil(Math.log2(NARROWEST / (TICKS_PER_QUARTER * axis.pixelsPerTick))));

const tone = (palette: Palette, lean: number): string =>
  lean <= -ON_LINE_MS ? palette.early : lean >= ON_LINE_MS ? palette.late : palette.strong;

/** A thin ribbon under the stems: early lies above its middle, late below. */
export function drawRibbon(g: CanvasRenderingContext2D, palette: Palette, row: RowBox, far: Far) {
  for (const m of spansInView(far, row)) {
    const lean = m.lean / m.hits;
    const x = xOf(far.axis, far.part.origin + m.quarter * TICKS_PER_QUARTER);
    g.fillStyle = tone(palette, lean);
    g.fillRect(x, row.baseline + 4 + Math.max(-3, Math.min(3, lean / 5)), TICKS_PER_QUARTER * far.axis.pixelsPerTick - 1, 2);
  }
}

/** Thickness of a band's upper edge, which shows the lean. */
const CAP = 3;

/** One band a quarter: its height is the mean velocity, its edge's colour the mean lean. On whole pixels, which are filled fastest. */
export function drawBand(g: CanvasRenderingContext2D, palette: Palette, row: RowBox, far: Far) {
  const pixels = TICKS_PER_QUARTER * far.axis.pixelsPerTick * quartersASpan(far.axis);
  const wide = Math.max(1, Math.floor(pixels) - (pixels > 4 ? 1 : 0));
  const bands = spansInView(far, row).map((m) => ({
    x: Math.round(xOf(far.axis, far.part.origin + m.quarter * TICKS_PER_QUARTER)),
    height: Math.round(Math.max(3, (row.tallest * m.velocity) / m.hits / 127)),
    colour: m.selected > 0 ? palette.accent : tone(palette, m.lean / m.hits),
  }));
  const foot = Math.round(row.baseline);
  g.fillStyle = palette.line;
  for (const { x, height } of bands) g.fillRect(x, foot - height, wide, height);
  for (const { x, height, colour } of bands) {
    g.fillStyle = colour;
    g.fillRect(x, foot - height - 1, wide, CAP);
  }
}
