import type { Performance } from '@/core/perform/perform';
import type { Hit, HitId, Part } from '@/core/model/part';
import type { Passes } from '@/core/model/song';
import { isTriplet } from '@/core/time/grid';
import { gridOfLine } from '@/core/homes/homes';
import { meterMapOf } from '@/core/part/part-time';
import { ticks } from '@/core/units';
import type { Strays } from '@/core/analysis/strays';
import type { Detail } from '../geometry/axis';
import { ON_LINE_MS, type Stem } from '../geometry/stems';
import { xOf, type Axis } from '../geometry/axis';
import type { RowBox } from '../geometry/rows';
import { drawChoke, drawLockedFoot, drawStray } from './draw-marks';
import { drawTimbre } from './draw-timbre';
import { CANVAS_FONT, type Palette } from './palette';

export const HEAD_RADIUS = { full: 5.5, small: 3.4 } as const;

interface Look {
  part: Part;
  performance: Performance;
  selection: ReadonlySet<HitId>;
  detail: Detail;
  axis: Axis;
  /** Rows that do not sound are drawn faintly. */
  silent: boolean;
  strays: Strays | null;
  doubtful: Uint8Array;
  isLocked: (hit: Hit) => boolean;
  /** Hits that do not sound in the pass that is seen. */
  unheard: ReadonlySet<HitId>;
  /** Pan, pitch and brightness are marked on the heads: on the open row. */
  timbre: boolean;
}

const colourOf = (palette: Palette, lean: number): string =>
  lean <= -ON_LINE_MS ? palette.early : lean >= ON_LINE_MS ? palette.late : palette.ink;

/** The stems of one row: pale written ones first, then the performed ones. */
export function drawStems(g: CanvasRenderingContext2D, palette: Palette, stems: readonly Stem[], row: RowBox, look: Look) {
  g.globalAlpha = look.silent ? 0.35 : 1;
  const heads = look.detail === 'full' || look.detail === 'small';
  const radius = look.detail === 'small' ? HEAD_RADIUS.small : HEAD_RADIUS.full;
  if (heads) {
    drawTriplets(g, palette, stems, row, look);
    for (const s of stems) if (s.pale) drawPale(g, palette, s.pale, row, radius);
  }
  for (const [i, s] of stems.entries()) {
    const hit = look.part.hits[s.index] as Hit;
    const selected = look.selection.has(hit.id);
    g.globalAlpha = look.silent || look.unheard.has(hit.id) ? 0.35 : 1;
    if (hit.choke && heads) {
      drawFoot(g, s, look.doubtful[s.index] === 1, look.isLocked(hit), palette, palette.ink);
      drawChoke(g, palette, s.footX, s.footY, selected);
      continue;
    }
    const colour = selected && !heads ? palette.accent : colourOf(palette, s.lean);
    g.strokeStyle = colour;
    g.fillStyle = colour;
    g.lineWidth = look.detail === 'full' ? 2.2 : 1.5;
    g.lineCap = 'round';
    g.beginPath();
    g.moveTo(s.footX, s.footY);
    g.lineTo(s.headX, heads ? s.headY + radius * 0.6 : s.headY);
    g.stroke();
    if (!heads) continue;
    if (s.broken) drawBreak(g, palette, s, colour);
    drawFoot(g, s, look.doubtful[s.index] === 1, look.isLocked(hit), palette, colour, {
      gapped: hit.chance !== undefined,
      open: hit.muted === true,
    });
    if (hit.passes && look.detail === 'full') drawPasses(g, s, hit.passes, colour);
    if (look.strays?.flags[s.index])
      drawStray(g, palette, s.footX, s.footY, Math.sign(s.lean - (look.strays.meanLean.get(hit.voice) ?? 0)));
    drawHead(g, palette, s, hit, radius, selected, colour);
    if (look.timbre && look.detail === 'full') drawTimbre(g, palette, s, hit, radius, colour);
    if (s.broken && look.detail === 'full' && hasRoom(s, stems[i + Math.sign(s.lean)])) drawNumber(g, palette, s, radius);
  }
  g.globalAlpha = 1;
}

/** Two short strokes across the stem, as on a broken axis: it leans further than is drawn. */
function drawBreak(g: CanvasRenderingContext2D, palette: Palette, s: Stem, colour: string) {
  const [x, y] = [s.footX + (s.headX - s.footX) * 0.42, s.footY + (s.headY - s.footY) * 0.42];
  const stroke = (dy: number) => {
    g.beginPath();
    g.moveTo(x - 5, y + dy + 2);
    g.lineTo(x + 5, y + dy - 2);
    g.stroke();
  };
  g.lineWidth = 3.4;
  g.strokeStyle = palette.ground;
  stroke(0);
  g.lineWidth = 1.4;
  g.strokeStyle = colour;
  stroke(-2.4);
  stroke(2.4);
}

function drawPale(g: CanvasRenderingContext2D, palette: Palette, pale: NonNullable<Stem['pale']>, row: RowBox, radius: number) {
  g.strokeStyle = palette.pale;
  g.fillStyle = palette.pale;
  g.lineWidth = 1.5;
  g.beginPath();
  g.moveTo(pale.footX, row.baseline);
  g.lineTo(pale.headX, pale.headY);
  g.stroke();
  g.beginPath();
  g.arc(pale.headX, pale.headY, radius * 0.85, 0, 2 * Math.PI);
  g.fill();
}

