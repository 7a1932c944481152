'use client';

import { counted } from '@/core/plurals';
import { newHitId } from '@/editing/ids';
import { useState } from 'react';
import { patternOf, putPattern, type PatternPlace, type PutPattern } from '@/core/commands/patterns';
import { hitsInRange, rangeOfBars } from '@/core/homes/ticks-range';
import type { HitId, Part } from '@/core/model/part';
import type { HitPattern } from '@/core/model/pattern';
import { labelOfRow } from '@/core/part/rows';
import { sectionAt } from '@/core/part/sections';
import { PATTERN_FILE_ENDING, writePatternFile } from '@/formats/pattern-format';
import { patternStore } from '@/storage/pattern-store';
import { useStored } from '@/storage/use-stored';
import type { LibraryItem } from '@/ui/KeptList';
import { LibraryDialog } from '@/ui/LibraryDialog';
import { say } from '@/ui/notify';
import { Picker } from '@/ui/Picker';
import { barsText } from '../actions/arrange';
import { useBench, useBenchStore } from '../store/context';

interface Item extends LibraryItem {
  pattern: HitPattern;
}

const OWN_ROW = 'its own row';

/** @example aboutPattern(pattern) // '12 hits, 2 rows, 4/4' */
const aboutPattern = ({ hits, rows, meter }: HitPattern): string => {
  const count = Object.keys(rows).length;
  return `${counted(hits.length, 'hit')}, ${count === 1 ? Object.values(rows)[0]?.toLowerCase() : `${count} rows`}, ${meter.join('/')}`;
};

/** What may be kept of the part as it stands. */
function sourcesOf(
  part: Part,
  selection: ReadonlySet<HitId>,
  focus: string | null,
  from: number,
  to: number,
): { id: string; text: string; name: string; ids: ReadonlySet<HitId> }[] {
  const inLoop = hitsInRange(part, rangeOfBars(part, from, to));
  const section = sectionAt(part, from);
  const bars = barsText({ from, to });
  const ofRow = new Set(part.hits.filter((h) => h.voice === focus && inLoop.has(h.id)).map((h) => h.id));
  return [
    ...(selection.size > 0 ? [{ id: 'selection', text: 'the selected hits', name: 'My pattern', ids: selection }] : []),
    ...(focus && ofRow.size > 0
      ? [{ id: 'row', text: `the row ${labelOfRow(part, focus).toLowerCase()} in ${bars}`, name: labelOfRow(part, focus), ids: ofRow }]
      : []),
    ...(section
      ? [
          {
            id: 'section',
            text: `the section ${section.name}`,
            name: section.name,
            ids: hitsInRange(part, rangeOfBars(part, section.from - 1, section.from - 1 + section.bars)),
          },
        ]
      : []),
    { id: 'bars', text: bars, name: bars, ids: inLoop },
  ];
}

/** The pattern book: hits kept under a name, put into any part at any tempo and meter, heard before they are taken. */
export default function PatternsDialog() {
  const { getState } = useBenchStore();
  const part = useBench((s) => s.part);
  const selection = useBench((s) => s.selection);
  const focus = useBench((s) => s.focus);
  const from = useBench((s) => s.transport.fromBar);
  const to = useBench((s) => s.transport.toBar);
  const own = (useStored(() => patternStore.list(), []) ?? []).map(({ name, pattern }): Item => ({
    name,
    pattern,
    about: aboutPattern(pattern),
  }));
  const sources = sourcesOf(part, selection, focus, from, to);
  const [chosen, setChosen] = useState(sources[0]?.id ?? 'bars');
  const source = sources.find((s) => s.id === chosen) ?? sources[0];
  const [row, setRow] = useState(OWN_ROW);
  const close = () => getState().setUi({ dialog: null });
  const made = (name: string): HitPattern | null => (source ? patternOf(part, source.ids, name) : null);

  const put = ({ pattern, name }: Item, way: PatternPlace['way']) => {
    close();
    const edit = getState().open(`Paste ${name} at bar ${from + 1}`, 'trial');
    let result: PutPattern | null = null;
    edit.preview((p) => (result = putPattern(p, pattern, { bar: from, way, ...(row === OWN_ROW ? {} : { row }) }, newHitId)).part);
    say(putWords(result, name));
  };
  const rows = [{ value: OWN_ROW, text: OWN_ROW }, ...part.rows.map((r) => ({ value: r.voice, text: labelOfRow(part, r.voice) }))];
  return (
    <LibraryDialog<Item>
      title="Pattern book"
      about="Hits saved under a name. Place them at the loop’s first bar to hear them at once, then apply or cancel above the rows."
      what="pattern"
      ours={[]}
      own={own}
      uses={[
        {
          word: 'beside',
          label: (name) => `Paste ${name} beside what is there`,
          title: 'Keeps what is there and fills free steps only',
          run: (item) => put(item, 'beside'),
        },
        {
          word: 'instead',
          label: (name) => `Paste ${name} instead of what is there`,
          title: 'Clears its rows in these bars first',
          run: (item) => put(item, 'instead'),
        },
      ]}
      name={source?.name ?? 'My pattern'}
      canKeep={source !== undefined && source.ids.size > 0}
      keep={(name) => patternStore.save({ name, pattern: made(name) as HitPattern })}
      rename={(item, name) => patternStore.rename(item, name)}
      remove={(item) => patternStore.remove(item)}
      file={(item, name) => ({ text: writePatternFile(item?.pattern ?? (made(name) as HitPattern)), ending: PATTERN_FILE_ENDING })}
      onClose={close}
    >
      <p className="leading-8">
        Keep{' '}
        <Picker
          label="What is kept"
          value={source?.id ?? ''}
          choices={sources.map((s) => ({ value: s.id, text: s.text }))}
          onChange={setChosen}
        />
        . A pattern of one row goes onto <Picker label="Row that it goes onto" value={row} choices={rows} onChange={setRow} />
      </p>
    </LibraryDialog>
  );
}

/** What was covered, and what did not find room. */
function putWords(put: PutPattern | null, name: string): string {
  if (!put) return '';
  const gone = put.cleared + put.replaced;
  const words = [
    `${name}: ${counted(put.ids.length, 'hit')}`,
    gone > 0 && `in place of ${gone}`,
    put.leftOut > 0 && `${put.leftOut} left out, since a hit stands there: “instead” takes its place`,
  ].filter(Boolean);
  return `${words.join(', ')}.`;
}
