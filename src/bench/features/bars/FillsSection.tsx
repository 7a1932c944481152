'use client';

import { newHitId } from '@/editing/ids';
import { useMemo, useState } from 'react';
import { applyFill, FILL_GRIDS, FIRST_FILL, planFill, type FillOptions, type FillPlan } from '@/core/fills/fills';
import { FILL_SHAPES, SHAPE_NAMES, type FillShape } from '@/core/fills/shapes';
import type { Part } from '@/core/model/part';
import { meterMapOf } from '@/core/part/part-time';
import type { GridName } from '@/core/time/grid';
import type { Ticks } from '@/core/units';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { Section } from '@/ui/Section';
import { useBench } from '../../store/context';
import { calmPart } from '../../store/derived';
import { useTrial } from '../../store/use-sweep';
import { FillPicture } from './FillPicture';
import { TrialButtons } from './TrialButtons';

const LENGTHS: readonly [quarters: number, words: string][] = [
  [0.5, 'half a beat'],
  [1, 'a beat'],
  [2, 'two beats'],
  [3, 'three beats'],
  [4, 'four beats'],
  [8, 'eight beats'],
];
/** At the end of the loop, or of every so many bars of it. */
const PLACES = [0, 2, 4, 8] as const;
const PROPOSALS = 3;
const CRASHES = [
  { value: 'after', text: 'a crash after it' },
  { value: 'none', text: 'no crash' },
];

/** Why no crash follows, where one was asked for. */
function crashWords(part: Part, bars: readonly number[], crash: boolean): string {
  if (!crash) return '';
  if (!part.rows.some((r) => r.voice === 'crash')) return 'The part has no crash row, so no crash follows.';
  return bars.some((bar) => bar + 1 >= part.bars) ? 'No crash follows at the end of the part.' : '';
}

/** The bars that get a fill: the loop's last, or every n-th of it. */
function barsFor(from: number, to: number, every: number): number[] {
  if (every === 0) return [to - 1];
  const bars = Array.from({ length: to - from }, (_, i) => from + i).filter((b) => (b - from + 1) % every === 0);
  return bars.length > 0 ? bars : [to - 1];
}

/** The downbeat after a bar: the next bar's; none at the part's end. */
const downbeatAfter = (part: Part, bar: number): Ticks | null => (bar + 1 >= part.bars ? null : meterMapOf(part).barOf(bar + 1).start);

/** Fills at the end of bars: three at a time as pictures, heard in the loop by a click. */
export function FillsSection() {
  const part = useBench(calmPart);
  const from = useBench((s) => s.transport.fromBar);
  const to = useBench((s) => s.transport.toBar);
  const [options, setOptions] = useState<FillOptions>(FIRST_FILL);
  const [every, setEvery] = useState(0);
  const [chosen, setChosen] = useState<number | null>(null);
  const trial = useTrial();
  const end = Math.min(to, part.bars);
  const bars = useMemo(() => barsFor(Math.min(from, end - 1), end, every), [from, end, every]);
  // Each bar has dice of its own.
  const planOf = (of: Part, bar: number, seed: number): FillPlan =>
    planFill(of, bar, { ...options, seed: seed * 1000 + bar }, downbeatAfter(of, bar));
  const seeds = Array.from({ length: PROPOSALS }, (_, i) => options.seed * PROPOSALS + i);
  const hear = (seed: number) => {
    setChosen(seed);
    trial.show(`Fill ${FILL_SHAPES[options.shape].words}`, (p) =>
      bars.reduce((now, bar) => applyFill(now, planOf(now, bar, seed), newHitId), p),
    );
  };
  const change = (next: Partial<FillOptions>) => {
    trial.cancel();
    setChosen(null);
    setOptions({ ...options, ...next });
  };
  return (
    <Section name="fills" title="Fills">
      <p className="leading-8">
        A fill of{' '}
        <Picker
          label="Length of the fill"
          value={String(options.length)}
          choices={LENGTHS.map(([n, text]) => ({ value: String(n), text }))}
          onChange={(v) => change({ length: Number(v) })}
        />{' '}
        <Picker
          label="Shape of the fill"
          value={options.shape}
          choices={SHAPE_NAMES.map((s) => ({ value: s, text: FILL_SHAPES[s].words }))}
          onChange={(v) => change({ shape: v as FillShape })}
        />{' '}
        in{' '}
        <Picker
          label="Steps of the fill"
          value={options.grid}
          choices={FILL_GRIDS.map((g) => ({ value: g, text: g }))}
          onChange={(v) => change({ grid: v as GridName })}
        />
        , at the end of{' '}
        <Picker
          label="Where fills go"
          value={String(every)}
          choices={PLACES.map((n) => ({ value: String(n), text: n === 0 ? `bar ${end}` : `every ${n} bars of the loop` }))}
          onChange={(v) => {
            change({});
            setEvery(Number(v));
          }}
        />
      </p>
      <p className="leading-8">
        <NumberField
          label="Louder than the groove"
          value={options.louder}
          min={0}
          max={40}
          unit="% louder,"
          className="[&_input]:w-[2.2em]"
          onChange={(louder) => change({ louder })}
        />{' '}
        the first of two{' '}
        <NumberField
          label="The first of two louder"
          value={options.first}
          min={1}
          max={40}
          unit="%"
          className="[&_input]:w-[2.2em]"
          onChange={(first) => change({ first })}
        />
        , with{' '}
        <Picker
          label="Crash"
          value={options.crash ? 'after' : 'none'}
          choices={CRASHES}
          onChange={(v) => change({ crash: v === 'after' })}
        />
      </p>
      <div className="flex flex-wrap gap-2" role="group" aria-label="Proposed fills">
        {seeds.map((seed, i) => (
          <button
            key={seed}
            type="button"
            aria-label={`Hear fill ${i + 1}`}
            aria-pressed={trial.active && chosen === seed}
            onClick={() => hear(seed)}
            className={`rounded-md border px-1 hover:bg-sunk ${trial.active && chosen === seed ? 'border-accent' : 'border-line'}`}
          >
            <FillPicture part={part} plan={planOf(part, bars[0] ?? 0, seed)} />
          </button>
        ))}
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <Button size="small" onClick={() => change({ seed: options.seed + 1 })}>
          New variation
        </Button>
        {trial.active && <TrialButtons keep="Apply" />}
      </div>
      <p className="mt-1 text-sm text-faint">
        {crashWords(part, bars, options.crash)} Hand-played hats and ghost notes stop during the fill while the hi-hat pedal keeps time.
        Whatever two hands and two feet cannot play is left out.
      </p>
    </Section>
  );
}
