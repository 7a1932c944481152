import type { PartSummary } from '@/storage/summary';

const WIDTH = 240;
const HEIGHT = 72;

/** Room for where a head is drawn as a small circle. */
const HEAD = 1.7;
const COLOURS = ['early', 'late', 'ink'] as const;
type Colour = (typeof COLOURS)[number];

/** The stems of each colour, and their heads: a path each, since a page of cards has thousands. */
function pathsOf({ stems, rows }: PartSummary): Readonly<Record<Colour, { stems: string; heads: string }>> {
  const rowHeight = HEIGHT / Math.max(1, rows);
  const tallest = Math.min(18, rowHeight * 0.82);
  const paths = { early: { stems: '', heads: '' }, late: { stems: '', heads: '' }, ink: { stems: '', heads: '' } };
  for (const [place, row, height, lean] of stems) {
    const x = 6 + place * (WIDTH - 12);
    const y = (row + 1) * rowHeight;
    const [headX, headY] = [x + lean * 4, y - Math.max(3, height * tallest)];
    const path = paths[lean < -0.08 ? 'early' : lean > 0.08 ? 'late' : 'ink'];
    path.stems += `M${x.toFixed(1)} ${y.toFixed(1)}L${headX.toFixed(1)} ${headY.toFixed(1)}`;
    path.heads += `M${(headX - HEAD).toFixed(1)} ${headY.toFixed(1)}a${HEAD} ${HEAD} 0 1 0 ${2 * HEAD} 0a${HEAD} ${HEAD} 0 1 0 ${-2 * HEAD} 0`;
  }
  return paths;
}

/** A part's first bars as a tiny stem picture. */
export function TinyStems({ summary }: { summary: PartSummary }) {
  const paths = pathsOf(summary);
  const rowHeight = HEIGHT / Math.max(1, summary.rows);
  const lines = Array.from({ length: summary.rows }, (_, r) => `M0 ${((r + 1) * rowHeight).toFixed(1)}H${WIDTH}`).join('');
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT + 4}`} className="w-full" aria-hidden="true">
      <path d={lines} stroke="var(--line)" />
      {COLOURS.map(
        (colour) =>
          paths[colour].stems && (
            <g key={colour} fill={`var(--${colour})`} stroke={`var(--${colour})`}>
              <path d={paths[colour].stems} strokeWidth={1} />
              <path d={paths[colour].heads} stroke="none" />
            </g>
          ),
      )}
    </svg>
  );
}
