import { indicesByVoice } from '@/core/part/by-voice';
import type { Part, Row } from '@/core/model/part';
import type { VoiceName } from '@/core/row-names';

/** Where a row lies on the canvas. Feet stand on `baseline`; the loudest head is `tallest` above it. */
export interface RowBox {
  voice: VoiceName;
  top: number;
  height: number;
  baseline: number;
  tallest: number;
}

/** The ruler above the rows. */
export const RULER_HEIGHT = 44;
const SMALLEST_ROW = 46;
const LARGEST_ROW = 116;
const FOCUSED_ROW = 150;
/** Below the feet: room for the mark where the straight line was. */
const UNDER_FEET = 9;
/** Above the tallest head: its radius and a gap. */
const OVER_HEAD = 9;

/** The rows that are shown: all, or those with hits. */
export function rowsInView(part: Pick<Part, 'rows' | 'hits'>, hideEmpty: boolean): readonly Row[] {
  if (!hideEmpty) return part.rows;
  const filled = indicesByVoice(part.hits);
  return part.rows.filter((r) => filled.has(r.voice));
}

/** Lays the rows out from the ruler down; the focused one opens tall. */
export function layoutRows(rows: readonly Row[], height: number, focus: VoiceName | null, scrollRows: number): RowBox[] {
  const hasFocus = rows.some((r) => r.voice === focus);
  const room = height - RULER_HEIGHT - (hasFocus ? FOCUSED_ROW : 0);
  const others = rows.length - (hasFocus ? 1 : 0);
  const each = Math.floor(Math.max(SMALLEST_ROW, Math.min(LARGEST_ROW, others > 0 ? room / others : LARGEST_ROW)));
  let top = RULER_HEIGHT - scrollRows;
  return rows.map((row) => {
    const own = row.voice === focus ? FOCUSED_ROW : each;
    const box: RowBox = { voice: row.voice, top, height: own, baseline: top + own - UNDER_FEET, tallest: own - UNDER_FEET - OVER_HEAD };
    top += own;
    return box;
  });
}

/** How far the rows can be scrolled. */
export function mostRowScroll(rows: readonly Row[], height: number, focus: VoiceName | null): number {
  const last = layoutRows(rows, height, focus, 0).at(-1);
  return last ? Math.max(0, last.top + last.height - height) : 0;
}

export const rowAt = (boxes: readonly RowBox[], y: number): RowBox | undefined =>
  y < RULER_HEIGHT ? undefined : boxes.find((b) => y >= b.top && y < b.top + b.height);
