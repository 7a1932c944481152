import { fromZero } from '@/core/commands/excerpt';
import { PART_FILE_ENDING, writePartFile } from '@/formats/part-file';
import { takesOf } from '@/core/take/use-take';
import { takeStore } from '@/storage/take-store';
import { partStore } from '@/storage/part-store';
import { versionStore } from '@/storage/version-store';
import { soundsUsed } from '@/sounds/used';
import { fileNameOf } from '@/ui/download';
import type { ExporterSpec } from './exporter';

export const wholePart: ExporterSpec<object> = {
  id: 'file',
  title: 'the part with everything',
  about: `as ${PART_FILE_ENDING}, with feel, nudges, ghosts, versions and takes, to open here again`,
  isAvailable: () => true,
  isQuick: true,
  initial: () => ({}),
  async run({ id, part: source, hasSong, isIdea }) {
    const part = isIdea ? fromZero(source) : source;
    const song = hasSong ? await partStore.song(id) : undefined;
    const versions = isIdea ? [] : await versionStore.list(id);
    const takes = isIdea ? [] : takesOf(source, await takeStore.list(id), (t) => t.take.id);
    const kept = versions.length > 0 ? `, ${versions.length} ${versions.length === 1 ? 'version' : 'versions'}` : '';
    return {
      data: writePartFile({ part, versions, takes, ...(song ? { song } : {}) }),
      fileName: `${fileNameOf(part.name)}${PART_FILE_ENDING}`,
      type: 'application/json',
      said: [`Wrote the whole part with its feel${kept}${takes.length > 0 ? `, ${takes.length} ${takes.length === 1 ? 'take' : 'takes'}` : ''}${song ? ' and the imported song' : ''}.`, ...(soundsUsed(part).length > 0 ? ['Its own sounds are a file by themselves: export them too where it goes to another browser.'] : []), ...(part.breaks ? ['The recordings of its breaks are not in it: where it goes, drop the same files once, and its rows find them.'] : [])],
    };
  },
};
