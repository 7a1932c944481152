import { counted } from '@/core/plurals';
import { fromZero } from '@/core/commands/excerpt';
import { PART_FILE_ENDING, writePartFile } from '@/formats/part-file';
import { wholeParts } from '@/storage/whole-part';
import { soundsUsed } from '@/sounds/used';
import { fileNameOf } from '@/ui/download';
import type { ExporterSpec } from './exporter';

export const wholePart: ExporterSpec<object> = {
  id: 'file',
  title: 'the part with everything',
  about: `as ${PART_FILE_ENDING}, with feel, nudges, ghosts, versions, takes and ideas, to open here again`,
  isAvailable: () => true,
  isQuick: true,
  initial: () => ({}),
  async run({ id, part: source, isIdea }) {
    // What the store has of it, with the part as it stands here.
    const whole = isIdea ? { part: fromZero(source) } : await wholeParts.read(id, source);
    const { part, song, versions = [], takes = [], ideas = [] } = whole;
    const also = (n: number, what: string) => (n > 0 ? `, ${counted(n, what)}` : '');
    return {
      data: writePartFile(whole),
      fileName: `${fileNameOf(part.name)}${PART_FILE_ENDING}`,
      type: 'application/json',
      said: [
        `Wrote the whole part with its feel${also(versions.length, 'version')}${also(takes.length, 'take')}${also(ideas.length, 'idea')}${song ? ' and the imported song' : ''}.`,
        ...(soundsUsed(part).length > 0
          ? ['Its own sounds are a separate file: export them too if the part goes to another browser.']
          : []),
        ...(part.breaks
          ? ['The recordings of its breaks are not included. In the other browser, drop the same files once and its rows find them.']
          : []),
      ],
    };
  },
};
