import { isValidElement, type ReactNode } from 'react';
import type { Move } from '@/core/model/feel';
import type { MoveView } from './moves/move-view';
import { FLOOR, HEIGHT, WIDTH, type Small } from './moves/small-stems';

/** A tiny picture of what a move does: a few stems, or a curve. */
export function MovePicture({ move, face }: { move: Move; face: MoveView }) {
  const picture = face.picture(move);
  return (
    <svg width={WIDTH} height={HEIGHT} viewBox={`0 0 ${WIDTH} ${HEIGHT}`} aria-hidden="true" className="shrink-0 text-ink">
      <line x1={2} x2={WIDTH - 2} y1={FLOOR} y2={FLOOR} className="stroke-line" />
      {isStems(picture) ? picture.map((s, i) => <Stem key={i} {...s} />) : picture}
    </svg>
  );
}

const isStems = (picture: readonly Small[] | ReactNode): picture is readonly Small[] =>
  Array.isArray(picture) && !picture.some(isValidElement);

function Stem({ x, lean, height }: Small) {
  const colour = lean < -1 ? 'stroke-early fill-early' : lean > 1 ? 'stroke-late fill-late' : 'stroke-ink fill-ink';
  return (
    <g className={colour}>
      <line x1={x} y1={FLOOR} x2={x + lean} y2={FLOOR - height} strokeWidth={1.4} />
      <circle cx={x + lean} cy={FLOOR - height} r={2} stroke="none" />
    </g>
  );
}
