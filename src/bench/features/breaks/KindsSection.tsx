'use client';

import { markStroke, nameStrokes } from '@/core/breaks/edit';
import type { BreakStroke } from '@/core/breaks/strokes';
import { STROKE_KINDS, type Break, type StrokeKind } from '@/core/model/break';
import { Picker } from '@/ui/Picker';
import { onsetDetectorState } from '../../breaks/onset-detector';
import { useBenchStore } from '../../store/context';

/** So many unsure ones are listed. */
const LISTED = 12;
const UNSURE = 0.6;
const choices = STROKE_KINDS.map((k) => ({ value: k, text: k }));

/** How many there are of each kind, all of a kind named otherwise at once, and those of which nobody is sure. */
export function KindsSection({ of, strokes }: { of: Break; strokes: readonly BreakStroke[] }) {
  const { getState } = useBenchStore();
  const counted = strokes.filter((s) => !s.belowThreshold);
  const unsure = counted.filter((s) => s.sure < UNSURE).sort((a, b) => a.sure - b.sure);
  return (
    <div className="leading-8">
      {STROKE_KINDS.map((kind) => {
        const all = counted.filter((s) => s.kind === kind);
        if (all.length === 0) return null;
        return (
          <p key={kind}>
            {all.length} heard as{' '}
            <Picker
              label={`All that were heard as ${kind}`}
              value={kind}
              choices={choices}
              onChange={(as) =>
                getState().run(`Mark all ${kind} hits as ${as}`, (p) =>
                  nameStrokes(
                    p,
                    of.id,
                    all.map((s) => s.id),
                    as as StrokeKind,
                  ),
                )
              }
            />
          </p>
        );
      })}
      {unsure.length > 0 && <p className="text-sm text-faint">Least certain, with other guesses:</p>}
      <ul>
        {unsure.slice(0, LISTED).map((s) => (
          <li key={s.id} className="flex items-baseline gap-2">
            <button
              type="button"
              className="underline decoration-dotted underline-offset-4"
              onClick={() => onsetDetectorState.setState({ chosen: s.id })}
            >
              {s.at.toFixed(2)} s
            </button>
            <Picker
              label={`Hit at ${s.at.toFixed(2)} s`}
              value={s.kind}
              choices={choices}
              onChange={(as) => getState().run(`Mark a hit as ${as}`, (p) => markStroke(p, of.id, s.id, { as: as as StrokeKind }))}
            />
            <span className="text-sm text-faint">{Math.round(s.sure * 100)} % sure</span>
          </li>
        ))}
      </ul>
      {unsure.length > LISTED && <p className="text-sm text-faint">and {unsure.length - LISTED} more</p>}
    </div>
  );
}
