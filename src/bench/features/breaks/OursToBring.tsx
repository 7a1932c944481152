'use client';

import { newIdInPart } from '@/editing/ids';
import { OWN_BREAKS, withOwnBreak } from '@/demo/own-breaks';
import { keepOwnBreak } from '@/storage/own-recordings';
import { sayWith, showError } from '@/ui/notify';
import { Picker } from '@/ui/Picker';
import { useBenchStore } from '../../store/context';

/** The breaks that come along, to be brought in. */
export function OursToBring() {
  const { getState } = useBenchStore();
  const bring = async (id: string) => {
    const of = OWN_BREAKS.find((b) => b.id === id);
    if (!of) return;
    await keepOwnBreak(of);
    getState().run(`Import ${of.name}`, (p) => withOwnBreak(p, of, newIdInPart()));
    getState().setUi({ breakShown: true });
    sayWith(`${of.name} is under the part, on its own rows.`, 'Undo', () => getState().undo());
  };
  return (
    <span>
      or{' '}
      <Picker
        label="Built-in break"
        value=""
        placeholder="built-in"
        choices={OWN_BREAKS.map((b) => ({ value: b.id, text: b.name }))}
        onChange={(id) => void bring(id).catch(showError)}
      />
    </span>
  );
}
