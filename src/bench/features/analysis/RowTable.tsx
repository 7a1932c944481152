'use client';

import type { ReactNode } from 'react';
import { isFlat, type Placement, type RowPlacement } from '@/core/analysis/placement';
import { labelOfRow } from '@/core/part/rows';
import type { VoiceName } from '@/core/row-names';
import { Button } from '@/ui/Button';
import { download, fileNameOf } from '@/ui/download';
import { useBench } from '../../store/context';
import { leanWords } from '../../shared/reading';
import { useSelectRow } from './use-select-row';

/** Each row in numbers; its name selects its hits. `beside`: the part as it is now, where something else is measured. */
export function RowTable({ found, beside }: { found: Placement; beside: Placement | null }) {
  const part = useBench((s) => s.part);
  const selectRow = useSelectRow();
  const csv = () => {
    const lines = found.rows.map((r) =>
      [
        labelOfRow(part, r.voice),
        r.n,
        r.leanMs.toFixed(2),
        r.spreadMs.toFixed(2),
        r.swing?.division ?? '',
        r.swing?.percent.toFixed(1) ?? '',
        r.velocity.mean.toFixed(1),
        r.velocity.sd.toFixed(1),
        r.ghosts,
      ]
        .map((v) => `"${String(v).replaceAll('"', '""')}"`)
        .join(','),
    );
    download(
      ['row,hits,lean ms,spread ms,swing of,swing %,velocity,velocity spread,ghosts', ...lines].join('\n'),
      `${fileNameOf(part.name)}-placement.csv`,
      'text/csv',
    );
  };
  return (
    <>
      <table className="w-full border-collapse text-sm" aria-label="Timing of rows">
        <thead>
          <tr className="text-left text-faint [&>th]:py-1 [&>th]:font-normal">
            <th>row, hits</th>
            <th className="text-right">lean, ms</th>
            <th className="text-right">spread</th>
            <th className="text-right">swing</th>
            <th className="text-right">velocity</th>
          </tr>
        </thead>
        <tbody>
          {found.rows.map((r) => (
            <tr key={r.voice} className="border-t border-line [&>td]:py-1 [&>td]:align-top">
              <td>
                <button
                  type="button"
                  className="text-left underline decoration-dotted underline-offset-4"
                  title="Selects its hits"
                  onClick={() => selectRow(r.voice)}
                >
                  {labelOfRow(part, r.voice)}
                </button>{' '}
                <span className="text-faint tabular-nums">{r.n}</span>
                {r.ghosts > 0 && <span className="block text-faint">{r.ghosts === 1 ? '1 ghost' : `${r.ghosts} ghosts`}</span>}
              </td>
              <td className={`text-right tabular-nums ${r.leanMs <= -1 ? 'text-early-text' : r.leanMs >= 1 ? 'text-late-text' : ''}`}>
                {leanWords(r.leanMs)}
                {nowOf(beside, r.voice, (o) => leanWords(o.leanMs))}
              </td>
              <td className="text-right tabular-nums">
                {r.spreadMs.toFixed(1)}
                {nowOf(beside, r.voice, (o) => o.spreadMs.toFixed(1))}
              </td>
              <td className="text-right tabular-nums">
                {r.swing ? `${r.swing.percent.toFixed(0)} %${r.swing.sd >= 1 ? ` ± ${r.swing.sd.toFixed(0)}` : ''}` : '–'}
              </td>
              <td className="text-right tabular-nums">
                {velocityWords(r)}
                {nowOf(beside, r.voice, velocityWords)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 flex items-baseline justify-between text-sm text-faint">
        lean: against its line, nudges included
        <Button size="tiny" onClick={csv}>
          CSV
        </Button>
      </p>
    </>
  );
}

/** The same of the part as it is now, beneath. */
const nowOf = (beside: Placement | null, voice: VoiceName, words: (row: RowPlacement) => string): ReactNode => {
  const row = beside?.rows.find((r) => r.voice === voice);
  return row ? <span className="block text-faint">{words(row)}</span> : null;
};

const velocityWords = (r: RowPlacement): string =>
  isFlat(r) ? `${r.velocity.mean.toFixed(0)}, flat` : `${r.velocity.mean.toFixed(0)} ± ${r.velocity.sd.toFixed(0)}`;
