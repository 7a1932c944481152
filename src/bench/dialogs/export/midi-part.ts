import { exportPart } from '@/core/smf/export-part';
import { fileNameOf } from '@/ui/download';
import { account } from './account';
import type { ExporterSpec } from './exporter';
import { FileChoices, firstFile, type FileOptions } from './midi-options';

export const midiPart: ExporterSpec<FileOptions> = {
  id: 'part',
  title: 'the drum part alone',
  about: 'as a standard MIDI file, drums on channel 10',
  isAvailable: () => true,
  initial: firstFile,
  Options: FileChoices,
  async run({ part }, { version, withMuted, generalMidi, ppq, early }) {
    const written = version === 'written';
    const result = exportPart(part, { written, ppq, early, withMuted, generalMidi });
    return { data: result.bytes, fileName: `${fileNameOf(part.name)}${written ? '-written' : ''}.mid`, type: 'audio/midi', said: account(result, part, { song: false, written }) };
  },
};
