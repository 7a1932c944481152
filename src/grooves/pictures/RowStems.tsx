'use client';

import { leanOf, performPart } from '@/core/perform/perform';
import type { Part } from '@/core/model/part';
import type { VoiceName } from '@/core/row-names';

const WIDTH = 130;
const HEIGHT = 30;
const FULL_LEAN_MS = 25;
const WIDEST = 6;
const MOST_STEMS = 64;

/** One small stem: place 0 to 1, height 0 to 1, lean -1 to 1. */
export interface SmallStem {
  place: number;
  height: number;
  lean: number;
}

/** The hits of a stretch by row, as they are performed; the first 64 of each. */
export function smallStems(part: Part, from: number, to: number): Map<VoiceName, SmallStem[]> {
  const hits = part.hits.filter((h) => h.tick >= from && h.tick < to);
  const excerpt = { ...part, hits };
  const performance = performPart(excerpt);
  const rows = new Map<VoiceName, SmallStem[]>();
  hits.forEach((hit, i) => {
    const row = rows.get(hit.voice) ?? [];
    if (row.length === 0) rows.set(hit.voice, row);
    if (row.length < MOST_STEMS)
      row.push({
        place: ((performance.placedHomes[i] as number) - from) / (to - from),
        height: (performance.velocities[i] as number) / 127,
        lean: Math.max(-1, Math.min(1, leanOf(excerpt, performance, i) / FULL_LEAN_MS)),
      });
  });
  return rows;
}

/** A row's hits as small leaning stems. */
export function RowStems({ stems }: { stems: readonly SmallStem[] }) {
  return (
    <svg width={WIDTH} height={HEIGHT} viewBox={`0 0 ${WIDTH} ${HEIGHT}`} aria-hidden="true" className="shrink-0">
      <line x1={0} x2={WIDTH} y1={HEIGHT - 2} y2={HEIGHT - 2} className="stroke-line" />
      {stems.map(({ place, height, lean }, i) => {
        const x = 6 + place * (WIDTH - 12);
        const [headX, headY] = [x + lean * WIDEST, HEIGHT - 2 - Math.max(4, height * (HEIGHT - 6))];
        return (
          <g key={i} className={lean < -0.08 ? 'stroke-early fill-early' : lean > 0.08 ? 'stroke-late fill-late' : 'stroke-ink fill-ink'}>
            <line x1={x} x2={headX} y1={HEIGHT - 2} y2={headY} strokeWidth={1.1} />
            <circle cx={headX} cy={headY} r={1.8} stroke="none" />
          </g>
        );
      })}
    </svg>
  );
}
