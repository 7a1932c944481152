import type { PartSummary } from '@/storage/summary';

const WIDTH = 240;
const HEIGHT = 72;

/** A part's first bars as a tiny stem picture. */
export function TinyStems({ summary }: { summary: PartSummary }) {
  const rowHeight = HEIGHT / Math.max(1, summary.rows);
  const tallest = Math.min(18, rowHeight * 0.82);
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT + 4}`} className="w-full" aria-hidden="true">
      {Array.from({ length: summary.rows }, (_, r) => (
        <line key={r} x1={0} x2={WIDTH} y1={(r + 1) * rowHeight} y2={(r + 1) * rowHeight} stroke="var(--line)" />
      ))}
      {summary.stems.map(([place, row, height, lean], i) => {
        const x = 6 + place * (WIDTH - 12);
        const y = (row + 1) * rowHeight;
        const top = y - Math.max(3, height * tallest);
        const colour = lean < -0.08 ? 'var(--early)' : lean > 0.08 ? 'var(--late)' : 'var(--ink)';
        const headX = x + lean * 4;
        return (
          <g key={i} stroke={colour} fill={colour}>
            <line x1={x} y1={y} x2={headX} y2={top} strokeWidth={1} />
            <circle cx={headX} cy={top} r={1.7} stroke="none" />
          </g>
        );
      })}
    </svg>
  );
}