function drawFoot(
  g: CanvasRenderingContext2D,
  s: Stem,
  doubtful: boolean,
  locked: boolean,
  palette: Palette,
  colour: string,
  { gapped = false, open = false }: { gapped?: boolean; open?: boolean } = {},
) {
  if (s.straightX !== null) {
    g.fillStyle = palette.strong;
    g.fillRect(Math.round(s.straightX), s.footY + 2, 1, 5);
  }
  g.strokeStyle = colour;
  g.fillStyle = colour;
  // A chance leaves a gap on either side of the foot.
  if (gapped) for (const dx of [-6.5, 2.5]) g.fillRect(s.footX + dx, s.footY - 0.8, 4, 1.6);
  if (locked) drawLockedFoot(g, s.footX, s.footY);
  else if (doubtful) {
    g.lineWidth = 1.6;
    for (const dx of [-6, -1.5, 3]) g.fillRect(s.footX + dx, s.footY + 2, 3, 1.6);
  } else {
    g.beginPath();
    g.arc(s.footX, s.footY, open ? 3 : 1.8, 0, 2 * Math.PI);
    if (open) {
      // Muted hits have an open foot.
      g.lineWidth = 1.4;
      g.fillStyle = palette.ground;
    }
    g.fill();
    if (open) g.stroke();
  }
  if (s.duplicate) {
    g.lineWidth = 1.2;
    g.beginPath();
    g.arc(s.footX, s.footY, 4, 0, 2 * Math.PI);
    g.stroke();
  }
}

/** At most so many passes are drawn beneath a foot. */
const MOST_TICKS = 8;

/** A tick for each pass of a round beneath the foot: tall where it sounds. */
function drawPasses(g: CanvasRenderingContext2D, s: Stem, { every, at }: Passes, colour: string) {
  const count = Math.min(every, MOST_TICKS);
  g.fillStyle = colour;
  for (let n = 1; n <= count; n++) {
    const sounds = at.includes(n);
    g.fillRect(s.footX + (n - (count + 1) / 2) * 3 - 0.5, s.footY + 4, 1.2, sounds ? 5 : 2);
  }
}

function drawHead(g: CanvasRenderingContext2D, palette: Palette, s: Stem, hit: Hit, radius: number, selected: boolean, colour: string) {
  if (selected) {
    g.fillStyle = palette.accent;
    g.beginPath();
    g.arc(s.headX, s.headY, radius + 3, 0, 2 * Math.PI);
    g.fill();
    g.fillStyle = palette.ground;
    g.beginPath();
    g.arc(s.headX, s.headY, radius + 1.2, 0, 2 * Math.PI);
    g.fill();
  }
  g.fillStyle = hit.ghost ? palette.ground : colour;
  g.beginPath();
  g.arc(s.headX, s.headY, hit.ghost ? radius - 0.8 : radius, 0, 2 * Math.PI);
  g.fill();
  if (hit.ghost) {
    g.lineWidth = 1.6;
    g.stroke();
  }
  // The notch tells early from late without colour.
  if (Math.abs(s.lean) >= ON_LINE_MS) {
    const side = Math.sign(s.lean);
    g.fillStyle = colour;
    g.fillRect(side > 0 ? s.headX + radius - 0.5 : s.headX - radius - 2.5, s.headY - 0.9, 3, 1.8);
  }
}

/** A broken stem's number needs this much free room beside its head. */
const NUMBER_ROOM = 30;
const hasRoom = (s: Stem, neighbour: Stem | undefined): boolean => {
  if (!neighbour) return true;
  // Two numbers that face each other share the room between their heads.
  const facing = neighbour.broken && Math.sign(neighbour.lean) !== Math.sign(s.lean);
  return Math.abs(neighbour.headX - s.headX) >= NUMBER_ROOM * (facing ? 2 : 1);
};

function drawNumber(g: CanvasRenderingContext2D, palette: Palette, s: Stem, radius: number) {
  g.font = `600 11px ${CANVAS_FONT}`;
  g.fillStyle = palette.ink;
  g.textAlign = s.lean < 0 ? 'right' : 'left';
  g.textBaseline = 'alphabetic';
  g.fillText(`${Math.round(Math.abs(s.lean))}`, s.headX + Math.sign(s.lean) * (radius + 4), s.headY - 3);
}

/** A beat whose homes are triplets wears a small 3. */
function drawTriplets(g: CanvasRenderingContext2D, palette: Palette, stems: readonly Stem[], row: RowBox, look: Look) {
  const map = meterMapOf(look.part);
  let drawn = -1;
  for (const s of stems) {
    const grid = gridOfLine(map, ticks(look.performance.homes.ticks[s.index] as number));
    if (!grid || !isTriplet(grid)) continue;
    const tick = (look.part.hits[s.index] as Hit).tick;
    const beat = map.beatAt(map.barAt(ticks(tick)), ticks(tick));
    if (beat.start === drawn) continue;
    drawn = beat.start;
    const from = xOf(look.axis, beat.start) + 2;
    const to = xOf(look.axis, beat.start + beat.length) - 4;
    const y = row.top + 6;
    g.strokeStyle = palette.strong;
    g.lineWidth = 1;
    g.beginPath();
    g.moveTo(from, y + 4);
    g.lineTo(from, y);
    g.lineTo((from + to) / 2 - 6, y);
    g.moveTo((from + to) / 2 + 6, y);
    g.lineTo(to, y);
    g.lineTo(to, y + 4);
    g.stroke();
    g.font = `italic 600 11px ${CANVAS_FONT}`;
    g.fillStyle = palette.faint;
    g.textAlign = 'center';
    g.textBaseline = 'middle';
    g.fillText('3', (from + to) / 2, y + 1);
    g.textBaseline = 'alphabetic';
  }
}
