import type { Groove } from '@/core/model/groove';
import type { Bpm } from '@/core/units';
import { msWords, stepMs, stepName } from '../words/words';

/** Each step: hits, lean, spread, level. */
export function LearntSteps({ groove, tempo }: { groove: Groove; tempo: Bpm }) {
  return (
    <div className="mt-2 max-h-44 overflow-auto border-y border-line" tabIndex={0} role="region" aria-label="Extracted steps">
      <table className="w-full text-sm" data-testid="learnt-steps">
        <thead className="sticky top-0 bg-surface text-left text-faint">
          <tr>
            <th className="font-normal">step</th>
            <th className="text-right font-normal">hits</th>
            <th className="pl-4 font-normal">lean</th>
            <th className="text-right font-normal">spread</th>
            <th className="text-right font-normal">level</th>
          </tr>
        </thead>
        <tbody>
          {groove.steps.map((s, i) => (
            <tr key={i} className={s.n === 0 ? 'text-faint' : ''}>
              <td>{stepName(groove, i)}</td>
              <td className="text-right">{s.n}</td>
              <td className="pl-4">
                {msWords(stepMs(s.offset, groove.stepsPerBeat, tempo))}
                {s.n === 0 ? ', from its neighbours' : ''}
              </td>
              <td className="text-right">{s.spreadMs === undefined ? '' : `± ${s.spreadMs.toFixed(1)} ms`}</td>
              <td className="text-right">{s.n === 0 ? '' : `${Math.round(s.level * 100)} %`}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
