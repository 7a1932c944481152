import { memo, useMemo } from 'react';
import type { Part } from '@/core/model/part';
import type { Section } from '@/core/model/song';
import { stretchOf } from '@/core/part/sections';
import { cycledHits } from '@/core/song/sounding';
import type { VoiceName } from '@/core/row-names';

const WIDTH = 92;
const HEIGHT = 38;
const EDGE = 3;

interface Props {
  part: Part;
  section: Section;
  /** Rows that rest are pale. */
  rests?: readonly VoiceName[];
}

/** A section's hits as tiny stems, row under row. */
export const SectionPicture = memo(function SectionPicture({ part, section, rests = [] }: Props) {
  const stems = useMemo(() => stemsOf(part, section), [part, section]);
  const pale = new Set(rests);
  return (
    <svg aria-hidden="true" width={WIDTH} height={HEIGHT} className="shrink-0 text-ink">
      {[true, false].map((resting) => (
        <path
          key={String(resting)}
          d={stems
            .filter((s) => pale.has(s.row) === resting)
            .map((s) => `M${s.x} ${s.foot}V${s.head}`)
            .join('')}
          stroke="currentColor"
          strokeWidth={1.2}
          opacity={resting ? 0.2 : 1}
          fill="none"
        />
      ))}
    </svg>
  );
});

interface Stem {
  row: VoiceName;
  x: number;
  foot: number;
  head: number;
}

function stemsOf(part: Part, section: Section): Stem[] {
  const { start, end } = stretchOf(part, section);
  const hits = cycledHits(part).filter((h) => h.tick >= start && h.tick < end);
  const played = new Set(hits.map((h) => h.voice));
  const rows = part.rows.map((r) => r.voice).filter((v) => played.has(v));
  const lane = (HEIGHT - 2) / Math.max(1, rows.length);
  return hits.map((h): Stem => {
    const foot = 1 + (rows.indexOf(h.voice) + 1) * lane;
    const round = (n: number): number => Math.round(n * 10) / 10;
    return {
      row: h.voice,
      x: round(EDGE + ((h.tick - start) / (end - start)) * (WIDTH - 2 * EDGE)),
      foot: round(foot),
      head: round(foot - Math.max(1.5, (lane - 0.5) * (h.velocity / 127))),
    };
  });
}
