'use client';

import { STRAIGHT, type QuantizeMove } from '@/core/model/feel';
import { pullStrength, quantizeMove } from '@/core/moves/quantize';
import { isTriplet } from '@/core/time/grid';
import { Doubtful } from '../Doubtful';
import { FLOOR, WIDTH } from './small-stems';
import { MoveGrid, MoveNumber, Words, type MoveFace } from './face';

const of = { spec: quantizeMove };

export const quantizeFace: MoveFace<QuantizeMove> = {
  spec: quantizeMove,
  word: 'Quantize',
  about: 'Pulls hits towards the lines of a grid. In: hits that are off. Out: the same hits nearer to their lines; what lies outside the reach, or within the tolerance, stays as it was played.',
  also: ['tighten', 'snap', 'correct timing', 'grid'],
  Sentence: ({ move, edit }) => (
    <Words>
      pulls <MoveNumber {...of} move={move} edit={edit} name="strength" label="Strength" unit="%" scale={100} /> of the way to{' '}
      <MoveGrid value={move.grid} edit={edit} change={(grid) => ({ grid, ...(isTriplet(grid) ? { swingPercent: STRAIGHT } : {}) })} />
      {!isTriplet(move.grid) && (
        <>
          swung <MoveNumber {...of} move={move} edit={edit} name="swingPercent" label="Swing of the lines" unit="%" digits={1} />
        </>
      )}
      <span>
        what lies within <MoveNumber {...of} move={move} edit={edit} name="outer" label="Reach" unit="% of the half gap," scale={100} />
      </span>
      <span>
        leaving the last <MoveNumber {...of} move={move} edit={edit} name="innerMs" label="Tolerance" unit="ms" digits={1} />
      </span>
    </Words>
  ),
  Below: Doubtful,
  picture: (move) => <Pull move={move} />,
  brief: ({ strength, grid }) => `${Math.round(strength * 100)} % of the way to ${grid}`,
};

/** How far hits are pulled by how far off they are: flat up to the window, then nothing. */
function Pull({ move }: { move: QuantizeMove }) {
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
