'use client';

import { useState } from 'react';
import type { Onto } from '@/core/commands/copy';
import { labelOfRow } from '@/core/part/rows';
import { Button } from '@/ui/Button';
import { Picker } from '@/ui/Picker';
import { Section } from '@/ui/Section';
import { barsText, deleteSelection, duplicateSelection, repeatSelection, shiftSelection } from '../../actions/arrange';
import { copySelection, cutSelection, paste, pasteOnOpenRow, pasteOver } from '../../actions/clipboard';
import { rememberOnto } from '../../store/remembered';
import { useBench, useBenchStore } from '../../store/context';
import { FromTo } from './FromTo';
import { calmPart } from '../../store/derived';

/** Copying the selection and moving it over the grid. */
export function CopiesSection() {
  const store = useBenchStore();
  const none = useBench((s) => s.selection.size === 0);
  const grid = useBench((s) => s.view.grid);
  const onto = useBench((s) => s.ui.onto);
  const part = useBench(calmPart);
  const focus = useBench((s) => s.focus);
  const transport = useBench((s) => s.transport);
  // The loop's bars, until others are typed.
  const [typed, setTyped] = useState<{ from: number; to: number }>();
  const from = Math.min(typed?.from ?? transport.fromBar + 1, part.bars);
  const to = Math.min(typed?.to ?? transport.toBar, part.bars);
  const bars = { from: Math.min(from, to) - 1, to: Math.max(from, to) };
  return (
    <Section name="copies" title="Copies and shifts">
      <div className="flex flex-wrap gap-1">
        <Button size="small" disabled={none} onClick={() => repeatSelection(store)}>
          Repeat into the next bar
        </Button>
        <Button size="small" disabled={none} onClick={() => duplicateSelection(store)}>
          Duplicate after
        </Button>
        <Button size="small" disabled={none} onClick={() => copySelection(store)}>
          Copy
        </Button>
        <Button size="small" disabled={none} onClick={() => cutSelection(store)}>
          Cut
        </Button>
        <Button size="small" onClick={() => paste(store)}>
          Paste
        </Button>
        <Button
          size="small"
          disabled={!focus}
          title="Pastes to the places that the hits were copied from"
          onClick={() => pasteOnOpenRow(store)}
        >
          {focus ? `Paste on ${labelOfRow(part, focus).toLowerCase()}` : 'Paste on the open row'}
        </Button>
        <Button size="small" disabled={none} onClick={() => shiftSelection(store, -1)}>
          A {grid} left
        </Button>
        <Button size="small" disabled={none} onClick={() => shiftSelection(store, 1)}>
          A {grid} right
        </Button>
        <Button size="small" onClick={() => store.getState().setUi({ dialog: 'patterns' })}>
          Pattern book …
        </Button>
        <Button size="small" disabled={none} onClick={() => deleteSelection(store)}>
          Delete
        </Button>
      </div>
      <div className="mt-2 flex flex-wrap items-baseline gap-1 leading-8">
        Over bars{' '}
        <FromTo
          labels={['First bar to paste over', 'Last bar to paste over']}
          from={from}
          to={to}
          min={1}
          max={part.bars}
          onChange={(a, b) => setTyped({ from: a, to: b })}
        />
        <Button size="small" aria-label={`Paste over ${barsText(bars)}`} onClick={() => pasteOver(store, bars)}>
          Paste
        </Button>
      </div>
      <p className="leading-8">
        On steps that have a hit, copies{' '}
        <Picker
          label="Copies on steps that have a hit"
          value={onto}
          choices={[
            { value: 'replace', text: 'replace it' },
            { value: 'join', text: 'skip that step' },
          ]}
          onChange={(o) => {
            rememberOnto(o as Onto);
            store.getState().setUi({ onto: o as Onto });
          }}
        />
      </p>
      <p className="mt-2 text-sm text-faint">
        Shifts wrap around within the bars of the selection. A right click on empty ground pastes there.
      </p>
    </Section>
  );
}
