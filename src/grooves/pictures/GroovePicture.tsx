import { memo } from 'react';
import type { Groove, GrooveStep } from '@/core/model/groove';
import { layOutSteps, lensFor, magnificationOf, type GrooveStem, type StemsFrame } from './groove-stems';

interface Props {
  groove: Groove;
  /** The groove's common steps without it. */
  steps?: readonly GrooveStep[];
  width: number;
  height: number;
  /** Lean that is shown in full, in percent of a step; the narrowest without breaks where it is left out. */
  lens?: number;
}

/** A groove as leaning stems, to look at. */
export const GroovePicture = memo(function GroovePicture({ groove, steps = groove.steps, width, height, lens = lensFor(groove) }: Props) {
  const frame = { width, height, magnified: magnificationOf(lens) };
  return (
    <svg viewBox={`0 0 ${width} ${height}`} className="w-full" aria-hidden="true">
      <Ground groove={groove} count={steps.length} frame={frame} />
      {layOutSteps(groove, steps, frame).map((s) => (
        <Stem key={s.index} stem={s} thin={steps.length > 24} />
      ))}
    </svg>
  );
});

/** The line that feet stand on, and thin lines at the beats. */
export function Ground({ groove, count, frame }: { groove: Pick<Groove, 'stepsPerBeat'>; count: number; frame: StemsFrame }) {
  const feet = layOutSteps(
    groove,
    Array.from({ length: count }, () => ({ offset: 0, level: 1, n: 1 })),
    frame,
  );
  return (
    <>
      {feet
        .filter((f) => f.onBeat)
        .map((f) => (
          <line key={f.index} x1={f.footX} x2={f.footX} y1={2} y2={f.footY} className="stroke-line" />
        ))}
      <line x1={2} x2={frame.width - 2} y1={frame.height - 3} y2={frame.height - 3} className="stroke-strong" strokeWidth={0.8} />
    </>
  );
}

const COLOURS = { early: 'stroke-early fill-early', line: 'stroke-ink fill-ink', late: 'stroke-late fill-late' } as const;

export function Stem({
  stem: { footX, footY, headX, headY, side, broken, guessed, onBeat },
  thin = false,
  radius,
}: {
  stem: GrooveStem;
  thin?: boolean;
  radius?: number;
}) {
  const r = radius ?? (thin ? 1.7 : 2.6);
  const [midX, midY] = [footX + (headX - footX) * 0.42, footY + (headY - footY) * 0.42];
  return (
    <g className={COLOURS[side]} opacity={guessed ? 0.45 : 1}>
      <path
        d={`M${footX} ${footY}L${headX} ${headY}`}
        fill="none"
        strokeWidth={thin ? 1 : onBeat ? 1.7 : 1.3}
        strokeDasharray={guessed ? '2 2' : undefined}
      />
      <circle cx={headX} cy={headY} r={r} stroke="none" />
      {/* Wider than drawn: two short strokes across, as on a broken axis. */}
      {broken && <path d={`M${midX - 3} ${midY + 2.6}l6 -2.4M${midX - 3} ${midY}l6 -2.4`} fill="none" strokeWidth={1} />}
      {side !== 'line' && !thin && (
        <line
          x1={headX + (side === 'early' ? -r - 2.5 : r + 2.5)}
          x2={headX + (side === 'early' ? -r : r)}
          y1={headY}
          y2={headY}
          strokeWidth={1.2}
        />
      )}
    </g>
  );
}
