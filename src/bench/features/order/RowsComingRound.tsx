'use client';

import { setCycle } from '@/core/commands/sections';
import { MOST_CYCLE_STEPS } from '@/core/model/song';
import { labelOfRow } from '@/core/part/rows';
import { GRIDS, type GridName } from '@/core/time/grid';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { useBench, useBenchStore } from '../../store/context';
import { calmPart } from '../../store/derived';

/** What a row starts with where it is made to come round: three eighths over bars of four. */
const FIRST = { grid: '1/16' as GridName, steps: 6 };

/** Rows that loop over a length of their own (polymeter). */
export function RowsComingRound() {
  const { getState } = useBenchStore();
  const part = useBench(calmPart);
  const cycled = part.rows.filter((r) => r.cycle);
  const others = part.rows.filter((r) => !r.cycle && part.hits.some((h) => h.voice === r.voice));
  return (
    <section aria-label="Loop length of rows" className="space-y-1">
      <h3 className="font-serif text-base">Loop length of rows</h3>
      {cycled.map((row) => {
        const label = labelOfRow(part, row.voice);
        const { grid, steps } = row.cycle as NonNullable<typeof row.cycle>;
        const set = (change: Partial<NonNullable<typeof row.cycle>>) =>
          getState().run(`${label} loop length`, (p) => setCycle(p, row.voice, { grid, steps, ...change }));
        return (
          <p key={row.voice} className="flex flex-wrap items-baseline gap-1 leading-8">
            {label} loops every{' '}
            <NumberField
              label={`Steps of ${label}`}
              value={steps}
              min={1}
              max={MOST_CYCLE_STEPS}
              unit="×"
              className="[&_input]:w-[2.4em]"
              onChange={(n) => set({ steps: n })}
            />
            <Picker
              label={`Grid of ${label}`}
              value={grid}
              choices={GRIDS.map((g) => ({ value: g, text: g }))}
              onChange={(g) => set({ grid: g as GridName })}
            />
            <Button
              size="small"
              aria-label={`${label} as written`}
              onClick={() => getState().run(`${label} as written`, (p) => setCycle(p, row.voice, undefined))}
            >
              As written
            </Button>
          </p>
        );
      })}
      {others.length > 0 && (
        <p>
          Give{' '}
          <Picker
            label="Row with its own loop length"
            value=""
            placeholder="a row"
            choices={others.map((r) => ({ value: r.voice, text: labelOfRow(part, r.voice) }))}
            onChange={(voice) => getState().run(`${labelOfRow(part, voice)} loop length`, (p) => setCycle(p, voice, FIRST))}
          />{' '}
          its own loop length (polymeter).
        </p>
      )}
    </section>
  );
}
