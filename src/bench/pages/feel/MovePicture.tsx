import { isValidElement, type ReactNode } from 'react';
import type { Move } from '@/core/model/feel';
import type { MoveFace } from './moves/face';

export const WIDTH = 72;
const HEIGHT = 26;
/** Where stems stand. */
export const FLOOR = HEIGHT - 3;
/** Height of a stem that nothing changes. */
export const LEVEL = 13;
/** Four places, as of eighths or of beats; and eight. */
export const FEET = [10, 26, 42, 58] as const;
export const PLACES = Array.from({ length: 8 }, (_, i) => 6 + i * 8.5);
/** A few steps of a wandering curve. */
export const WANDERING = [-0.4, -0.9, -0.3, 0.5, 1, 0.6, -0.2, -0.7] as const;

export const limit = (n: number, size: number): number => Math.max(-size, Math.min(size, n));

/** A stem of a picture: foot, lean in pixels, height. */
export interface Small {
  x: number;
  lean: number;
  height: number;
}

/** A tiny picture of what a move does: a few stems, or a curve. */
export function MovePicture({ move, face }: { move: Move; face: MoveFace }) {
  const picture = face.picture(move);
  return (
    <svg width={WIDTH} height={HEIGHT} viewBox={`0 0 ${WIDTH} ${HEIGHT}`} aria-hidden="true" className="shrink-0 text-ink">
      <line x1={2} x2={WIDTH - 2} y1={FLOOR} y2={FLOOR} className="stroke-line" />
      {isStems(picture) ? picture.map((s, i) => <Stem key={i} {...s} />) : picture}
    </svg>
  );
}

const isStems = (picture: readonly Small[] | ReactNode): picture is readonly Small[] => Array.isArray(picture) && !picture.some(isValidElement);

function Stem({ x, lean, height }: Small) {
  const colour = lean < -1 ? 'stroke-early fill-early' : lean > 1 ? 'stroke-late fill-late' : 'stroke-ink fill-ink';
  return (
    <g className={colour}>
      <line x1={x} y1={FLOOR} x2={x + lean} y2={FLOOR - height} strokeWidth={1.4} />
      <circle cx={x + lean} cy={FLOOR - height} r={2} stroke="none" />
    </g>
  );
}
