'use client';

import { useState } from 'react';
import { lengthMs, setLengths, type LengthRule } from '@/core/commands/lengths';
import { readQuality } from '@/core/shaping/qualities';
import { GRIDS, type GridName } from '@/core/time/grid';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { Section } from '@/ui/Section';
import { useBench, useBenchStore } from '../../store/context';
import { calmPart } from '../../store/derived';
import { useTouched } from './use-touched';

const UNITS = [...GRIDS.map((g) => ({ value: g as string, text: g })), { value: 'ms', text: 'ms' }];

/** How long the touched hits last: seen, and set in steps, in milliseconds, or up to the next hit of the row. */
export function LengthsSection() {
  const { getState } = useBenchStore();
  const touched = useTouched();
  const part = useBench(calmPart);
  const [count, setCount] = useState(1);
  const [unit, setUnit] = useState('1/16');
  const hits = part.hits.filter((h) => touched.ids.has(h.id));
  const nothing = hits.length === 0;
  const set = (rule: LengthRule, how: string) =>
    getState().run(`Set the length of ${touched.what} to ${how}`, (p) => setLengths(p, touched.ids, rule));
  return (
    <Section name="lengths" title="Length" note={nothing ? '' : rangeText(hits.map((h) => readQuality(h, 'length')))}>
      <div className="flex flex-wrap items-baseline gap-1">
        <NumberField
          label="How long"
          value={count}
          min={unit === 'ms' ? 1 : 0.25}
          max={unit === 'ms' ? 10000 : 64}
          digits={unit === 'ms' ? 0 : 2}
          unit=""
          className="[&_input]:w-[3.4em]"
          onChange={setCount}
        />
        <Picker
          label="Unit of the length"
          value={unit}
          choices={UNITS}
          onChange={(next) => {
            setUnit(next);
            setCount(next === 'ms' ? 80 : 1);
          }}
        />
        <Button
          size="small"
          disabled={nothing}
          onClick={() =>
            set(
              unit === 'ms' ? { kind: 'ms', ms: count } : { kind: 'steps', grid: unit as GridName, count },
              `${count} ${unit === 'ms' ? 'ms' : `× ${unit}`}`,
            )
          }
        >
          Set
        </Button>
        <Button
          size="small"
          disabled={nothing}
          title="Each lasts until the next hit of its row begins"
          onClick={() => set({ kind: 'next' }, 'the next hit')}
        >
          To the next hit
        </Button>
      </div>
      <p className="mt-1 text-sm text-faint">
        {hits.length === 1 && hits[0] ? `${Math.round(lengthMs(part, hits[0]))} ms at this tempo. ` : ''}
        This length goes into MIDI files. Whether the sound rings or stops with the hit is set in the row’s menu.
      </p>
    </Section>
  );
}

/** @example rangeText([1, 2]) // '1 to 2 sixteenths' */
function rangeText(lengths: readonly number[]): string {
  let [low, high] = [Infinity, 0];
  for (const v of lengths) [low, high] = [Math.min(low, v), Math.max(high, v)];
  const n = (v: number): string => String(Math.round(v * 100) / 100);
  return low === high ? `${n(low)} ${n(low) === '1' ? 'sixteenth' : 'sixteenths'}` : `${n(low)} to ${n(high)} sixteenths`;
}
