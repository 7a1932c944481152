import { memo } from 'react';
import { responseOf } from '@/core/playback/mixer';

const WIDTH = 52;
const HEIGHT = 22;
/** The range of levels that is pictured, in dB. */
const RANGE = 42;

/** How loud a row gets from the softest stroke to the hardest, as stems; the sharper the heads' colour, the more its tone opens. */
export const ResponsePicture = memo(function ResponsePicture({ loudness, tone }: { loudness: number; tone: number }) {
  const stems = [16, 40, 64, 88, 112, 127].map((velocity, i) => {
    const db = 20 * Math.log10(responseOf(velocity, loudness) / responseOf(127, 1));
    return {
      x: 4 + i * 8.8,
      y: HEIGHT - 1 - Math.max(1, Math.min(HEIGHT - 4, (1 + db / RANGE) * (HEIGHT - 4))),
      r: 1.3 + 0.9 * Math.min(1.6, tone) * (velocity / 127),
    };
  });
  return (
    <svg aria-hidden="true" width={WIDTH} height={HEIGHT} className="text-ink">
      <line x1={0} x2={WIDTH} y1={HEIGHT - 0.5} y2={HEIGHT - 0.5} className="stroke-strong" />
      {stems.map(({ x, y, r }) => (
        <g key={x}>
          <line x1={x} x2={x} y1={HEIGHT - 1} y2={y} stroke="currentColor" strokeWidth={1.4} />
          <circle cx={x} cy={y} r={r} fill="currentColor" />
        </g>
      ))}
    </svg>
  );
});
