import { memo, useMemo } from 'react';
import { performPart } from '@/core/perform/perform';
import { HOUSE_GROOVES } from '@/core/groove/house-grooves';
import { neutralPart } from '@/core/groove/groove-part';
import type { Feel } from '@/core/model/feel';
import type { Groove } from '@/core/model/groove';
import type { Part } from '@/core/model/part';
import { tempoMapOf } from '@/core/part/part-time';
import { bpm, ticks, TICKS_PER_QUARTER } from '@/core/units';

const WIDTH = 128;
const HEIGHT = 34;
/** Pixels a ms of lean, at most so many. */
const PER_MS = 0.28;
const MOST = 6;
/** A bar of four quarters. */
const BAR = 4 * TICKS_PER_QUARTER;

let bar: Part | null = null;

/** One bar of the pattern that grooves are heard on by themselves, in sixteenths. */
function pictured(): Part {
  if (bar) return bar;
  const part = neutralPart(HOUSE_GROOVES[0] as Groove, bpm(120));
  bar = { ...part, bars: 1, hits: part.hits.filter((h) => h.tick < BAR) };
  return bar;
}

/** What a feel makes of one even bar: its hats above, kick and snare below, each as high as it is loud and leaning as it is heard. */
export const FeelPicture = memo(function FeelPicture({ feel }: { feel: Feel }) {
  const marks = useMemo(() => {
    const part = { ...pictured(), feel };
    const performed = performPart(part);
    const tempo = tempoMapOf(part);
    return part.hits.map((hit, i) => {
      const hat = hit.voice === 'hat-closed';
      const ms = tempo.between(hit.tick, ticks(performed.ticks[i] as number));
      const lean = Math.max(-MOST, Math.min(MOST, ms * PER_MS));
      return {
        x: 4 + (hit.tick / BAR) * (WIDTH - 10),
        foot: hat ? 15 : HEIGHT - 2,
        height: ((performed.velocities[i] as number) / 127) * (hat ? 13 : 15),
        lean,
        side: ms < -2 ? 'early' : ms > 2 ? 'late' : 'line',
      } as const;
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
