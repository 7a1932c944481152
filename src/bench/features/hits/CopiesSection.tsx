'use client';

import type { Onto } from '@/core/commands/copy';
import { Button } from '@/ui/Button';
import { Picker } from '@/ui/Picker';
import { Section } from '@/ui/Section';
import { deleteSelection, duplicateSelection, repeatSelection, shiftSelection } from '../../actions/arrange';
import { copySelection, cutSelection, paste } from '../../actions/clipboard';
import { rememberOnto } from '../../store/remembered';
import { useBench, useBenchStore } from '../../store/context';

/** Copying the selection and moving it over the grid. */
export function CopiesSection() {
  const store = useBenchStore();
  const none = useBench((s) => s.selection.size === 0);
  const grid = useBench((s) => s.view.grid);
  const onto = useBench((s) => s.ui.onto);
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
      <p className="mt-2 leading-8">
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
