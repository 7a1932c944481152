import { memo, useMemo } from 'react';
import { performPart } from '@/core/perform/perform';
import type { Feel } from '@/core/model/feel';
import { neutralBar, PICTURED } from './neutral-bar';

const WIDTH = 128;
const HEIGHT = 34;
/** Pixels a ms of lean, at most so many. */
const PER_MS = 0.28;
const MOST = 6;

/** What a feel makes of one even bar: its hats above, kick and snare below, each as high as it is loud and leaning as it is heard. */
export const FeelPicture = memo(function FeelPicture({ feel }: { feel: Feel }) {
  const marks = useMemo(() => {
    const part = { ...neutralBar(), feel };
    const performed = performPart(part);
    return part.hits.map((hit, i) => {
      const hat = hit.voice === 'hat-closed';
      const ms = ((performed.ticks[i] as number) - hit.tick) / PICTURED.ticksPerMs;
      const lean = Math.max(-MOST, Math.min(MOST, ms * PER_MS));
      return { x: 4 + (hit.tick / PICTURED.length) * (WIDTH - 10), foot: hat ? 15 : HEIGHT - 2, height: ((performed.velocities[i] as number) / 127) * (hat ? 13 : 15), lean, side: ms < -2 ? 'early' : ms > 2 ? 'late' : 'line' } as const;
    });
  }, [feel]);
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="w-full" aria-hidden="true">
      {marks.map(({ x, foot, height, lean, side }, i) => (
        <g key={i} className={SIDES[side]}>
          <line x1={x} x2={x + lean} y1={foot} y2={foot - height} strokeWidth={1.2} />
          <circle cx={x + lean} cy={foot - height} r={1.7} stroke="none" />
        </g>
      ))}
    </svg>
  );
});

const SIDES = { early: 'stroke-early fill-early', line: 'stroke-ink fill-ink', late: 'stroke-late fill-late' } as const;
