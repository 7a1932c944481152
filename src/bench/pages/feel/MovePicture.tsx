import type { Move } from '@/core/model/feel';
import { pullStrength } from '@/core/moves/quantize';
import { swingShift } from '@/core/feel/swing';

const WIDTH = 72;
const HEIGHT = 26;
const FLOOR = HEIGHT - 3;

/** A stem of a picture: foot, lean in pixels, height. */
interface Small {
  x: number;
  lean: number;
  height: number;
}

/** A tiny picture of what a move does: four stems, or a curve. */
export function MovePicture({ move }: { move: Move }) {
  return (
    <svg width={WIDTH} height={HEIGHT} viewBox={`0 0 ${WIDTH} ${HEIGHT}`} aria-hidden="true" className="shrink-0 text-ink">
      <line x1={2} x2={WIDTH - 2} y1={FLOOR} y2={FLOOR} className="stroke-line" />
      {move.kind === 'quantize' ? <Pull move={move} /> : stemsOf(move).map((s, i) => <Stem key={i} {...s} />)}
    </svg>
  );
}

function Stem({ x, lean, height }: Small) {
  const colour = lean < -1 ? 'stroke-early fill-early' : lean > 1 ? 'stroke-late fill-late' : 'stroke-ink fill-ink';
  return (
    <g className={colour}>
      <line x1={x} y1={FLOOR} x2={x + lean} y2={FLOOR - height} strokeWidth={1.4} />
      <circle cx={x + lean} cy={FLOOR - height} r={2} stroke="none" />
    </g>
  );
}

/** A few steps of a wandering curve. */
const WANDERING = [-0.4, -0.9, -0.3, 0.5, 1, 0.6, -0.2, -0.7];
const FEET = [10, 26, 42, 58];
const limit = (n: number, size: number): number => Math.max(-size, Math.min(size, n));

function stemsOf(move: Exclude<Move, { kind: 'quantize' }>): Small[] {
  const level = 13;
  switch (move.kind) {
    case 'swing': {
      const shift = swingShift(1, 2, move.percent) * 16 * (move.inverse ? -1 : 1);
      return FEET.map((x, i) => ({ x: i % 2 === 1 ? x + shift : x, lean: 0, height: level }));
    }
    case 'lay':
      return FEET.map((x) => ({ x, lean: limit(move.ms / 3, 8), height: level }));
    case 'groove':
      // The first steps as they follow each other: one a beat would hide a swing.
      return move.groove.steps.slice(0, 8).map(({ offset, level: steps }, i) => ({ x: 6 + i * 8.5, lean: limit(offset * move.lean * 25, 4), height: limit(level * (1 + move.level * (steps - 1)), 19) }));
    case 'humanize':
      return WANDERING.map((w, i) => ({ x: 6 + i * 8.5, lean: limit((w * move.timingMs) / 2, 6), height: Math.max(4, level + (w * move.velocityPercent) / 3) }));
    case 'apart':
      return [-1, 0, 1].map((k) => ({ x: WIDTH / 2, lean: limit((k * move.ms) / 1.6, 14), height: level + 3 - 3 * Math.abs(k) }));
    case 'timbre':
      return WANDERING.map((w, i) => ({ x: 6 + i * 8.5, lean: 0, height: limit(level + (w * (move.brightness + Math.abs(move.velocityBrightness))) / 12, 20) }));
    case 'accents':
      return Array.from({ length: 8 }, (_, i) => ({ x: 6 + i * 8.5, lean: 0, height: limit(12 * move.scale * (1 + move.depth * ((move.levels[i % move.levels.length] ?? 1) - 1)), 20) }));
  }
}

/** How far hits are pulled by how far off they are: flat up to the window, then nothing. */
function Pull({ move }: { move: Extract<Move, { kind: 'quantize' }> }) {
  const points = Array.from({ length: 33 }, (_, i) => {
    const d = Math.abs(i - 16) / 16;
    const e = pullStrength(d, d * 60, 1, move);
    return `${4 + i * 2},${FLOOR - e * 18}`;
  });
  return (
    <>
      <line x1={WIDTH / 2} x2={WIDTH / 2} y1={4} y2={FLOOR} className="stroke-strong" strokeDasharray="2 2" />
      <polyline points={points.join(' ')} fill="none" className="stroke-ink" strokeWidth={1.4} />
    </>
  );
}
