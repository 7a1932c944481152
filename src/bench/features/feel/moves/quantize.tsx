'use client';

import { STRAIGHT, type QuantizeMove } from '@/core/model/feel';
import { pullStrength, quantizeMove } from '@/core/moves/quantize';
import { isTriplet } from '@/core/time/grid';
import { MOVE_WORDS } from '../../../words/move-words';
import { Doubtful } from '../Doubtful';
import { PullPicture } from '../PullPicture';
import { FLOOR, LEVEL } from './small-stems';
import { MoveGrid, MoveNumber, Words, type MoveView } from './move-view';

const of = { spec: quantizeMove };

export const quantizeView: MoveView<QuantizeMove> = {
  spec: quantizeMove,
  word: MOVE_WORDS.quantize,
  about: 'Moves hits toward the grid. Hits outside the reach or within the tolerance stay as they were played.',
  also: ['tighten', 'snap', 'correct timing', 'grid'],
  Sentence: ({ move, edit }) => (
    <Words>
      moves hits <MoveNumber {...of} move={move} edit={edit} name="strength" label="Strength" unit="%" scale={100} /> toward{' '}
      <MoveGrid value={move.grid} edit={edit} change={(grid) => ({ grid, ...(isTriplet(grid) ? { swingPercent: STRAIGHT } : {}) })} />
      {!isTriplet(move.grid) && (
        <>
          swung <MoveNumber {...of} move={move} edit={edit} name="swingPercent" label="Swing of the lines" unit="%" digits={1} />
        </>
      )}
      <span>
        within <MoveNumber {...of} move={move} edit={edit} name="outer" label="Reach" unit="% of half a step," scale={100} />
      </span>
      <span>
        tolerance <MoveNumber {...of} move={move} edit={edit} name="innerMs" label="Tolerance" unit="ms" digits={1} />
      </span>
    </Words>
  ),
  Below: ({ index }) => (
    <>
      <PullPicture index={index} />
      <Doubtful index={index} />
    </>
  ),
  picture: (move) => <Pull move={move} />,
  brief: ({ strength, grid }) => `${Math.round(strength * 100)} % of the way to ${grid}`,
};

/** Two hits that are off: pale as they are, in ink as they are pulled. */
function Pull({ move }: { move: QuantizeMove }) {
  const off = [-0.3, 0.22, 0.45];
  return (
    <>
      {off.map((d, i) => {
        const x = 14 + i * 22;
        const after = d * (1 - pullStrength(Math.abs(d), Math.abs(d) * 60, 1, move));
        const lean = (v: number) => x + v * 18;
        return (
          <g key={i}>
            <path d={`M${x} ${FLOOR}L${lean(d)} ${FLOOR - LEVEL}`} className="stroke-pale" strokeWidth={1.2} />
            <circle cx={lean(d)} cy={FLOOR - LEVEL} r={1.8} className="fill-pale" />
            <path d={`M${x} ${FLOOR}L${lean(after)} ${FLOOR - LEVEL}`} className="stroke-ink" strokeWidth={1.4} />
            <circle cx={lean(after)} cy={FLOOR - LEVEL} r={2} className="fill-ink" />
          </g>
        );
      })}
    </>
  );
}
