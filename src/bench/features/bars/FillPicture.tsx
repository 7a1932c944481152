import { memo } from 'react';
import type { FillPlan } from '@/core/fills/fills';
import type { Part } from '@/core/model/part';

const WIDTH = 84;
const HEIGHT = 44;

/** A proposed fill as stems, row under row; strokes that stay are pale. */
export const FillPicture = memo(function FillPicture({ part, plan: { from, end, added, removed } }: { part: Part; plan: FillPlan }) {
  const kept = part.hits.filter((h) => h.tick >= from && h.tick < end && !removed.has(h.id));
  const played = new Set([...added, ...kept].map((s) => s.voice));
  const rows = part.rows.map((r) => r.voice).filter((v) => played.has(v));
  const lane = (HEIGHT - 2) / Math.max(1, rows.length);
  const stem = ({ voice, tick, velocity }: { voice: string; tick: number; velocity: number }): string => {
    const x = 4 + ((tick - from) / (end - from)) * (WIDTH - 12);
    const foot = 1 + (rows.indexOf(voice) + 1) * lane;
    return `M${x.toFixed(1)} ${foot.toFixed(1)}V${(foot - Math.max(2, (lane - 1.5) * (velocity / 127))).toFixed(1)}`;
  };
  return (
    <svg aria-hidden="true" width={WIDTH} height={HEIGHT} className="text-ink">
      <path d={kept.map(stem).join('')} stroke="currentColor" strokeWidth={1.2} opacity={0.3} fill="none" />
      <path d={added.map(stem).join('')} stroke="currentColor" strokeWidth={1.6} fill="none" />
    </svg>
  );
});
