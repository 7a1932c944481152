import { ideaNumber } from '../../words/idea-words';
import { say, showError } from '@/ui/notify';
import type { BenchState, BenchStore } from '../../store/bench-store';
import { deliver } from '@/ui/deliver';
import { EXPORTERS, offeredOf, optionsOf } from './all';
import type { ExportSource } from './exporter';
import { rememberedExport } from './remembered';

/** What is open on the Bench, as it is taken out. */
export function sourceOf({ id, part, hasSong, idea, ideas, selection }: BenchState): ExportSource {
  const letter = ideas.find((i) => i.id === idea)?.letter;
  return letter === undefined
    ? { id, part, hasSong, selection }
    : { id, part: { ...part, name: `${part.name}, idea ${ideaNumber(letter)}` }, hasSong: false, isIdea: true, selection };
}

/** Does the last export again, with the part as it is now and no dialog; where there was none, the dialog asks. */
export async function exportAgain(store: BenchStore): Promise<void> {
  const source = sourceOf(store.getState());
  const { chosen, options } = rememberedExport(source.id, optionsOf(EXPORTERS, source));
  const exporter = offeredOf(EXPORTERS, source).find((e) => e.id === chosen);
  if (!exporter) return store.getState().setUi({ dialog: 'export' });
  try {
    const refusal = exporter.refusal?.(source, options);
    if (refusal) return say(refusal);
    const exported = await exporter.run(source, options, { signal: new AbortController().signal, onProgress: () => {} });
    say(exported.empty ?? (await deliver(exported)));
  } catch (e) {
    showError(e);
  }
}
