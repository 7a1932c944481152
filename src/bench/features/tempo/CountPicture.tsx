import { tableOf, CRASH, HAT, KICK, SNARE, type FreeStroke } from '@/core/beats/strokes';
import { beatsOfBar, type Count } from '@/core/free-takes/adjust-count';

const WIDTH = 300;
const HEIGHT = 46;
const LONGEST_SECONDS = 8;
const BEFORE = 0.15;
/** Height of each group of drums, the feet lowest. */
const LANES = { [KICK]: 38, [SNARE]: 28, [HAT]: 18, [CRASH]: 12 } as Readonly<Record<number, number>>;
const TOMS = 23;

/** The first seconds of a take with the beats that one way to count it gives: bar lines are tall, and numbered. */
export function CountPicture({ strokes, count }: { strokes: readonly FreeStroke[]; count: Count }) {
  const { at, group, velocity, count: n } = tableOf(strokes);
  const from = (at[0] ?? 0) - BEFORE;
  const x = (second: number): number => ((second - from) / LONGEST_SECONDS) * WIDTH;
  const bar = beatsOfBar(count.meter);
  const lines = count.beats
    .map((second, i) => ({ second, place: (((i - count.downbeat) % bar) + bar) % bar, i }))
    .filter(({ second }) => x(second) < WIDTH);
  const bars = lines.filter(({ place }) => place === 0);
  const seen = Array.from({ length: n }, (_, i) => i).filter((i) => x(at[i] as number) < WIDTH);
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="w-full" aria-hidden="true">
      {lines.map(({ second, place }) => (
        <line
          key={second}
          x1={x(second)}
          x2={x(second)}
          y1={place === 0 ? 0 : 10}
          y2={HEIGHT}
          stroke={place === 0 ? 'var(--strong)' : 'var(--line)'}
        />
      ))}
      {bars.map(({ second }, i) => (
        <text key={second} x={x(second) + 3} y={8} fontSize="8" fill="var(--faint)">
          {i + 1}
        </text>
      ))}
      {seen.map((i) => (
        <line
          key={i}
          x1={x(at[i] as number)}
          x2={x(at[i] as number)}
          y1={(LANES[group[i] as number] ?? TOMS) + 5}
          y2={(LANES[group[i] as number] ?? TOMS) + 5 - 9 * ((velocity[i] as number) / 127)}
          stroke="var(--ink)"
          strokeWidth={1.6}
        />
      ))}
    </svg>
  );
}
