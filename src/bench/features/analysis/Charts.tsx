'use client';

import dynamic from 'next/dynamic';
import { useMemo, useState } from 'react';
import type { Placement } from '@/core/analysis/placement';
import type { Part } from '@/core/model/part';
import { meterMapOf } from '@/core/part/part-time';
import { labelOfRow } from '@/core/part/rows';
import { TICKS_PER_WHOLE } from '@/core/units';
import { Button } from '@/ui/Button';
import { Picker } from '@/ui/Picker';
import { useBench, useBenchStore } from '../../store/context';
import { placeText } from '../../words/describe';
import { byPlace, type Dot } from './curve';
import { leanWords } from '../../shared/reading';

const LeanChart = dynamic(() => import('./LeanChart'), { ssr: false });

/** Lean or velocity by place in the bar, as dots and in numbers. */
export function Charts({ found }: { found: Placement }) {
  const { getState } = useBenchStore();
  const part = useBench((s) => s.part);
  const selection = useBench((s) => s.selection);
  const [row, setRow] = useState<string>('all');
  const [unit, setUnit] = useState<'ms' | 'velocity'>('ms');
  // As the bar is counted: in 6/8 by eighths.
  const counted = (part.meter[0]?.denominator ?? 4) / 4;
  const dots = useMemo(
    () =>
      part.hits.flatMap((h, hit) =>
        row === 'all' || h.voice === row
          ? [{ x: (found.places[hit] ?? 0) * counted, y: (unit === 'ms' ? found.leans[hit] : found.velocities[hit]) ?? 0, hit }]
          : [],
      ),
    [part.hits, found, row, unit, counted],
  );
  const chosen = useMemo(() => new Set(part.hits.flatMap((h, i) => (selection.has(h.id) ? [i] : []))), [part.hits, selection]);
  return (
    <div>
      <p className="leading-8">
        <Picker
          label="What is drawn"
          value={unit}
          choices={[
            { value: 'ms', text: 'lean' },
            { value: 'velocity', text: 'velocity' },
          ]}
          onChange={(v) => setUnit(v as 'ms' | 'velocity')}
        />{' '}
        of{' '}
        <Picker
          label="Row drawn"
          value={row}
          choices={[{ value: 'all', text: 'all rows' }, ...found.rows.map((r) => ({ value: r.voice, text: labelOfRow(part, r.voice) }))]}
          onChange={setRow}
        />
      </p>
      <LeanChart
        dots={dots}
        unit={unit}
        chosen={chosen}
        label={unit === 'ms' ? 'Lean by place in the bar' : 'Velocity by place in the bar'}
        onChoose={(hits) => getState().select(hits.map((i) => getState().part.hits[i]?.id ?? ''))}
      />
      <PlaceTable dots={dots} unit={unit} onChoose={(hits) => getState().select(hits.map((i) => getState().part.hits[i]?.id ?? ''))} />
      <p className="text-sm text-faint">
        {unit === 'ms' ? 'Early above, late below the line. ' : ''}The line is their mean, the band their spread. Drag over dots to select
        their hits.
      </p>
    </div>
  );
}

/** The chart in numbers: each place of the bar with how many are struck there, their mean and how they vary. */
function PlaceTable({ dots, unit, onChoose }: { dots: readonly Dot[]; unit: 'ms' | 'velocity'; onChoose: (hits: number[]) => void }) {
  const part = useBench((s) => s.part);
  const [shown, setShown] = useState(false);
  const places = byPlace(dots);
  return (
    <div>
      <Button size="tiny" aria-expanded={shown} onClick={() => setShown(!shown)}>
        {shown ? 'Hide the table' : 'As a table'}
      </Button>
      {shown && (
        <table className="mt-1 w-full border-collapse text-sm" aria-label="By place in the bar, in numbers">
          <thead>
            <tr className="text-left text-faint [&>th]:font-normal">
              <th>place</th>
              <th className="text-right">hits</th>
              <th className="text-right">{unit === 'ms' ? 'lean, ms' : 'velocity'}</th>
              <th className="text-right">±</th>
            </tr>
          </thead>
          <tbody>
            {places.map((p) => (
              <tr key={p.x} className="border-t border-line">
                <td>
                  <button type="button" className="underline decoration-dotted underline-offset-4" onClick={() => onChoose(p.hits)}>
                    {placeInBar(part, p.x)}
                  </button>
                </td>
                <td className="text-right tabular-nums">{p.hits.length}</td>
                <td className="text-right tabular-nums">{unit === 'ms' ? leanWords(p.mean) : p.mean.toFixed(0)}</td>
                <td className="text-right tabular-nums">{p.deviation.toFixed(1)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}

/** @example '2 &' of the place 1.5 in 4/4 */
function placeInBar(part: Part, x: number): string {
  const { start, meter } = meterMapOf(part).barOf(0);
  return placeText(part, start + Math.round((x * TICKS_PER_WHOLE) / meter.denominator)).replace(/^bar \d+ · /, '');
}
