import type { Part } from '@/core/part/part';
import { PART_FILE_ENDING, writePartFile } from '@/formats/part-file';
import { partStore } from '@/storage/part-store';
import { download, fileNameOf } from './download';

/** Hands a part that the store does not take to the user as a part file, with its song where that can still be read. */
export async function savePartFile(id: string, part: Part): Promise<void> {
  const song = await partStore.song(id).catch(() => undefined);
  download(writePartFile({ part, ...(song ? { song } : {}) }), `${fileNameOf(part.name)}${PART_FILE_ENDING}`, 'application/json');
}
