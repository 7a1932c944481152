'use client';

import { counted } from '@/core/plurals';
import { useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { resetStep, setStep } from '@/core/groove/edit';
import type { Groove, GrooveStep } from '@/core/model/groove';
import { stepsFor } from '@/core/groove/steps';
import { sampleGroove } from '@/core/groove/sample';
import { sweepOf } from '@/editing/sweep';
import { layOutSteps, magnificationOf, stepWidth, type StemsFrame } from '../pictures/groove-stems';
import { dragStep, pressStep, type StepDrag } from '../gestures/drag-step';
import { tempoOf } from '../store/heard';
import { useGrooves, useGroovesStore } from '../store/context';
import { leanWords, stepName } from '../words/words';
import { Ground, Stem } from '../pictures/GroovePicture';
import { Playhead } from '../pictures/Playhead';
import type { Hearing } from '../store/use-hearing';

const WIDTH = 420;
const HEIGHT = 176;

interface Props {
  groove: Groove;
  /** Another groove that stands pale behind. */
  behind: Groove | null;
  lens: number;
  /** A blend is looked at, not edited. */
  still: boolean;
  hearing: Hearing;
}

/** The groove in hand: each step's stem is dragged sideways for its lean, up and down for its level. */
export function HandPicture({ groove, behind, lens, still, hearing }: Props) {
  const store = useGroovesStore();
  const { edit } = store.getState();
  const [sweep] = useState(() => sweepOf(store.getState().openGroove, 'drag'));
  const curve = useGrooves((s) => s.curve);
  const tempo = useGrooves(tempoOf);
  const [drag, setDrag] = useState<StepDrag | null>(null);
  const [under, setUnder] = useState<number | null>(null);
  const svg = useRef<SVGSVGElement>(null);
  const steps = curve === null ? groove.steps : stepsFor(groove, curve);
  const frame = useMemo<StemsFrame>(() => ({ width: WIDTH, height: HEIGHT, magnified: magnificationOf(lens) }), [lens]);
  const stems = layOutSteps(groove, steps, frame);
  const pale = behind
    ? layOutSteps(
        groove,
        steps.map((_, i): GrooveStep => resampled(behind, i / groove.stepsPerBeat, groove.stepsPerBeat)),
        frame,
      )
    : [];
  const width = stepWidth(frame, steps.length);

  const placeOf = (e: PointerEvent): { x: number; y: number } => {
    const box = svg.current?.getBoundingClientRect();
    const scale = box ? WIDTH / box.width : 1;
    return { x: (e.clientX - (box?.left ?? 0)) * scale, y: (e.clientY - (box?.top ?? 0)) * scale };
  };
  const onMove = (e: PointerEvent) => {
    if (!drag) return;
    const { x, y } = placeOf(e);
    const next = dragStep(drag, x, y, e.shiftKey, frame);
    if (next.drag !== drag) setDrag(next.drag);
    if (next.change)
      sweep.show(`${next.drag.kind === 'lean' ? 'Lean' : 'Level'} of ${stepName(groove, drag.index)}`, (g) =>
        setStep(g, curve, drag.index, next.change as Partial<GrooveStep>),
      );
  };
  const end = (keep: boolean) => {
    setDrag(null);
    if (keep) sweep.done();
    else sweep.cancel();
  };
  const onKey = (e: KeyboardEvent, index: number) => {
    const { offset, level } = steps[index] as GrooveStep;
    const fine = e.shiftKey ? 0.1 : 1;
    const change = {
      ArrowLeft: { offset: offset - 0.01 * fine },
      ArrowRight: { offset: offset + 0.01 * fine },
      ArrowUp: { level: level + 0.02 * fine },
      ArrowDown: { level: level - 0.02 * fine },
    }[e.key];
    if (e.key === 'Escape' && drag) end(false);
    else if (e.key === 'Delete' || e.key === 'Backspace') edit(`Reset ${stepName(groove, index)}`, (g) => resetStep(g, curve, index));
    else if (change)
      edit(`${'offset' in change ? 'Lean' : 'Level'} of ${stepName(groove, index)}`, (g) => setStep(g, curve, index, change));
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  const told = drag?.index ?? under;
  return (
    <div>
      <svg
        ref={svg}
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="w-full touch-none select-none"
        role="group"
        aria-label={`Steps of ${groove.name}`}
        data-testid="hand-picture"
      >
        <Ground groove={groove} count={steps.length} frame={frame} />
        {pale.map((s) => (
          <g key={s.index} opacity={0.35}>
            <Stem stem={s} radius={3} />
          </g>
        ))}
        {stems.map((s) => {
          const step = steps[s.index] as GrooveStep;
          return (
            <g
              key={s.index}
              role="slider"
              tabIndex={still ? -1 : 0}
              aria-label={`Step ${stepName(groove, s.index)}`}
              aria-disabled={still}
              aria-valuenow={Math.round(step.offset * 1000) / 10}
              aria-valuemin={-50}
              aria-valuemax={50}
              aria-valuetext={`${leanWords(step.offset, groove.stepsPerBeat, tempo)}; level ${Math.round(step.level * 100)} %`}
              className={still ? '' : 'cursor-move outline-none [&:focus-visible>rect]:stroke-accent'}
              onKeyDown={(e) => !still && onKey(e, s.index)}
              onFocus={() => setUnder(s.index)}
              onBlur={() => setUnder(null)}
              onPointerEnter={() => setUnder(s.index)}
              onPointerLeave={() => setUnder(null)}
              onDoubleClick={() => !still && edit(`Reset ${stepName(groove, s.index)}`, (g) => resetStep(g, curve, s.index))}
              onPointerDown={(e) => {
                if (still || e.button !== 0) return;
                e.currentTarget.setPointerCapture(e.pointerId);
                const { x, y } = placeOf(e);
                setDrag(pressStep(s, step, steps.length, x, y));
              }}
              onPointerMove={onMove}
              onPointerUp={() => drag && end(true)}
              onPointerCancel={() => drag && end(false)}
            >
              <rect
                x={s.footX - width / 2}
                y={0}
                width={width}
                height={HEIGHT}
                rx={3}
                className={told === s.index ? 'fill-sunk' : 'fill-transparent'}
              />
              <Stem stem={s} radius={steps.length > 24 ? 2.6 : 4} />
            </g>
          );
        })}
        <Playhead hearing={hearing} groove={groove} count={steps.length} frame={frame} />
      </svg>
      <p className="h-6 text-sm text-faint" data-testid="step-readout">
        {told !== null && steps[told] ? (
          <>
            <span className="text-ink">{stepName(groove, told)}</span>:{' '}
            {leanWords((steps[told] as GrooveStep).offset, groove.stepsPerBeat, tempo)}; level{' '}
            {Math.round((steps[told] as GrooveStep).level * 100)} %{learntWords(steps[told] as GrooveStep, groove)}
          </>
        ) : still ? (
          'Save the blend to edit it.'
        ) : (
          'Sideways: lean. Up, down: level. Double-click: reset.'
        )}
      </p>
    </div>
  );
}

/** A step of another groove, on this one's steps. */
function resampled(groove: Groove, beat: number, stepsPerBeat: number): GrooveStep {
  const { offset, level, n } = sampleGroove(groove, beat);
  return { offset: offset * stepsPerBeat, level, n: Math.max(1, n) };
}

const learntWords = (step: GrooveStep, groove: Groove): string =>
  groove.fit === undefined
    ? ''
    : step.n === 0
      ? '; no hit here'
      : `; from ${counted(step.n, 'hit')}${step.spreadMs === undefined ? '' : `, ± ${step.spreadMs.toFixed(1)} ms`}`;
