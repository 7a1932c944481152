'use client';

import { counted } from '@/core/plurals';
import { useStore } from 'zustand';
import { MAX_BPM, MIN_BPM } from '@/core/units';
import type { PartRow } from '@/storage/database';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { isWhole, metersOf, shelfView, tagsOf, WHOLE_SHELF, type ShelfOrder } from './arrange';

const ORDERS: readonly [ShelfOrder, string][] = [
  ['changed', 'last changed first'],
  ['name', 'by name'],
  ['tempo', 'slowest first'],
];

/** Which parts are seen and how they are ordered, in words that are pressed. */
export function ShelfLine({ rows, shown }: { rows: readonly PartRow[]; shown: number }) {
  const view = useStore(shelfView);
  const { meter, tempo, order, tags } = view;
  const set = shelfView.setState;
  const [meters, known] = [metersOf(rows), tagsOf(rows)];
  return (
    <div className="mb-3 flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <span data-testid="shelf-count">
        {shown === rows.length ? `${counted(rows.length, 'part')}` : `${shown} of ${rows.length} parts`}
      </span>
      <Words label="Order" words={ORDERS.map(([value, text]) => ({ text, on: order === value, press: () => set({ order: value }) }))} />
      {meters.length > 1 && (
        <Words
          label="Meter"
          before="in"
          words={meters.map((m) => ({ text: m, on: meter === m, press: () => set({ meter: meter === m ? null : m }) }))}
        />
      )}
      <span className="whitespace-nowrap">
        <span className="text-faint">from</span>{' '}
        <NumberField
          label="Slowest"
          value={tempo.from}
          min={MIN_BPM}
          max={MAX_BPM}
          unit="BPM"
          default={MIN_BPM}
          onChange={(from) => set({ tempo: { from, to: Math.max(from, tempo.to) } })}
        />{' '}
        <span className="text-faint">to</span>{' '}
        <NumberField
          label="Fastest"
          value={tempo.to}
          min={MIN_BPM}
          max={MAX_BPM}
          unit="BPM"
          default={MAX_BPM}
          onChange={(to) => set({ tempo: { from: Math.min(to, tempo.from), to } })}
        />
      </span>
      {known.length > 0 && (
        <Words
          label="Tags"
          before="tagged"
          words={known.map((t) => ({
            text: t,
            on: tags.includes(t),
            press: () => set({ tags: tags.includes(t) ? tags.filter((o) => o !== t) : [...tags, t] }),
          }))}
        />
      )}
      {!isWhole(view) && (
        <Button size="small" onClick={() => set({ ...WHOLE_SHELF, order })}>
          Show all
        </Button>
      )}
    </div>
  );
}

interface Word {
  text: string;
  on: boolean;
  press: () => void;
}

/** Words side by side, those that hold in full ink. */
function Words({ label, before, words }: { label: string; before?: string; words: readonly Word[] }) {
  return (
    <span role="group" aria-label={label} className="flex flex-wrap items-baseline gap-0.5">
      {before && <span className="mr-0.5 text-faint">{before}</span>}
      {words.map(({ text, on, press }) => (
        <button
          key={text}
          type="button"
          aria-pressed={on}
          onClick={press}
          className="rounded px-1.5 py-0.5 text-faint hover:bg-sunk hover:text-ink aria-pressed:bg-sunk aria-pressed:text-ink aria-pressed:underline aria-pressed:decoration-accent aria-pressed:decoration-2 aria-pressed:underline-offset-4 pointer-coarse:py-1.5"
        >
          {text}
        </button>
      ))}
    </span>
  );
}
