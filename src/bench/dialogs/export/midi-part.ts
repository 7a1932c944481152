import type { Part } from '@/core/model/part';
import { exportPart } from '@/core/smf/export-part';
import { roundOfSection, roundsOfBars, roundsOfOrder } from '@/core/song/unroll';
import { fileNameOf } from '@/ui/download';
import { uniqueName } from '@/ui/unique-name';
import { account, drawnWords } from './account';
import type { ExporterSpec } from './exporter';
import { FileChoices, firstFile, type FileOptions, type Stretch } from './midi-options';

export const midiPart: ExporterSpec<FileOptions> = {
  id: 'part',
  title: 'the drum part alone',
  about: 'as a standard MIDI file, drums on channel 10',
  isAvailable: () => true,
  initial: firstFile,
  Options: FileChoices,
  async run({ part, isIdea }, { version, withMuted, generalMidi, ppq, early, stretch }) {
    const written = version === 'written';
    const options = { written, ppq, early, withMuted, generalMidi };
    if (stretch === 'sections' && part.sections) {
      const { zipSync } = await import('fflate');
      const names = new Set<string>();
      const files = part.sections.map((section) => [`${uniqueName(fileNameOf(section.name), names)}.mid`, exportPart(part, { ...options, rounds: [roundOfSection(section)] }).bytes] as const);
      return { data: zipSync(Object.fromEntries(files)), fileName: `${fileNameOf(part.name)}-sections.zip`, type: 'application/zip', said: [`Wrote ${files.length} sections, each as a file.`] };
    }
    const result = exportPart(part, { ...options, ...(isIdea ? { rounds: roundsOfBars(0, part.bars, 1) } : { order: stretch === 'order' }) });
    return { data: result.bytes, fileName: `${fileNameOf(part.name)}${written ? '-written' : ''}.mid`, type: 'audio/midi', said: [...orderSaid(part, stretch), ...account(result, part, { song: false, written })] };
  },
};

/** What was written of the order, and what of chance and cycles. */
function orderSaid(part: Part, stretch: Stretch): string[] {
  const rounds = stretch === 'order' ? roundsOfOrder(part).length : 0;
  return [...(rounds > 0 ? [`Unrolled the running order: ${rounds} ${rounds === 1 ? 'entry' : 'entries'}, marked by ${rounds === 1 ? 'its section' : 'their sections'}.`] : []), ...drawnWords(part, rounds > 0)];
}
