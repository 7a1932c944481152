import { layerBreak, removeBreak } from '@/core/breaks/edit';
import { MOST_BREAKS, type Break } from '@/core/model/break';
import { bringBreak } from '@/breaks/bring-break';
import { say, sayWith, showError } from '@/ui/notify';
import type { BenchStore } from '../store/bench-store';

/** What else could be done with a file, beside the message. */
interface Instead {
  words: string;
  choose: () => void;
}

/** Brings a recording in under the part that is open, from its first bar on; the strip over the stems listens to it. */
export async function bringUnder(store: BenchStore, file: File, instead?: Instead): Promise<void> {
  say(`Reading ${file.name} …`);
  try {
    const { of, notes } = await bringBreak(file, new AbortController().signal);
    layer(store, of, notes, instead);
  } catch (e) {
    showError(e);
  }
}

/** Puts a break under the part: one step. */
export function layer({ getState }: BenchStore, of: Break, notes: readonly string[] = [], instead?: Instead): void {
  const { part, run, setUi } = getState();
  if ((part.breaks?.length ?? 0) >= MOST_BREAKS) return say(`A part has at most ${MOST_BREAKS} breaks: delete one first.`);
  run(`Import ${of.name}`, (p) => layerBreak(p, of));
  setUi({ page: 'breaks', breakShown: true });
  const said = [`${of.name} is under the part, on its own rows.`, ...notes].join(' ');
  if (!instead) return sayWith(said, 'Undo', () => getState().undo());
  sayWith(said, `Use it ${instead.words}`, () => {
    getState().run(`Delete ${of.name}`, (p) => removeBreak(p, of.id));
    instead.choose();
  });
}
