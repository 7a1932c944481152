import { leanOf, performPart } from '@/core/perform/perform';
import { endOfPart, meterMapOf } from '@/core/part/part-time';
import { startTempo } from '@/core/commands/settings';
import type { Hit, Part } from '@/core/model/part';

/** One stem of a part's tiny picture: place and height 0 to 1, row from the top, lean -1 to 1. */
export type TinyStem = [place: number, row: number, height: number, lean: number];

/** What the Shelf shows of a part without reading its hits. */
export interface PartSummary {
  tempo: number;
  meter: [number, number];
  bars: number;
  hits: number;
  rows: number;
  stems: TinyStem[];
}

const PICTURE_BARS = 2;
const MOST_STEMS = 90;
const FULL_LEAN_MS = 25;

/** Makes the summary; only the first bars are performed for the picture. */
export function summarize(part: Part, bars = PICTURE_BARS): PartSummary {
  const first = part.meter[0];
  const map = meterMapOf(part);
  const from = part.hits[0] ? Math.max(0, map.barAt(part.hits[0].tick).index) : 0;
  const start = map.barOf(from).start;
  const end = Math.min(map.barOf(from + bars).start, endOfPart(part));
  const shown: Hit[] = part.hits.filter((h) => h.tick >= start && h.tick < end).slice(0, (MOST_STEMS * bars) / PICTURE_BARS);
  const excerpt = { ...part, hits: shown };
  const performance = performPart(excerpt);
  const voices = part.rows.map((r) => r.voice).filter((v) => shown.some((h) => h.voice === v));
  return {
    tempo: Math.round(startTempo(part) * 100) / 100,
    meter: [first?.numerator ?? 4, first?.denominator ?? 4],
    bars: part.bars,
    hits: part.hits.length,
    rows: voices.length,
    stems: shown.map((hit, i) => [
      ((performance.placedHomes[i] as number) - start) / (end - start),
      voices.indexOf(hit.voice),
      (performance.velocities[i] as number) / 127,
      Math.max(-1, Math.min(1, leanOf(excerpt, performance, i) / FULL_LEAN_MS)),
    ]),
  };
}
