'use client';

import clsx from 'clsx';
import { newIdInPart } from '@/editing/ids';
import { addSection, nextName } from '@/core/commands/sections';
import type { Part } from '@/core/model/part';
import { barsOf } from '@/core/part/sections';
import { barsText } from '../../actions/arrange';
import { useBench, useBenchStore } from '../../store/context';
import { calmPart } from '../../store/derived';
import { SectionPicture } from './SectionPicture';

/** So many cells are shown at most: a long part has wider ones. */
const MOST_CELLS = 24;

/** Some bars of the part, and what section has any of them. */
interface BarCell {
  from: number;
  to: number;
  section: string | null;
}

/**
 * The bars of a part in stretches as long as sections usually are.
 * @example a part of four bars: [{ from: 0, to: 1, section: null }, ...]
 */
export function barCells({ bars, sections = [] }: Pick<Part, 'bars' | 'sections'>): BarCell[] {
  let each = bars <= 4 ? 1 : bars <= 16 ? 2 : 4;
  while (bars / each > MOST_CELLS) each *= 2;
  const taken = sections.map((s) => ({ ...barsOf(s), name: s.name }));
  const cells: BarCell[] = [];
  for (let from = 0; from < bars; from += each) {
    const to = Math.min(bars, from + each);
    cells.push({ from, to, section: taken.find((s) => s.from < to && s.to > from)?.name ?? null });
  }
  return cells;
}

/** The bars of the part as cells, which stay where they are: a click makes a section of one. */
export function BarCells() {
  const { getState } = useBenchStore();
  const part = useBench(calmPart);
  const name = nextName(part.sections);
  return (
    <div role="group" aria-label="Bars and their sections" className="grid grid-cols-[repeat(auto-fill,minmax(6.4rem,1fr))] gap-2">
      {barCells(part).map(({ from, to, section }) => (
        <button
          key={from}
          type="button"
          disabled={section !== null}
          aria-label={section === null ? `New section: ${barsText({ from, to })}` : `${barsText({ from, to })}: ${section}`}
          title={section === null ? `Make these bars the section “${name}”` : undefined}
          className={clsx(
            'rounded border px-1.5 py-1 text-left text-xs',
            section === null
              ? 'border-dashed border-strong bg-surface text-faint hover:border-solid hover:bg-sunk hover:text-ink'
              : 'border-line bg-sunk text-ink',
          )}
          onClick={() => getState().run(`Make a section of ${barsText({ from, to })}`, (p) => addSection(p, newIdInPart(), from, to))}
        >
          <SectionPicture part={part} section={{ id: `${from}`, name: '', from: from + 1, bars: to - from }} />
          <span className="block truncate">{section ?? barsText({ from, to })}</span>
        </button>
      ))}
    </div>
  );
}
