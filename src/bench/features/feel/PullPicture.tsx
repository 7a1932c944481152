'use client';

import { memo, useMemo } from 'react';
import { labelOfRow } from '@/core/part/rows';
import { leanOf, performPart } from '@/core/perform/perform';
import type { Hit } from '@/core/model/part';
import { placeText } from '../../words/describe';
import { useBenchSwept } from '../../store/context';

const WIDTH = 308;
const HEIGHT = 74;
const FLOOR = HEIGHT - 22;
/** Hits that are shown, those that are pulled furthest first. */
const SHOWN = 5;
const MOST_LEAN = 17;
const LEAST_MS = 0.5;

/** Some of what is pulled, as it is: pale before, in ink after, the ms beside; the rest is in the sentence below. */
export const PullPicture = memo(function PullPicture({ index }: { index: number }) {
  const part = useBenchSwept((s) => s.part);
  const pulled = useMemo(() => {
    const moves = part.feel.moves.map((m, i) => (i === index ? { ...m, on: false } : m));
    const [before, after] = [performPart({ ...part, feel: { ...part.feel, moves } }), performPart(part)];
    return part.hits
      .map((hit, i) => ({
        hit,
        home: after.homes.ticks[i] as number,
        from: leanOf(part, before, i) as number,
        to: leanOf(part, after, i) as number,
      }))
      .filter((p) => Math.abs(p.to - p.from) >= LEAST_MS)
      .sort((a, b) => Math.abs(b.to - b.from) - Math.abs(a.to - a.from))
      .slice(0, SHOWN)
      .sort((a, b) => a.hit.tick - b.hit.tick);
  }, [part, index]);
  if (pulled.length === 0) return null;
  const widest = Math.max(...pulled.flatMap((p) => [Math.abs(p.from), Math.abs(p.to)]));
  const step = WIDTH / SHOWN;
  const what = pulled
    .map(({ hit, home, from, to }) => `${labelOfRow(part, hit.voice)}, ${placeText(part, home)}: ${from.toFixed(0)} to ${to.toFixed(0)} ms`)
    .join('; ');
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="my-1 w-full" role="img" aria-label={`Pulled furthest: ${what}`}>
      <line x1={0} x2={WIDTH} y1={FLOOR} y2={FLOOR} className="stroke-strong" strokeWidth={0.8} />
      {pulled.map(({ hit, home, from, to }, i) => {
        const x = (i + 0.5) * step;
        const head = (ms: number) => x + (ms / widest) * MOST_LEAN;
        const top = FLOOR - heightOf(hit);
        return (
          <g key={hit.id}>
            <title>{`${labelOfRow(part, hit.voice)}, ${placeText(part, home)}`}</title>
            <path d={`M${x} ${FLOOR}L${head(from)} ${top}`} className="stroke-pale" strokeWidth={1.6} />
            <circle cx={head(from)} cy={top} r={3.4} className="fill-pale" />
            <path d={`M${x} ${FLOOR}L${head(to)} ${top}`} className="stroke-ink" strokeWidth={1.9} />
            <circle cx={head(to)} cy={top} r={3.8} className="fill-ink" />
            <text x={x} y={HEIGHT - 8} textAnchor="middle" className="fill-faint text-[11px]">
              {`${Math.abs(from).toFixed(0)} → ${Math.abs(to).toFixed(0)} ms`}
            </text>
          </g>
        );
      })}
    </svg>
  );
});

const heightOf = (hit: Hit): number => 14 + (hit.velocity / 127) * 28;
