'use client';

import { counted } from '@/core/plurals';
import { useState } from 'react';
import { isFlat, type Placement } from '@/core/analysis/placement';
import { letterOf } from '@/core/analysis/phrase';
import { labelOfRow } from '@/core/part/rows';
import { Button } from '@/ui/Button';
import { Section, Sections } from '@/ui/Section';
import { barsText } from '../../actions/arrange';
import { openPage } from '../../actions/open-page';
import { useBench, useBenchStore } from '../../store/context';
import { calmPart } from '../../store/derived';
import { BetweenRows } from './BetweenRows';
import { BlindComparison } from './BlindComparison';
import { Charts } from './Charts';
import { LinesSection } from './LinesSection';
import { NearGrooves } from './NearGrooves';
import { readingOf } from '../../shared/reading';
import { RowTable } from './RowTable';
import { usePlacement } from '../../shared/use-placement';
import { useSelectRow } from './use-select-row';
import { WhatIsMeasured, type MeasuredVersion, type MeasuredChoice } from './WhatIsMeasured';

/** Where each row sits, in numbers that lead to a fix. */
export function PlacementPage() {
  const now = useBench(calmPart);
  const [wanted, setWanted] = useState<MeasuredChoice>({ kind: 'performed' });
  const other = wanted.kind === 'other' ? wanted.part : null;
  const part = other ?? now;
  const version: MeasuredVersion = wanted.kind === 'written' ? 'written' : 'performed';
  const found = usePlacement(part, version);
  const own = usePlacement(wanted.kind === 'performed' ? null : now, 'performed');
  if (!found) return <p role="status">Measuring {counted(part.hits.length, 'hit')} …</p>;
  return (
    <div className="space-y-4">
      <Reading found={found} fixes={other === null} />
      <WhatIsMeasured wanted={wanted} onChange={setWanted} />
      <Sections>
        <Section name="read" title="Lines" note={linesNote(found)}>
          {other ? <p className="text-sm text-faint">This section shows the current part only.</p> : <LinesSection lines={found.lines} />}
        </Section>
        <Section name="rows" title="Rows" note={`${found.rows.length}`}>
          <RowTable found={found} beside={wanted.kind === 'performed' ? null : own} />
        </Section>
        <Section name="chart" title="By place in the bar">
          {other ? <p className="text-sm text-faint">Hits are chosen from the part as it is now.</p> : <Charts found={found} />}
        </Section>
        <Section name="between" title="Between rows" note={found.competing.length > 0 ? `${found.competingCount} competing` : ''}>
          {other ? <p className="text-sm text-faint">This is about the part as it is now.</p> : <BetweenRows found={found} />}
        </Section>
        <Section name="alike" title="Similar bars" note={alikeNote(found)}>
          <Alike found={found} />
        </Section>
        <Section name="blind" title="Blind comparison" note="first or second">
          <BlindComparison />
        </Section>
        <Section name="nearest" title="Nearest grooves">
          <NearGrooves found={found} />
        </Section>
      </Sections>
    </div>
  );
}

/** The reading, and up to three next steps where it is the part itself that is read. */
function Reading({ found, fixes }: { found: Placement; fixes: boolean }) {
  const store = useBenchStore();
  const part = useBench((s) => s.part);
  const selectRow = useSelectRow();
  const flat = found.rows.filter(isFlat);
  const moves = part.feel.moves.length;
  const steps: [string, () => void][] = [];
  const [first] = flat;
  if (first) {
    steps.push([
      `give the ${labelOfRow(part, first.voice).toLowerCase()} dynamics`,
      () => {
        selectRow(first.voice);
        openPage(store, 'hits', 'dynamics');
      },
    ]);
  }
  if (moves === 0 && found.rows.every((r) => r.spreadMs < 1)) steps.push(['humanize', () => openPage(store, 'feel')]);
  if (found.competing.length > 0)
    steps.push([`see what competes (${found.competingCount})`, () => openPage(store, 'placement', 'between')]);
  else if (found.alike.some((g) => g.length > 3)) steps.push(['vary bars that repeat', () => openPage(store, 'bars', 'vary')]);
  return (
    <section aria-label="Reading" className="space-y-2">
      <p className="font-serif text-base leading-6" data-testid="reading">
        {readingOf(part, found).join(' ')}
      </p>
      {fixes && steps.length > 0 && (
        <p className="flex flex-wrap gap-1.5">
          {steps.slice(0, 3).map(([text, run]) => (
            <Button key={text} size="small" onClick={run}>
              {text}
            </Button>
          ))}
        </p>
      )}
    </section>
  );
}

const linesNote = ({ lines: { doubtful, swings } }: Placement): string =>
  [
    swings ? `swings ${swings.whole.percent.toFixed(0)} %` : '',
    doubtful.length > 0 ? `${doubtful.reduce((sum, g) => sum + g.hits.length, 0)} uncertain` : '',
  ]
    .filter(Boolean)
    .join(', ') || 'clear';

const alikeNote = ({ alike }: Placement): string => {
  const bars = alike.reduce((sum, g) => sum + g.length, 0);
  return bars === 0 ? 'none' : `${bars} bars`;
};

function Alike({ found }: { found: Placement }) {
  const store = useBenchStore();
  if (found.alike.length === 0)
    return <p className="text-sm text-faint">No two bars are similar within 12 % of a 1/16 and 12 velocities.</p>;
  return (
    <div className="space-y-2">
      <ul>
        {found.alike.map((group, i) => (
          <li key={group[0]} className="flex items-baseline gap-2">
            <span className="w-6 font-semibold">{letterOf(i)}</span>
            <span className="min-w-0 flex-1">
              {group.length > 12
                ? `${group.length} bars, the first is ${(group[0] as number) + 1}`
                : `bars ${group.map((b) => b + 1).join(', ')}`}
            </span>
            <Button
              size="tiny"
              aria-label={`Loop ${barsText({ from: group[0] as number, to: (group[0] as number) + 1 })}`}
              onClick={() => store.getState().setTransport({ loop: true, fromBar: group[0] as number, toBar: (group[0] as number) + 1 })}
            >
              Loop one
            </Button>
          </li>
        ))}
      </ul>
      <Button size="small" onClick={() => openPage(store, 'bars', 'vary')}>
        Vary them …
      </Button>
    </div>
  );
}
